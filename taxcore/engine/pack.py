"""A pack: all that one country adds to the engine. The engine knows its shape, never its content."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Any

from taxcore.engine.amending import corrects
from taxcore.engine.balances import Balance, Closing, Key, Opening, closings_of, openings_of
from taxcore.engine.checks import CHECK, STOPS, Check, Diagnostic, diagnostics_of
from taxcore.engine.fields import Field, Rows
from taxcore.engine.forms import Form
from taxcore.engine.issuing import Issued
from taxcore.engine.outgoing import NOTHING, Outgoing
from taxcore.engine.papers import Paper, Person
from taxcore.engine.periods import Period, calendar_year, year_of_day
from taxcore.engine.values import PaperValues

if TYPE_CHECKING:
    from taxcore.engine.cells import Cell
    from taxcore.engine.run import Run
    from taxcore.engine.values import ReturnData


_MISSING: dict[tuple[type[Paper], str], Diagnostic] = {}


def missing(paper: type[Paper], field: Field) -> Diagnostic:
    """The diagnostic that a field which filing needs is empty: as many as papers declare such fields."""
    known = _MISSING.get((paper, field.name))
    if known is None:
        known = _MISSING[paper, field.name] = _named_missing(paper, field)
    return known


def _named_missing(paper: type[Paper], field: Field) -> Diagnostic:
    code = f"{paper.jurisdiction}.{paper.kind}.{field.name.replace('_', '-')}-missing"
    return Diagnostic(code, STOPS, f"{paper.name}: {field.label} is empty", "missing", field.cites)


def _needed(paper: type[Paper]) -> Iterator[Diagnostic]:
    for field in paper.fields().values():
        if field.needed:
            yield missing(paper, field)
        if isinstance(field, Rows):
            yield from (missing(paper, one) for one in field.row.fields().values() if one.needed)


_SATURDAY = 5


Closed = Callable[[int, str], Collection[date]]


def working_day(day: date, closed: Collection[date] = ()) -> date:
    """The day itself, or the next that is neither on a weekend nor among the `closed` ones."""
    while day.weekday() >= _SATURDAY or day in closed:
        day += timedelta(days=1)
    return day


def _never_closed(year: int, home: str = "") -> Collection[date]:
    return ()


@dataclass(frozen=True)
class Authority:
    """Someone a return is filed with. `refund`, `owed`, `tax` and `income` are attribute names on `form`; `due` is month, day,
    of the year that comes `years_after` that of the return; `is_fixed`, whatever day of the week that is. `due_after` gives the
    day where it follows from the return's own period, `paid_after` that of payment where that is another one.

    `applies`: there is such a return and other forms may read it; `files`: it goes out from this return, and not another one.
    `credited_tax` and `credited_income` name what another authority's credit reads; empty where that is `tax` and `income`;
    `credited_taxable` the taxable income that the tax is on, where some credit goes by it.
    `closed` gives the legal holidays of a calendar year for somebody who lives somewhere, which move what is due.
    `paying` says how what is owed is paid where the return says so itself; `how_to_pay` where it does not.
    `agency` is what sentences call whom the return is filed with.
    `authorized` names the figures of the authorization to file; empty where they are income, tax, refund and balance due.
    `amended` is the code of the form that settles a correction with what was paid and refunded before. Its lines are named as
    those of `form`, or `income` and `tax`.
    """

    code: str
    name: str
    form: type[Form]
    refund: str
    owed: str
    return_type: str
    due: tuple[int, int]
    applies: Callable[[Run], bool]
    has_law: Callable[[Run], bool] = lambda run: True
    files: Callable[[Run], bool] = lambda run: True
    after: str = ""
    declaration: str = ""
    tax: str = "total_tax"
    income: str = "total_income"
    credited_tax: str = ""
    credited_income: str = ""
    credited_taxable: str = ""
    closed: Closed = _never_closed
    how_to_pay: str = (
        "Pay on the tax department's website, or mail a check with the state's payment voucher; write the tax year and the last "
        "four digits of your Social Security number on it."
    )
    paying: Callable[[Run], str] = lambda run: ""
    authorized: tuple[tuple[str, int], ...] = ()
    agency: str = ""
    amended: str = ""
    years_after: int = 1
    is_fixed: bool = False
    due_after: Callable[[Period], date] | None = None
    paid_after: Callable[[Period], date] | None = None

    def settled_on(self, run: Run) -> Form:
        """The form that says what is refunded or owed."""
        return run.form(self.amended if self.amended and corrects(run, self) else self.form.code())

    def cell(self, run: Run, name: str) -> Cell:
        """One of the lines that are named here, on the form that settles, else on the return's own."""
        settled = self.settled_on(run)
        aliases = (name, {self.income: "income", self.tax: "tax"}.get(name, ""))
        found = next((one for one in aliases if one in settled.specs), None)
        return settled.cell(found) if found else run.form(self.form.code()).cell(name)

    @property
    def filed_with(self) -> str:
        """For sentences: "the IRS", "the Illinois Department of Revenue"."""
        return self.agency or f"the {self.name} Department of Revenue"

    @property
    def stated(self) -> tuple[tuple[str, int], ...]:
        """What an authorization to file states: attribute on `form`, and by how much it may differ from what was signed."""
        return self.authorized or ((self.income, 0), (self.tax, 0), (self.refund, 0), (self.owed, 0))

    def due_on(self, year: int, home: str = "", period: Period | None = None) -> date:
        """The day on which a year's return is due, and what it owes is to be paid, by somebody who lives in `home`; of a return
        with a period of its own, where that decides."""
        if self.due_after is not None and period is not None:
            return self.due_after(period)
        day = date(year + self.years_after, *self.due)
        return day if self.is_fixed else self.working_day(day, home)

    def to_pay_on(self, year: int, home: str, period: Period) -> date:
        """The day by which what a return owes is to be paid."""
        return self.paid_after(period) if self.paid_after is not None else self.due_on(year, home, period)

    def working_day(self, day: date, home: str = "") -> date:
        """The day, or the next on which this authority takes anything."""
        return working_day(day, self.closed(day.year, home))


