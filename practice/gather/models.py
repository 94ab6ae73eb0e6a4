"""Requests with their items, what clients send, letters with their texts, messages."""

from django.db import models
from django.db.models import Q

from practice.firm.crypto import SealedField
from practice.firm.scope import FirmOwned


class Kind(models.TextChoices):
    DOCUMENT = "document", "Document"
    QUESTION = "question", "Question"
    SURVEY = "survey", "Questionnaire"  # the plain questions of the guided entry, one item for all of them


class Usual(FirmOwned):
    """Something that the practice asks of every client of a kind of return, besides what last year's papers call for."""

    pack = models.CharField(max_length=8)
    kind = models.CharField(max_length=8, choices=Kind)
    text = models.CharField(max_length=160)
    help = models.CharField(max_length=300, blank=True)
    after = models.CharField(max_length=24, blank=True)  # only for those who said yes to that question
    position = models.PositiveSmallIntegerField(default=0)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["position", "id"]
        constraints = [models.CheckConstraint(condition=Q(kind__in=Kind.values), name="usual_kind_is_known")]

    def __str__(self):
        return self.text


class Request(FirmOwned):
    """What one client is asked for one return. Its items can be added to; it is sent again as often as needed.

    Reminders go out by themselves, `every` so many days (0: none), the next one on `remind_on`; without that day none follows.
    """

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="requests")
    word = models.CharField(max_length=600, blank=True)  # a line of the office, above the items
    due = models.DateField(null=True)
    every = models.PositiveSmallIntegerField(default=7)
    remind_on = models.DateField(null=True)
    reminded = models.PositiveSmallIntegerField(default=0)
    reminded_on = models.DateField(null=True)
    made_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    sent_to = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    sent_on = models.DateField(null=True)  # the practice's day; empty while it is a draft
    closed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]
        constraints = [models.UniqueConstraint(fields=["of"], name="one_open_request", condition=Q(closed_at=None))]
        indexes = [models.Index(fields=["firm", "remind_on"], name="request_by_reminder", condition=Q(remind_on__isnull=False))]

    def __str__(self):
        return f"{self.of}, asked {self.sent_on or 'not yet'}"


class Turn(models.TextChoices):
    CLIENT = "client", "asked"
    OFFICE = "office", "new"
    DONE = "done", "done"
    WITHDRAWN = "withdrawn", "not asked any more"


class Reply(models.TextChoices):
    FILES = "files", "sent"
    ANSWER = "answer", "answered"
    NOT_SO = "not-so", "does not apply"
    BACK = "back", "asks back"


class Item(FirmOwned):
    """One thing asked for: whose `turn` it is, the client's last `reply` with the words to it, and what the office said to that.

    `paper` is the paper of this return that it is for; `mark` what it was made from, so that it is not asked for twice.
    """

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="items")
    request = models.ForeignKey(Request, on_delete=models.PROTECT, related_name="items")
    kind = models.CharField(max_length=8, choices=Kind)
    text = models.CharField(max_length=160)
    help = models.CharField(max_length=300, blank=True)
    paper = models.ForeignKey("returns.Paper", on_delete=models.PROTECT, null=True, related_name="+")
    mark = models.CharField(max_length=60, blank=True)
    after = models.CharField(max_length=24, blank=True)  # as of Usual
    position = models.PositiveSmallIntegerField(default=0)
    turn = models.CharField(max_length=9, choices=Turn, default=Turn.CLIENT)
    reply = models.CharField(max_length=6, choices=Reply, blank=True)
    words = SealedField(blank=True)
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    replied_at = models.DateTimeField(null=True)
    again = models.CharField(max_length=300, blank=True)  # why it is asked for again, or the office's reply to a question
    settled_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    settled_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["position", "id"]
        constraints = [
            models.UniqueConstraint(fields=["request", "mark"], name="asked_for_once", condition=~Q(mark="")),
            models.CheckConstraint(condition=Q(kind__in=Kind.values), name="item_kind_is_known"),
            models.CheckConstraint(condition=Q(turn__in=Turn.values), name="item_turn_is_known"),
        ]
        indexes = [models.Index(fields=["of", "turn"], name="item_by_turn")]

    def __str__(self):
        return self.text


