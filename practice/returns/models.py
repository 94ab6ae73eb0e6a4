"""Returns, papers, the history of every field, overrides and frozen snapshots."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from practice.firm.crypto import masked, unseal_text
from practice.firm.scope import FirmOwned
from practice.returns.acts import title_of
from taxcore.engine import Period
from taxcore.packs import pack_named


class Stage(models.TextChoices):
    GATHER = "gather", "Gather"
    PREPARE = "prepare", "Prepare"
    REVIEW = "review", "Review"
    SIGN = "sign", "Sign"
    FILE = "file", "File"
    DELIVER = "deliver", "Deliver"
    DONE = "done", "Done"


class Purpose(models.TextChoices):
    FILING = "filing", "Filing"
    PLANNING = "planning", "Planning"
    AMENDING = "amending", "Amended"


class State(models.TextChoices):
    """How far a submission of a return came."""

    WAITING = "waiting", "held until the federal return is accepted"
    QUEUED = "queued", "to be sent"
    SENT = "sent", "sent, awaiting acknowledgment"
    ACCEPTED = "accepted", "accepted"
    REJECTED = "rejected", "rejected"
    WITHDRAWN = "withdrawn", "canceled before sending"
    TO_MAIL = "to mail", "to be mailed"
    MAILED = "mailed", "mailed"


FILED = [State.ACCEPTED, State.MAILED]  # nothing is waited for any more


class Return(FirmOwned):
    """A taxpayer's or couple's return for a year, or a company's for a period of its own (`begins`, `ends`).

    `version` rises with every change that can move a figure. `summary` is kept for lists: bottom lines and counts of
    findings as of `version`. `silenced` maps codes of diagnostics not heard here to who said so, when and why. `stages` holds
    the day each stage was reached. `snapshot` is the locked figures, if locked; `signed` the ones that stand under signatures,
    which a correction that moves no signed figure leaves alone.

    `apart_from` is the joint return from which a return apart was made, for one of them (`apart_role`) and one state
    (`apart_state`), or every authority where it names none. `given_up_at`: it is not filed after all, or another one was made in
    its place. How a return was made from another is its `origin`.
    """

    household = models.ForeignKey("clients.Household", on_delete=models.PROTECT, related_name="returns")
    pack = models.CharField(max_length=8, default=settings.PACK)
    year = models.PositiveSmallIntegerField()
    begins = models.DateField(null=True)
    ends = models.DateField(null=True)
    purpose = models.CharField(max_length=10, choices=Purpose, default=Purpose.FILING)
    stage = models.CharField(max_length=10, choices=Stage, default=Stage.GATHER)
    state_note = models.CharField(max_length=40, blank=True)
    stages = models.JSONField(default=dict)
    due = models.DateField()
    preparer = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="in_my_care")
    waiting_for = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, blank=True, related_name="waiting_for_me")
    version = models.PositiveIntegerField(default=1)
    summary = models.JSONField(default=dict)
    guide = models.JSONField(default=dict)
    silenced = models.JSONField(default=dict)
    authorities = models.CharField(max_length=60, blank=True)
    together = models.DecimalField(max_digits=14, decimal_places=2, null=True)
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, null=True, related_name="+")
    signed = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, null=True, related_name="+")
    apart_from = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="apart")
    apart_role = models.CharField(max_length=10, blank=True)
    apart_state = models.CharField(max_length=2, blank=True)
    given_up_at = models.DateTimeField(null=True)
    opened_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["due", "household__name"]
        constraints = [
            models.UniqueConstraint(
                fields=["household", "pack", "year", "purpose", "ends"],
                name="return_once",
                nulls_distinct=False,
                condition=Q(purpose="filing", apart_from=None, given_up_at=None),
            ),
            models.UniqueConstraint(
                fields=["apart_from", "apart_role", "apart_state"],
                name="apart_once",
                condition=Q(purpose="filing", given_up_at=None),
            ),
            models.UniqueConstraint(
                fields=["household", "pack", "year", "apart_role", "apart_state", "ends"],
                name="one_open_correction",
                nulls_distinct=False,
                condition=Q(purpose="amending", given_up_at=None) & ~Q(stage__in=["deliver", "done"]),
            ),
            models.CheckConstraint(condition=Q(stage__in=Stage.values), name="stage_is_known"),
            models.CheckConstraint(condition=Q(purpose__in=Purpose.values), name="purpose_is_known"),
            models.CheckConstraint(condition=Q(version__gte=1), name="version_from_one"),
        ]
        indexes = [
            models.Index(fields=["firm", "stage", "due"], name="return_by_stage"),
            models.Index(fields=["firm", "preparer", "due"], name="return_by_preparer"),
            models.Index(fields=["firm", "due", "id"], name="return_by_due"),
        ]

    def refresh_from_db(self, *args, **kwargs):
        self.__dict__.pop("mark_of_last_year", None)  # see last_year.py
        super().refresh_from_db(*args, **kwargs)

    def __str__(self):
        return f"{self.household} {self.tax_year}"

    @property
    def tax_year(self):
        """The year as the trade of its country writes it, or the period."""
        pack = pack_named(self.pack)
        return pack.shown_period(self.period) if self.ends else pack.shown_year(self.year)

    @property
    def period(self):
        """What it is for, where the year does not say it."""
        return Period(self.begins, self.ends) if self.ends else None

    @property
    def named(self):
        """As a client hears of it: the year, of a return apart its state, and whether it is a corrected one."""
        return f"{self.tax_year} {'amended' if self.purpose == Purpose.AMENDING else self.apart_state}".strip()

    @property
    def is_separate(self):
        """Whether it was made from a joint return for one of the couple, with every authority."""
        return bool(self.apart_from_id and not self.apart_state)


def counted(rows):
    """Of returns: those that are work of the practice. Plans are not, nor what another return took the place of."""
    return rows.exclude(purpose=Purpose.PLANNING).filter(given_up_at=None)


def originals(rows):
    """Of returns: the one that a household files for a year, neither corrections of it nor separate ones beside it."""
    return rows.filter(purpose=Purpose.FILING, apart_from=None, given_up_at=None)


class Paper(FirmOwned):
    """One source document as entered. `values` is the open format's object; `provenance` says of each field how it came.

    Provenance: {"wages": {"how": "keyed", "by": "BT", "at": "...", "tape": "1200*12"}}. Secret values are encrypted
    inside `values`. `source` is the mark of the imported record it was made from, so that a second import knows it again.
    """

    of = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="papers")
    key = models.SlugField(max_length=40)
    kind = models.CharField(max_length=20)
    position = models.PositiveIntegerField(default=0)
    values = models.JSONField(default=dict)
    provenance = models.JSONField(default=dict)
    person = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    removed_at = models.DateTimeField(null=True)
    source = models.CharField(max_length=64, blank=True)
    attached = models.PositiveSmallIntegerField(default=0)

    class Meta:
        ordering = ["position", "id"]
        constraints = [models.UniqueConstraint(fields=["of", "kind", "key"], name="paper_key_once")]
        indexes = [models.Index(fields=["of", "position"], name="paper_by_return")]

    def __str__(self):
        return f"{self.kind} {self.key}"


class FieldChange(FirmOwned):
    """One change of one field; without a path, of a whole paper (added, removed, restored). Rows are only ever added.

    Where `sealed`, what stands before and after is encrypted. What one act changed together shares a `batch` and is undone
    together.
    """

    of = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="changes")
    paper = models.ForeignKey(Paper, on_delete=models.PROTECT, null=True, related_name="changes")
    path = models.CharField(max_length=120)
    before = models.TextField(blank=True)
    after = models.TextField(blank=True)
    sealed = models.BooleanField(default=False)
    how = models.CharField(max_length=12, default="keyed")
    note = models.CharField(max_length=200, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    batch = models.CharField(max_length=32, blank=True)
    undoes = models.OneToOneField("self", on_delete=models.PROTECT, null=True, related_name="undone_by")

    class Meta:
        ordering = ["-id"]
        indexes = [
            models.Index(fields=["of", "-id"], name="change_by_return"),
            models.Index(fields=["paper", "path"], name="change_by_field"),
        ]

    def __str__(self):
        return f"{self.path}: {self.before} → {self.after}"

    @property
    def how_said(self):
        return "entered" if self.how == "keyed" else self.how

    @property
    def plain(self):
        """(before, after) as they were typed."""
        return (unseal_text(self.before), unseal_text(self.after)) if self.sealed else (self.before, self.after)

    @property
    def veiled(self):
        """(before, after) as a page may show them: of a secret only its ending."""
        return tuple(map(masked, self.plain)) if self.sealed else (self.before, self.after)


class LineOverride(FirmOwned):
    """A line set by hand. Removing one is recorded as a change with the reason kept in history."""

    of = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="overrides")
    address = models.CharField(max_length=120)
    amount = models.DecimalField(max_digits=14, decimal_places=2)
    reason = models.CharField(max_length=300)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["of", "address"], name="override_once"),
            models.CheckConstraint(condition=~Q(reason=""), name="override_has_reason"),
        ]

    def __str__(self):
        return self.address


class Snapshot(FirmOwned):
    """Locked figures: the whole return and its result, encrypted, with their hash; and the documents made of them for each
    authority. The database refuses any change."""

    of = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="snapshots")
    hash = models.CharField(max_length=64)
    content = models.BinaryField()
    documents = models.BinaryField(default=bytes)
    bottom_lines = models.JSONField(default=list)
    version = models.PositiveIntegerField()
    made_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.of} {self.hash[:12]}"


class Presence(FirmOwned):
    """Who has a return open, renewed while the page is."""

    of = models.ForeignKey(Return, on_delete=models.CASCADE, related_name="presence")
    staff = models.ForeignKey("firm.Staff", on_delete=models.CASCADE, related_name="+")
    seen_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "staff"], name="presence_once")]

    def __str__(self):
        return f"{self.staff} in {self.of}"


class Party(FirmOwned):
    """An employer or payer as the practice last entered it, offered where the number is entered again."""

    number = models.CharField(max_length=12)
    name = models.CharField(max_length=120)
    street = models.CharField(max_length=120, blank=True)
    city = models.CharField(max_length=120, blank=True)
    state = models.CharField(max_length=4, blank=True)
    zip = models.CharField(max_length=12, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        verbose_name_plural = "parties"
        constraints = [models.UniqueConstraint(fields=["firm", "number"], name="party_once")]

    def __str__(self):
        return self.name


class ControlTotal(FirmOwned):
    """How many papers of a kind there must be, and what they add up to, as the client listed them."""

    of = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="controls")
    kind = models.CharField(max_length=20)
    count = models.PositiveIntegerField(null=True)
    amount = models.DecimalField(max_digits=14, decimal_places=2, null=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "kind"], name="control_once")]

    def __str__(self):
        return f"{self.kind}: {self.count}, {self.amount}"


class Sight(FirmOwned):
    """A return's lines as somebody saw them last on some occasion: what "since" is measured from.

    `figures` maps a line's name (form and attribute, the same in every year) to its amount.
    """

    of = models.ForeignKey(Return, on_delete=models.CASCADE, related_name="sights")
    staff = models.ForeignKey("firm.Staff", on_delete=models.CASCADE, related_name="+")
    occasion = models.CharField(max_length=10, choices=[("opened", "opened"), ("initials", "initials")])
    figures = models.JSONField(default=dict)
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "staff", "occasion"], name="sight_once")]

    def __str__(self):
        return f"{self.of} as {self.staff} {self.occasion} it"


class How(models.TextChoices):
    """How a return was made from another."""

    ROLLED = "rolled", "Rolled forward"
    PLANNED = "planned", "Planned"
    APART = "apart", "Separate"
    AMENDED = "amended", "Corrected"
    SPLIT = "split", "Made from the joint return"
    JOINED = "joined", "Made from two separate returns"


class Origin(FirmOwned):
    """A return made from another: from which, how, by whom, when. `marks` are keyed fingerprints of what came over, by paper and
    field, with the `version` that the source had; `remarks` say what did not come, and why.

    Of a correction `amends` keeps its `number`, whether it is `superseding`, and of each authority the snapshot, receipt and day
    that it `accepted`; of a joint return made of two, which the `second` was. `parted`: of two who file separately, the role that
    this one had with the other.
    """

    of = models.OneToOneField(Return, on_delete=models.PROTECT, related_name="origin")
    source = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="made_from_it")
    how = models.CharField(max_length=8, choices=How)
    version = models.PositiveIntegerField()
    marks = models.JSONField(default=dict)
    remarks = models.JSONField(default=list)
    amends = models.JSONField(default=dict)
    parted = models.CharField(max_length=10, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=Q(how__in=How.values), name="how_is_known"),
            models.CheckConstraint(condition=~Q(of=models.F("source")), name="from_another_return"),
        ]

    def __str__(self):
        return f"{self.of} from {self.source}"


class HandedOut(FirmOwned):
    """A paper that another return issued, as of the issuing return's `version`. While it is to follow that return by itself,
    `follows_at` says since when, and `follows_by` whose change it follows."""

    source = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="handed_out")
    paper = models.ForeignKey(Paper, on_delete=models.PROTECT, related_name="handed")
    version = models.PositiveIntegerField()
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)
    follows_at = models.DateTimeField(null=True)
    follows_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["source", "paper"], name="handed_out_once")]

    def __str__(self):
        return f"{self.paper} from {self.source}"


class Round(FirmOwned):
    """One act on many returns, done one by one in the background. `touched_at` stands still when its worker died; nobody goes on
    while it is held."""

    act = models.CharField(max_length=8)
    options = models.JSONField(default=dict)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    touched_at = models.DateTimeField(auto_now=True)
    held_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.title}, {self.made_at:%b %-d %H:%M}"

    @property
    def title(self):
        return title_of(self.act)


class RoundItem(FirmOwned):
    """One return of a round and what happened to it. Not done yet while `done_at` is empty; `made` is what was made from it."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="items")
    of = models.ForeignKey(Return, on_delete=models.PROTECT, related_name="+")
    says = models.CharField(max_length=300, blank=True)
    worked = models.BooleanField(default=False)
    made = models.ForeignKey(Return, on_delete=models.PROTECT, null=True, related_name="+")
    done_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["round", "of"], name="once_in_a_round")]

    def __str__(self):
        return f"{self.of}: {self.says or 'not yet'}"