@dataclass(frozen=True)
class BottomLine:
    """What one authority pays (positive) or is owed (negative), and the cell that says so."""

    authority: Authority
    amount: Decimal
    address: str


@dataclass(frozen=True)
class Question:
    """One plain question of the guided entry. A yes asks how many there are of each kind of paper that it calls for. `client` is
    the same question as a client reads it, where that is not the preparer's; `help` is for the preparer."""

    key: str
    topic: str
    text: str
    kinds: tuple[str, ...]
    help: str = ""
    client: str = ""


@dataclass(frozen=True, slots=True)
class PaymentToCome:
    """What is to be paid to an authority for next year, and by when. `name` says which one of them it is."""

    authority: str
    name: str
    day: date
    amount: Decimal
    how: str


@dataclass(frozen=True, slots=True)
class Succession:
    """Who is on next year's return. `roles` are ids of people and the role that each has then; who is not among them leaves, and
    `remarks` say why. `values` are what papers that exist once have then, by kind, whatever they had before. `shares` are the
    parts of balances that come along, where whoever leaves had the rest."""

    roles: Mapping[str, str]
    values: Mapping[str, Mapping[str, Any]] = dataclasses.field(default_factory=dict)
    shares: Mapping[Balance, Decimal] = dataclasses.field(default_factory=dict)
    remarks: tuple[str, ...] = ()


class CannotRoll(Exception):
    """There is no next year's return. `says` tells why."""

    def __init__(self, says: str):
        super().__init__(says)
        self.says = says


def everybody_stays(run: Run) -> Succession:
    return Succession({person.key: person.role for person in run.people()})


@dataclass(frozen=True, slots=True)
class Advice:
    """Something that a client may do. `saves` and `saves_next` are what it would save this year and next, None where that is not
    the point. `shown` says whether it is on the client's page unless somebody switches it off; `facts` are (label, amount or
    text)."""

    key: str
    title: str
    says: str
    facts: tuple[tuple[str, Any], ...] = ()
    saves: Decimal | None = None
    saves_next: Decimal | None = None
    shown: bool = True
    at: str = ""
    cites: str = ""


@dataclass(frozen=True)
class Correcting:
    """How filed returns of a pack are corrected. `begins` gives the papers that a correction has besides those that were filed,
    with what is proposed on them in rows; `claimable_until` the last day for claiming a refund from an authority; `sent_anyway`
    says that it goes to an authority though no figure moved; `explanation` why the return is corrected."""

    begins: Callable[[Run], tuple[PaperValues, ...]]
    claimable_until: Callable[[Run, Authority], date]
    sent_anyway: Callable[[Run, Authority], bool]
    explanation: Callable[[Run], str]


@dataclass(frozen=True)
class Identifier:
    """The number by which authorities know a person: its name, what it is called for short, and how it is written, with a 0 for
    each digit. Without a shape any number does."""

    name: str = "Tax number"
    short: str = "tax number"
    shape: str = ""

    @property
    def digits(self) -> int:
        """How many there are; 0 where that is not fixed."""
        return self.shape.count("0")

    def written(self, text: str) -> str:
        """A number as the authorities write it, empty for none. ValueError says what it should be."""
        plain = "".join(one for one in text if one.isascii() and one.isdigit())
        if not text.strip() or not self.shape:
            return text.strip()
        if len(plain) != self.digits:
            raise ValueError(f"A {self.name} has {_COUNTED.get(self.digits, self.digits)} digits.")
        found = iter(plain)
        return "".join(next(found) if one == "0" else one for one in self.shape)