class Told(FirmOwned):
    """A client's answer to one question of the questionnaire: yes, no, or not sure. The newest counts. `taken_by` took it
    over."""

    way_to_client = "item__of__household"

    item = models.ForeignKey(Item, on_delete=models.PROTECT, related_name="told")
    key = models.CharField(max_length=24)
    yes = models.BooleanField(null=True)
    words = SealedField(blank=True)
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)
    taken_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    taken_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["item", "key"], name="told_once")]

    def __str__(self):
        return f"{self.key}: {'not sure' if self.yes is None else 'yes' if self.yes else 'no'}"


class Upload(FirmOwned):
    """A file that a client sent for an item; its pages lie with the return like all others."""

    way_to_client = "item__of__household"

    item = models.ForeignKey(Item, on_delete=models.PROTECT, related_name="uploads")
    attachment = models.OneToOneField("intake.Attachment", on_delete=models.PROTECT, related_name="upload")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self):
        return f"{self.attachment} for {self.item}"


class Message(FirmOwned):
    """One message between the practice and a client: written by `staff` or by `client`. An open point is for somebody of the
    staff until it is closed."""

    household = models.ForeignKey("clients.Household", on_delete=models.PROTECT, related_name="messages")
    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, null=True, related_name="+")
    staff = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    words = SealedField()
    at = models.DateTimeField(auto_now_add=True)
    read_at = models.DateTimeField(null=True)  # by the other side
    point_for = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    closed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(staff__isnull=False, client=None) | Q(staff=None, client__isnull=False), name="message_has_one_writer"
            )
        ]

    def __str__(self):
        return f"{self.household} {self.at:%Y-%m-%d %H:%M}"

    @property
    def writer(self):
        return self.staff.name if self.staff else self.client.full_name


class LetterKind(models.TextChoices):
    ENGAGEMENT = "engagement", "Engagement letter"
    USE = "use", "Consent to use of tax return information"
    DISCLOSE = "disclose", "Consent to disclosure of tax return information"
    PRIVACY = "privacy", "Privacy notice"


class Wording(models.TextChoices):
    """Words of the practice in place of the program's (wording.py)."""

    COVER = "cover", "Package cover letter"
    INVOICE = "invoice", "Invoice text"
    REQUEST = "mail-request", "Email: what is asked for"
    REMINDER = "mail-reminder", "Email: reminder"
    SIGNATURE = "mail-signature", "Email: ready to sign"
    LETTER = "mail-letter", "Email: a letter"
    BILL = "mail-invoice", "Email: an invoice"
    PACKAGE = "mail-package", "Email: the package"
    MESSAGE = "mail-message", "Email: a message"
    SET = "mail-set", "Email: a document"


class LetterText(FirmOwned):
    """A version of one of the practice's letters, or of its words elsewhere. Versions are only added; the newest one counts."""

    pack = models.CharField(max_length=8)
    kind = models.CharField(max_length=16, choices=[*LetterKind.choices, *Wording.choices])
    version = models.PositiveSmallIntegerField()
    words = models.TextField()
    signed = models.BooleanField(default=True)  # whether it wants a signature, or only to be read
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["kind", "-version"]
        constraints = [
            models.UniqueConstraint(fields=["firm", "pack", "kind", "version"], name="letter_version_once"),
            models.CheckConstraint(condition=Q(kind__in=[*LetterKind.values, *Wording.values]), name="letter_kind_is_known"),
        ]

    def __str__(self):
        return f"{self.get_kind_display()}, version {self.version}"


class Letter(FirmOwned):
    """A letter as one person got it: its words, frozen with their hash, and the signature under them."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="letters")
    text = models.ForeignKey(LetterText, on_delete=models.PROTECT, related_name="+")
    person = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    words = SealedField()
    hash = models.CharField(max_length=64)
    sent_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    sent_at = models.DateTimeField(auto_now_add=True)
    read_at = models.DateTimeField(null=True)
    signed_at = models.DateTimeField(null=True)
    image = SealedField(blank=True)
    address = models.GenericIPAddressField(null=True)
    declined_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["of", "text", "person"], name="letter_once", condition=Q(withdrawn_at=None)),
        ]

    def __str__(self):
        return f"{self.text} for {self.person}"

    @property
    def kind(self):
        return self.text.kind

    @property
    def done(self):
        """Signed, or read where that is enough."""
        return bool(self.signed_at) if self.text.signed else bool(self.read_at)
