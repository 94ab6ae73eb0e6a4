"""Households and people. The number is encrypted; its digest finds it again within the firm."""

from django.db import models

from practice.firm.crypto import SealedField, digest, masked
from practice.firm.scope import FirmOwned


class Household(FirmOwned):
    """People and companies that a practice serves together."""

    name = models.CharField(max_length=120)
    own_name = models.BooleanField(default=False)  # somebody gave it: it does not follow the people any more
    trade = models.CharField(max_length=60, blank=True)
    street = models.CharField(max_length=60, blank=True)
    city = models.CharField(max_length=40, blank=True)
    state = models.CharField(max_length=2, blank=True)
    zip = models.CharField(max_length=10, blank=True)
    in_care_of = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="households")
    created_at = models.DateTimeField(auto_now_add=True)
    left_on = models.DateField(null=True, blank=True)  # the practice serves them no more; everything is kept

    class Meta:
        ordering = ["name"]
        indexes = [models.Index(fields=["firm", "name"], name="household_by_name")]

    def __str__(self):
        return self.name

    @property
    def name_of_people(self):
        """Last name of the first, and the first names: Quist, Marlow and Odile."""
        people = [one for one in self.people.order_by("id")[:2] if one.first_name]
        return f"{people[0].last_name}, {' and '.join(one.first_name for one in people)}" if people else self.name


class Person(FirmOwned):
    """A client. Returns keep their own copy of what was true in their year."""

    household = models.ForeignKey(Household, on_delete=models.PROTECT, related_name="people")
    first_name = models.CharField(max_length=40)
    last_name = models.CharField(max_length=40)
    number = SealedField(blank=True)
    number_digest = models.CharField(max_length=64, blank=True)
    birth_date = models.DateField(null=True, blank=True)
    occupation = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    telephone = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["firm", "number_digest"], name="number_once_a_firm", condition=~models.Q(number_digest="")
            ),
        ]

    def save(self, *args, **kwargs):
        plain = "".join(character for character in self.number if character.isdigit())
        self.number_digest = digest(self.firm_id, plain) if plain else ""
        super().save(*args, **kwargs)

    @property
    def full_name(self):
        return f"{self.first_name} {self.last_name}"

    @property
    def masked_number(self):
        return masked(self.number) if self.number else ""

    def __str__(self):
        return self.full_name


class IdentityDocument(models.TextChoices):
    LICENCE = "licence", "Driver’s license"
    PASSPORT = "passport", "Passport"
    STATE_CARD = "state-card", "State ID"
    MILITARY = "military", "Military ID"
    OTHER = "other", "Other government photo ID"
    KNOWN = "known", "Known to the practice from prior years"


class IdentityRecord(FirmOwned):
    """How it was seen who a client is, before a signature in the office. Rows are only ever added. Pub. 1345.

    `ending` are the last characters of the document's number, never all of it; `expires` may be empty where it does not.
    """

    person = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="identities")
    document = models.CharField(max_length=12, choices=IdentityDocument)
    issued_by = models.CharField(max_length=40, blank=True)
    ending = models.CharField(max_length=4, blank=True)
    expires = models.DateField(null=True, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    on = models.DateField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
        constraints = [models.CheckConstraint(condition=models.Q(document__in=IdentityDocument.values), name="document_is_known")]

    def __str__(self):
        return f"{self.person}: {self.get_document_display()}"

    def holds_on(self, day):
        """Whether the document had not expired by that day."""
        return self.expires is None or self.expires >= day
