"""The practice's price list, invoices with their lines, what was paid, and hours that somebody worked."""

from decimal import Decimal

from django.db import models
from django.db.models import Q

from practice.firm.crypto import SealedField
from practice.firm.scope import FirmOwned

ZERO = Decimal("0.00")


class Per(models.TextChoices):
    RETURN = "return", "each return"
    AUTHORITY = "authority", "each further authority"
    FORM = "form", "each form"
    PAPER = "paper", "each paper"
    HOUR = "hour", "each hour"
    FIXED = "fixed", "fixed, added by hand"
    DISCOUNT = "discount", "discount in percent, added by hand"


class Price(FirmOwned):
    """One price of the list. `code`: which form, kind of paper or authority, empty for any; the first `included` are free. A
    price is never changed: it ends, and another one begins, so that an invoice can always name the one it has."""

    pack = models.CharField(max_length=8)
    per = models.CharField(max_length=9, choices=Per)
    code = models.CharField(max_length=60, blank=True)
    name = models.CharField(max_length=80)
    amount = models.DecimalField(max_digits=9, decimal_places=2)  # money, or percent of a discount
    included = models.PositiveSmallIntegerField(default=0)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.CheckConstraint(condition=Q(per__in=Per.values), name="price_kind_is_known"),
            models.CheckConstraint(condition=Q(amount__gt=0), name="price_is_positive"),
            models.UniqueConstraint(fields=["firm", "pack", "per", "name"], name="price_once", condition=Q(ended_at=None)),
        ]

    def __str__(self):
        return self.name


class Hours(FirmOwned):
    """Time that somebody worked on a return. `invoice` is the one that bills it."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="hours")
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    day = models.DateField()
    minutes = models.PositiveSmallIntegerField()
    words = models.CharField(max_length=120)
    at = models.DateTimeField(auto_now_add=True)
    removed_at = models.DateTimeField(null=True)
    invoice = models.ForeignKey("fees.Invoice", on_delete=models.PROTECT, null=True, related_name="hours")

    class Meta:
        ordering = ["day", "id"]
        constraints = [models.CheckConstraint(condition=Q(minutes__gt=0, minutes__lte=1440), name="hours_of_a_day")]

    def __str__(self):
        return f"{self.minutes} minutes, {self.words}"


class Invoice(FirmOwned):
    """What one return costs its client. A draft until it has a number; then only payments and a voiding are added."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="invoices")
    household = models.ForeignKey("clients.Household", on_delete=models.PROTECT, related_name="invoices")
    number = models.CharField(max_length=16, blank=True)
    to = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    words = models.CharField(max_length=600, blank=True)
    total = models.DecimalField(max_digits=11, decimal_places=2, default=ZERO)
    paid = models.DecimalField(max_digits=11, decimal_places=2, default=ZERO)
    made_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    sent_on = models.DateField(null=True)
    due = models.DateField(null=True)
    sent_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    reminded_on = models.DateField(null=True)
    voided_at = models.DateTimeField(null=True)
    voided_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    void_why = models.CharField(max_length=200, blank=True)
    file = models.CharField(max_length=120, blank=True)  # the PDF as it was sent
    asked_at = models.DateTimeField(null=True)
    trouble = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["firm", "number"], name="invoice_number_once", condition=~Q(number="")),
            models.UniqueConstraint(fields=["of"], name="one_draft_of_a_return", condition=Q(number="", voided_at=None)),
        ]
        indexes = [models.Index(fields=["firm", "due"], name="invoice_by_due", condition=Q(voided_at=None))]

    def __str__(self):
        return f"invoice {self.number}" if self.number else "draft invoice"

    @property
    def open(self):
        """What is still owed; less than zero where more was paid."""
        return self.total - self.paid


class Line(FirmOwned):
    """One line of an invoice. `of_price` is the price that it counts; a line that somebody wrote or changed is `by_hand`."""

    way_to_client = "invoice__household"

    invoice = models.ForeignKey(Invoice, on_delete=models.CASCADE, related_name="lines")
    position = models.PositiveSmallIntegerField()
    text = models.CharField(max_length=120)
    quantity = models.DecimalField(max_digits=7, decimal_places=2)
    price = models.DecimalField(max_digits=9, decimal_places=2)
    amount = models.DecimalField(max_digits=11, decimal_places=2)
    percent = models.BooleanField(default=False)  # a discount: `price` is percent of the lines above
    of_price = models.ForeignKey(Price, on_delete=models.PROTECT, null=True, related_name="+")
    by_hand = models.BooleanField(default=False)

    class Meta:
        ordering = ["position", "id"]

    def __str__(self):
        return self.text


class Manner(models.TextChoices):
    GATEWAY = "gateway", "online"
    CHECK = "check", "check"
    TRANSFER = "transfer", "bank transfer"
    CASH = "cash", "cash"
    OTHER = "other", "otherwise"


class Checkout(FirmOwned):
    """A payment that a client began with the payment service. The row comes first: its key makes sure that asking the service
    twice pays once."""

    class State(models.TextChoices):
        OPEN = "open", "begun"
        PAID = "paid", "paid"
        DECLINED = "declined", "declined"
        ENDED = "ended", "ended"

    way_to_client = "invoice__household"

    invoice = models.ForeignKey(Invoice, on_delete=models.PROTECT, related_name="checkouts")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    key = models.CharField(max_length=40, unique=True)
    amount = models.DecimalField(max_digits=11, decimal_places=2)
    name = models.CharField(max_length=40, blank=True)  # the service's own
    url = SealedField(blank=True)
    state = models.CharField(max_length=8, choices=State, default=State.OPEN)
    made_at = models.DateTimeField(auto_now_add=True)

    def __str__(self):
        return f"{self.amount} for {self.invoice}"


class Payment(FirmOwned):
    """Money that came for an invoice. What was recorded by mistake is taken back with a reason, never removed."""

    way_to_client = "invoice__household"

    invoice = models.ForeignKey(Invoice, on_delete=models.PROTECT, related_name="payments")
    amount = models.DecimalField(max_digits=11, decimal_places=2)
    day = models.DateField()
    manner = models.CharField(max_length=8, choices=Manner)
    reference = models.CharField(max_length=60, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    checkout = models.OneToOneField(Checkout, on_delete=models.PROTECT, null=True, related_name="payment")
    at = models.DateTimeField(auto_now_add=True)
    back_at = models.DateTimeField(null=True)
    back_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    back_why = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["day", "id"]
        constraints = [models.CheckConstraint(condition=Q(amount__gt=0), name="payment_is_positive")]

    def __str__(self):
        return f"{self.amount} on {self.day}"