_COUNTED = {8: "eight", 9: "nine", 10: "ten", 11: "eleven"}


def _what_is_asked(people: type[Paper]) -> Callable[..., tuple[PaperValues, ...]]:
    """Of people what the pack asks of a person, and no paper besides."""

    def opens(given: Sequence[Mapping[str, Any]], address: Mapping[str, str]) -> tuple[PaperValues, ...]:
        names = {"role", *people.fields()}
        kept = [(one["id"], {name: one[name] for name in one if name in names and one[name]}) for one in given]
        return tuple(
            PaperValues(key, people.kind, values, carried=tuple(name for name in values if name != "role"))
            for key, values in kept
        )

    return opens


def _taxpayer_alone(run: Run) -> tuple[str, ...]:
    return ("taxpayer",)


def _as_declared(run: Run, authority: Authority) -> int:
    return 0


@dataclass(frozen=True)
class Pack:
    """`law` maps a jurisdiction to the folder of its years; `people` is its Person class; `signers` says who signs,
    `represented` for whom of them somebody else must.
    `rank` puts a return's authorities in the order in which people think of them; `home` is where those who file live.

    `questions` are the guided entry to the papers of a return. `flow` draws a result as streams of money (engine/flow.py).
    `earlier` puts what documents of earlier versions kept elsewhere where it belongs now.
    `advice` gives what a client may do (Advice), `described` says in a few words whose kind of return a result is.
    `filer` is who files: "people" or an "entity", `entity_forms` which entities where not all do; `identifier` is a person's
    number, `currency` the sign before an amount that a
    client reads and `currency_code` its three letters (ISO 4217), `writes` who sends clients letters about a return.
    `issues` gives the papers that a return issues to others, whom pages call `issued_to`.
    `headline` are lines (code of a form, name) that stand at the bottom edge where nobody pays tax with such a return.
    `opens` gives the papers of a new return from what a practice knows of its people and their address.
    `correcting` is None where returns of this kind are not corrected once they are filed.
    `day_first`: dates are written and read with the day before the month. `words` are those of
    the trade that pages say otherwise in this country. `shown_year` is a year as the trade writes it.
    `regions` are the parts of the country that an address can be in, by code.
    `period` is what a year's return is for where it says nothing else, `law_year` under which of the law's years a day falls.
    `called` names the kind of return where a client files several. `asks` is empty where the year says what a return is for;
    "period" where a client has first and last day, "day" where each return is for what happened on one day. `shown_period` is
    such a period as the trade writes it, `year_in` the year that names its law, `period_after` the one that follows, where one
    does, `refuses_period` why there can be no such one.
    `succession` says who is on next year's return (CannotRoll where there is none), `parted` who is on
    that of one of two, by role, who file separately from then on; None where nobody files with another.
    `assumed_until` is the last year for which law can be assumed (assumed_law.py).
    `elections` are the choices that the law leaves open on a return (taxcore/whatif/choosing.py).
    `to_come` gives what is to be paid for next year (PaymentToCome).
    `outgoing` says what may go with a return, who may sign for somebody, and why it may go on paper (engine/outgoing.py).
    `reads_tagged` makes rows (account, heading, debit, credit) of the facts of a tagged page and the last day that is wanted.
    `ofx` reads one tax statement of the OFX format into (kind of paper, open-format values), None where it has no paper.
    """

    code: str
    name: str
    years: tuple[int, ...]
    people: type[Person]
    papers: tuple[type[Paper], ...]
    forms: tuple[type[Form], ...]
    authorities: tuple[Authority, ...]
    checks: tuple[Check, ...]
    law: Mapping[str, Path]
    groups: Mapping[str, str]
    signers: Callable[[Run], tuple[str, ...]] = _taxpayer_alone
    represented: Callable[[Run], tuple[str, ...]] = lambda run: ()
    rank: Callable[[Run, Authority], int] = _as_declared
    home: Callable[[Run], str] = lambda run: ""
    questions: tuple[Question, ...] = ()
    outgoing: Outgoing = NOTHING
    to_come: Callable[[Run], tuple[PaymentToCome, ...]] = lambda run: ()
    flow: Callable[[Any], Any] | None = None
    ofx: Callable[[Any], tuple[str, dict[str, Any]] | None] | None = None
    reads_tagged: Callable[[list[tuple[str, str, str, str]], str], list[tuple[str, str, str, str]]] | None = None
    earlier: Callable[[ReturnData], ReturnData] = lambda data: data
    advice: Callable[[Any], list[Advice]] = lambda result: []
    described: Callable[[Any], str] = lambda result: ""
    succession: Callable[[Run], Succession] = everybody_stays
    parted: Callable[[Run, str], Succession] | None = None
    period: Callable[[int], Period] = calendar_year
    law_year: Callable[[date], int] = year_of_day
    correcting: Correcting | None = None
    filer: str = "people"
    entity_forms: tuple[str, ...] = ()
    identifier: Identifier = dataclasses.field(default_factory=Identifier)
    currency: str = ""
    currency_code: str = ""
    writes: str = "the authority"
    opens: Callable[..., tuple[PaperValues, ...]] | None = None
    issues: Callable[[Run], tuple[Issued, ...]] | None = None
    issued_to: str = "Owners"
    headline: tuple[tuple[str, str], ...] = ()
    assumed_until: int = 0
    day_first: bool = False
    words: Mapping[str, str] = dataclasses.field(default_factory=dict)
    shown_year: Callable[[int], str] = str
    called: str = ""
    asks: str = ""
    shown_period: Callable[[Period], str] = lambda period: f"to {period.end.isoformat()}"
    year_in: Callable[[Period], int] = lambda period: period.end.year
    period_after: Callable[[Period], Period] | None = None
    refuses_period: Callable[[Period], str] = lambda period: ""
    elections: Callable[[Run], tuple[Any, ...]] = lambda run: ()
    regions: Mapping[str, str] = dataclasses.field(default_factory=dict)

    @property
    def papers_to_open(self) -> Callable[..., tuple[PaperValues, ...]]:
        return self.opens or _what_is_asked(self.people)

    @cached_property
    def standing(self) -> type[Paper] | None:
        """The paper that every return has: who files how, and where they live."""
        return next((paper for paper in self.papers if paper.always), None)

    @cached_property
    def example_line(self) -> str:
        """A form and a line as somebody types them: the first authority's tax."""
        first = self.authorities[0]
        number = first.form.specs[first.tax].number_in(max(self.years)) if first.tax in first.form.specs else ""
        return f"{first.form.number.lower()} {number or '1'}"

    @cached_property
    def by_kind(self) -> Mapping[str, type[Paper]]:
        return {paper.kind: paper for paper in (self.people, *self.papers)}

    @cached_property
    def by_code(self) -> Mapping[str, type[Form]]:
        return {form.code(): form for form in self.forms}

    def paper(self, kind: str) -> type[Paper] | None:
        return self.by_kind.get(kind)

    def form(self, code: str) -> type[Form] | None:
        return self.by_code.get(code)

    def authority(self, code: str) -> Authority | None:
        return next((authority for authority in self.authorities if authority.code == code), None)

    @cached_property
    def openings(self) -> Mapping[Key, tuple[Opening, ...]]:
        return openings_of((self.people, *self.papers))

    @cached_property
    def closings(self) -> Mapping[Key, Closing]:
        return closings_of(self.forms)

    @cached_property
    def diagnostics(self) -> Mapping[str, Diagnostic]:
        """Everything that returns of this pack can say about themselves, by code: the catalogue."""
        own = (self.unknown_paper, self.bad_value, self.unsettled, self.unconfirmed, self.unconfirmed_stops)
        needed = (one for paper in (self.people, *self.papers) for one in _needed(paper))
        checked = (one for check in self.checks for one in diagnostics_of(check).values())
        return {one.code: one for one in (*own, *checked, *needed)}

    @cached_property
    def unknown_paper(self) -> Diagnostic:
        return Diagnostic(f"{self.code}.unknown-paper", STOPS, "Form not supported", "unsupported")

    @cached_property
    def bad_value(self) -> Diagnostic:
        return Diagnostic(f"{self.code}.bad-value", STOPS, "Invalid value", "format")

    @cached_property
    def unsettled(self) -> Diagnostic:
        return Diagnostic(f"{self.code}.unsettled", STOPS, "Circular computation did not settle", "conflict")

    @cached_property
    def unconfirmed(self) -> Diagnostic:
        return Diagnostic(f"{self.code}.unconfirmed", CHECK, "Rolled forward and not confirmed", "carried")

    @cached_property
    def unconfirmed_stops(self) -> Diagnostic:
        return Diagnostic(
            f"{self.code}.unconfirmed-tax", STOPS, "Rolled forward, not confirmed, and the tax depends on it", "carried"
        )
