"""Clients: households of people and entities, who is what in whom, the groups they are in, and who may see them.

Numbers are encrypted; a digest finds them again within the firm.
"""

from django.db import models

from practice.firm.crypto import SealedField, digest, masked, plain_number
from practice.firm.scope import FirmOwned


class Kind(models.TextChoices):
    PEOPLE = "people", "Household"
    ENTITY = "entity", "Company"


class Household(FirmOwned):
    """A client: people who are served together, or an entity, which has its details in `entity` and no people of its own.

    `restricted`: only the staff among its `confidants` find it, open it and see it counted. `merged_into`: it turned out to be
    the same client as another one; it is kept for the records and shown nowhere.
    """

    way_to_client = "pk"

    kind = models.CharField(max_length=6, choices=Kind, default=Kind.PEOPLE)
    restricted = models.BooleanField(default=False)
    merged_into = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="merged")
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
        indexes = [
            models.Index(fields=["firm", "name"], name="household_by_name"),
            models.Index(fields=["firm"], name="household_restricted", condition=models.Q(restricted=True)),
        ]
        constraints = [models.CheckConstraint(condition=models.Q(kind__in=Kind.values), name="client_kind_is_known")]

    def __str__(self):
        return self.name

    @property
    def name_of_people(self):
        """Last name of the first, and the first names: Quist, Marlow and Odile."""
        people = [one for one in self.people.filter(merged_into=None).order_by("id")[:2] if one.first_name]
        return f"{people[0].last_name}, {' and '.join(one.first_name for one in people)}" if people else self.name


class News(models.TextChoices):
    """How a client wants to hear what became of a return."""

    NONE = "", "no alerts"
    MAIL = "mail", "by email"
    TEXT = "text", "by text message"


class Person(FirmOwned):
    """A client. Returns keep their own copy of what was true in their year. `news` is what they opted in to."""

    household = models.ForeignKey(Household, on_delete=models.PROTECT, related_name="people")
    first_name = models.CharField(max_length=40)
    last_name = models.CharField(max_length=40)
    number = SealedField(blank=True)
    number_digest = models.CharField(max_length=64, blank=True)
    birth_date = models.DateField(null=True, blank=True)
    occupation = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    telephone = models.CharField(max_length=20, blank=True)
    news = models.CharField(max_length=4, choices=News, blank=True)
    merged_into = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="merged")

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["firm", "number_digest"], name="number_once_a_firm", condition=~models.Q(number_digest="")
            ),
        ]

    def save(self, *args, **kwargs):
        plain = plain_number(self.number)
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


class EntityForm(models.TextChoices):
    """What an entity is, whatever the country's own name for it."""

    COMPANY = "company", "Corporation or company"
    PASS_THROUGH = "s-corp", "S corporation"
    PARTNERSHIP = "partnership", "Partnership"
    LLC = "llc", "Limited liability company"
    TRUST = "trust", "Trust"
    ESTATE = "estate", "Estate"
    ASSOCIATION = "association", "Association or charity"


def form_of(household):
    """What an entity is; empty for people."""
    entity = getattr(household, "entity", None)
    return entity.form if entity is not None else ""


class Entity(FirmOwned):
    """The details of a client that is no person. Its number is kept like people's."""

    household = models.OneToOneField(Household, on_delete=models.PROTECT, related_name="entity")
    form = models.CharField(max_length=12, choices=EntityForm)
    number = SealedField(blank=True)
    number_digest = models.CharField(max_length=64, blank=True)
    formed_on = models.DateField(null=True, blank=True)
    email = models.EmailField(blank=True)
    telephone = models.CharField(max_length=20, blank=True)

    class Meta:
        verbose_name_plural = "entities"
        constraints = [
            models.CheckConstraint(condition=models.Q(form__in=EntityForm.values), name="entity_form_is_known"),
            models.UniqueConstraint(
                fields=["firm", "number_digest"], name="entity_number_once_a_firm", condition=~models.Q(number_digest="")
            ),
        ]

    def save(self, *args, **kwargs):
        plain = plain_number(self.number)
        self.number_digest = digest(self.firm_id, plain) if plain else ""
        super().save(*args, **kwargs)

    @property
    def masked_number(self):
        plain = plain_number(self.number)
        return masked(f"{plain[:2]}-{plain[2:]}" if len(plain) == 9 and plain.isdigit() else self.number) if plain else ""

    def __str__(self):
        return f"{self.household}"


class RoleKind(models.TextChoices):
    OWNER = "owner", "Owner"
    PARTNER = "partner", "Partner"
    MEMBER = "member", "Member"
    SHAREHOLDER = "shareholder", "Shareholder"
    DIRECTOR = "director", "Director"
    OFFICER = "officer", "Officer"
    TRUSTEE = "trustee", "Trustee"
    BENEFICIARY = "beneficiary", "Beneficiary"
    CONTACT = "contact", "Contact"


class Role(FirmOwned):
    """Who is what in an entity: a person, or another entity (`holder`). `share` is in percent, where the role has one; a role
    that ended has `until`. `gets_mail`: what goes to the entity goes to them; `signs`: they sign its returns."""

    household = models.ForeignKey(Household, on_delete=models.PROTECT, related_name="roles")
    person = models.ForeignKey(Person, on_delete=models.PROTECT, null=True, related_name="roles")
    holder = models.ForeignKey(Household, on_delete=models.PROTECT, null=True, related_name="holdings")
    kind = models.CharField(max_length=12, choices=RoleKind)
    share = models.DecimalField(max_digits=7, decimal_places=4, null=True)
    since = models.DateField(null=True)
    until = models.DateField(null=True)
    gets_mail = models.BooleanField(default=False)
    signs = models.BooleanField(default=False)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["until", "-share", "id"]
        constraints = [
            models.CheckConstraint(condition=models.Q(kind__in=RoleKind.values), name="role_kind_is_known"),
            models.CheckConstraint(
                condition=models.Q(person=None, holder__isnull=False) | models.Q(person__isnull=False, holder=None),
                name="role_has_one_holder",
            ),
            models.CheckConstraint(
                condition=models.Q(share=None) | models.Q(share__gt=0, share__lte=100), name="share_is_percent"
            ),
            models.CheckConstraint(condition=~models.Q(household=models.F("holder")), name="role_in_another"),
        ]

    def __str__(self):
        return f"{self.named}: {self.get_kind_display()} of {self.household}"

    @property
    def named(self):
        return self.person.full_name if self.person else self.holder.name

    @property
    def home(self):
        """The client behind it."""
        return self.person.household if self.person else self.holder


class Group(FirmOwned):
    """Clients that belong together: a family with its companies. A client may be in several."""

    name = models.CharField(max_length=120)
    households = models.ManyToManyField(Household, through="Membership", related_name="groups")

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["firm", "name"], name="group_name_once")]

    def __str__(self):
        return self.name


class Membership(FirmOwned):
    """One client in one group."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="memberships")
    household = models.ForeignKey(Household, on_delete=models.PROTECT, related_name="memberships")
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["household__kind", "household__name"]
        constraints = [models.UniqueConstraint(fields=["group", "household"], name="in_a_group_once")]

    def __str__(self):
        return f"{self.household} in {self.group}"


class Confidant(FirmOwned):
    """Somebody of the staff who may see a restricted client."""

    household = models.ForeignKey(Household, on_delete=models.PROTECT, related_name="confidants")
    staff = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["household", "staff"], name="confidant_once")]

    def __str__(self):
        return f"{self.staff} for {self.household}"


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
