"""One business as a sole proprietorship, a partnership of two, an S corporation and a corporation: tax at both levels, pay, what
is left. The owner's return is computed in full; the entity's side by plain rules until its own return is.

IRC 11(b), 1401, 3101, 3111, 3301; 199A; plans: 404(a)(3), (h). Not counted: state unemployment insurance, the cost of keeping
an entity, taxes that other states than those of entities.toml take from entities.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine import ZERO, PaperValues, Result, ReturnData, compute
from taxcore.engine.figures import cents
from taxcore.engine.law import Law, read_law
from taxcore.packs.us import places
from taxcore.packs.us.base import STATES, UNTAXED, digits
from taxcore.whatif.columns import total_tax

KINDS = {
    "sole": "Sole proprietorship", "partnership": "Partnership of two", "s-corp": "S corporation", "c-corp": "C corporation",
}  # fmt: skip
_ENTITY, _PAID = "entity-choice", "entity-pay"
_SENDERS = ("1099-nec", "1099-misc", "1099-k")
_HALF = Decimal("0.5")


@dataclass(frozen=True, slots=True)
class Asked:
    """`profit` before any pay to the owner, who has the role `owner`; `pay` is the wage in a corporation; `partner` is the
    spouse, or somebody outside, who then has the other half and pays tax on it."""

    profit: Decimal
    pay: Decimal
    owner: str = "taxpayer"
    partner: str = ""


@dataclass(frozen=True, slots=True)
class Compared:
    """A kind of entity, in amounts of a year. `owner_tax` is that of the owner's return with every authority, self-employment tax
    (`self_employment`) in it; `payroll` is of employee and employer, `entity_tax` federal and state; `taxes` are all together,
    less what the same return owes without the business. `left` remains of the owner's `profit`; `room` is for a plan."""

    kind: str
    result: Result
    profit: Decimal
    pay: Decimal
    payroll: Decimal
    entity_tax: Decimal
    dividends: Decimal
    self_employment: Decimal
    deduction: Decimal
    owner_tax: Decimal
    taxes: Decimal
    room: Decimal

    @property
    def left(self) -> Decimal:
        return self.profit - self.taxes


@dataclass(frozen=True, slots=True)
class Business:
    """What can be asked about: a sole proprietorship, or a share of an entity as its Schedule K-1 has it. `profit` is the
    owner's, before what is paid to the owner, which is `pay` where it is wages; `papers` are (kind, id) of all that goes with
    it."""

    key: str
    title: str
    owner: str
    profit: Decimal
    pay: Decimal
    papers: frozenset[tuple[str, str]]


def businesses(run: Any) -> list[Business]:
    """Sole proprietorships of the return, then shares of partnerships and S corporations."""
    shares = [*run.papers("k1-1065"), *run.papers("k1-1120s")]
    return [*(_proprietorship(run, one) for one in run.papers("business")), *(_share_of(run, one) for one in shares)]


def _proprietorship(run: Any, paper: Any) -> Business:
    senders = (one for kind in _SENDERS for one in run.papers(kind) if getattr(one, "business", "") == paper.key)
    papers = {("business", paper.key), *((one.kind, one.key) for one in senders)}
    return Business(paper.key, paper.title, paper.owner, run.form("us.sch-c", paper.key).profit, ZERO, frozenset(papers))


def _share_of(run: Any, paper: Any) -> Business:
    """With the paper of its basis, and wages that an S corporation paid to its owner."""
    bases = [one for kind in ("basis-p", "basis-s") for one in run.papers(kind) if str(one.share or "") == paper.key]
    number = digits(paper.entity_number)
    paid = [one for one in run.papers("w2", paper.owner) if number and digits(one.employer_number) == number]
    if paper.kind != "k1-1120s":
        paid = []
    pay = sum((one.wages for one in paid), ZERO)
    before = pay + employers_tax(run, pay) if paid else getattr(paper, "guaranteed", ZERO)
    papers = frozenset((one.kind, one.key) for one in (paper, *bases, *paid))
    return Business(paper.key, paper.title, paper.owner, paper.ordinary + before, pay, papers)


def employees_tax(run: Any, pay: Decimal) -> Decimal:
    """Social Security and Medicare tax of the one who is paid. IRC 3101."""
    law = run.laws["us"].payroll
    return cents(min(pay, law.wage_base) * law.social_security_rate + pay * law.medicare_rate)


def employers_tax(run: Any, pay: Decimal) -> Decimal:
    """The same again, and federal unemployment tax. IRC 3111, 3301."""
    law = entity_law().unemployment
    return employees_tax(run, pay) + cents(min(pay, law.wages) * law.rate)


def without(run: Any, business: Business | None) -> ReturnData:
    """The return without a business and what goes with it."""
    data: ReturnData = run.everything
    gone = business.papers if business is not None else frozenset()
    return data.but(papers=tuple(one for one in data.papers if (one.kind, one.id) not in gone), overrides={})


def compared(result: Result, rest: ReturnData, asked: Asked) -> tuple[Compared, ...]:
    """All kinds in their order. `rest` is the return without the business (`without`). ValueError where pay is more than what
    there is for it."""
    choice = _Choice(result, rest, asked)
    return tuple(choice.of(kind) for kind in KINDS)


def over_profit(result: Result, rest: ReturnData, asked: Asked, steps: int = 12) -> list[tuple[Decimal, tuple[Compared, ...]]]:
    """The same from a sixth of the profit to twice it, with the same part of it as pay: (profit, all kinds)."""
    found = []
    for number in range(1, steps + 1):
        profit = cents(asked.profit * 2 * number / steps).quantize(Decimal(1))
        pay = (asked.pay * profit / asked.profit).quantize(Decimal(1)) if asked.profit else ZERO
        found.append((profit, compared(result, rest, Asked(profit, pay, asked.owner, asked.partner))))
    return found


def notes(run: Any) -> Iterator[str]:
    """What the comparison leaves out on this return."""
    home = places.home_at_end(run)
    if home and home not in UNTAXED and home not in entity_law().states:
        yield f"What {STATES[home]} takes from partnerships and corporations themselves is not counted."
    yield "Not counted: state unemployment insurance, the cost of an entity's own books and returns, liability."


@cache
def entity_law() -> Law:
    return read_law(Path(__file__).parent / "entities.toml")


class _Choice:
    def __init__(self, result: Result, rest: ReturnData, asked: Asked):
        self.run, self.rest, self.asked, self.law = result.run, rest, asked, entity_law()
        self.plans = result.run.laws["us"].plans
        self.home = places.home_at_end(result.run)
        self.before = self._owed(compute(self.run.pack, rest))
        if asked.profit < 0 or asked.pay < 0:
            raise ValueError("Enter amounts from nothing upwards.")
        if asked.pay + employers_tax(self.run, asked.pay) > asked.profit:
            raise ValueError("The pay, with the employer's payroll tax, is more than the profit.")

    def of(self, kind: str) -> Compared:
        return {"sole": self._sole, "partnership": self._partnership, "s-corp": self._s_corp, "c-corp": self._c_corp}[kind]()

    def _sole(self) -> Compared:
        books = {"activity": "Business", "code": "999999", "participates": "yes", "receipts": _text(self.asked.profit)}
        return self._compared("sole", self.asked.profit, [self._paper("business", books)])

    def _partnership(self) -> Compared:
        """Half each. The spouse's half is on the same return; somebody else's is not counted at all."""
        half, state = cents(self.asked.profit * _HALF), self._state_tax(self.asked.profit, "partnership")
        income = half - cents(state * _HALF)
        share = {"ordinary": _text(income), "self_employment": _text(income), "qualified_income": _text(income)}
        papers = [self._share("k1-1065", share, self.asked.owner)]
        both = self.asked.partner == "spouse"
        if both:
            other = "spouse" if self.asked.owner == "taxpayer" else "taxpayer"
            papers.append(self._share("k1-1065", share, other, "2"))
        profit = self.asked.profit if both else half
        return self._compared("partnership", profit, papers, entity_tax=state if both else cents(state * _HALF))

    def _s_corp(self) -> Compared:
        pay, employer = self.asked.pay, employers_tax(self.run, self.asked.pay)
        before = self.asked.profit - pay - employer
        state = self._state_tax(before, "s_corporation")
        share = {"ordinary": _text(before - state), "qualified_income": _text(before - state), "qualified_wages": _text(pay)}
        papers = [self._share("k1-1120s", share, self.asked.owner), *self._wages()]
        return self._compared("s-corp", self.asked.profit, papers, pay=pay, entity_tax=state)

    def _c_corp(self) -> Compared:
        """All that is left after tax is distributed as qualified dividends."""
        pay, employer = self.asked.pay, employers_tax(self.run, self.asked.pay)
        before = self.asked.profit - pay - employer
        state = self._state_tax(before, "corporation")
        federal = cents((before - state) * self.law.corporation.rate)
        paid = before - state - federal
        dividends = self._paper("1099-div", {"payer": "Corporation", "dividends": _text(paid), "qualified": _text(paid)})
        return self._compared(
            "c-corp", self.asked.profit, [dividends, *self._wages()], pay=pay, entity_tax=state + federal, dividends=paid
        )

    def _compared(
        self, kind: str, profit: Decimal, papers: list[PaperValues], *, pay: Decimal = ZERO, entity_tax: Decimal = ZERO,
        dividends: Decimal = ZERO,
    ) -> Compared:  # fmt: skip
        result = compute(self.run.pack, self.rest.but(papers=(*self.rest.papers, *papers)))
        payroll = employees_tax(self.run, pay) + employers_tax(self.run, pay)
        owner = self._owed(result)
        income = result.run.form("us.1040")
        earned = sum((one.tax for one in result.run.every("us.sch-se")), ZERO)
        room = self._room(pay) if pay else self._own_room(result, profit)
        return Compared(
            kind, result, profit, pay, payroll, entity_tax, dividends, earned, income.business_deduction, owner,
            owner - self.before + payroll + entity_tax, room,
        )  # fmt: skip

    def _owed(self, result: Result) -> Decimal:
        """The tax of the return, less Social Security tax that two employers withheld too much of."""
        return total_tax(result) - result.run.form("us.sch-3").excess_social_security

    def _state_tax(self, income: Decimal, name: str) -> Decimal:
        if self.home not in self.law.states:
            return ZERO
        law = self.law.states[self.home]
        return cents(max(income - law.exempt[name], ZERO) * law[name])

    def _room(self, pay: Decimal) -> Decimal:
        return cents(min(min(pay, self.plans.pay) * Decimal("0.25"), self.plans.additions))

    def _own_room(self, result: Result, profit: Decimal) -> Decimal:
        """A fifth of the profit less half the self-employment tax, which is a quarter of what is left after it."""
        half = sum((one.half for one in result.run.every("us.sch-se")), ZERO)
        return cents(min(max(min(profit - half, self.plans.pay), ZERO) * self.plans.share, self.plans.additions))

    def _wages(self) -> list[PaperValues]:
        pay = _text(self.asked.pay)
        rows = [{"id": "1", "state": self.home, "wages": pay}] if self.home and self.home not in UNTAXED else []
        values = {"owner": self.asked.owner, "employer": "Corporation", "wages": pay, "states": rows}
        return [PaperValues(_PAID, "w2", values)] if self.asked.pay else []

    def _share(self, kind: str, amounts: dict[str, str], owner: str, number: str = "") -> PaperValues:
        known = {"owner": owner, "entity": "Business", "participates": "yes", "all_at_risk": "yes"}
        return PaperValues(f"{_ENTITY}{number}", kind, known | amounts)

    def _paper(self, kind: str, values: dict[str, str]) -> PaperValues:
        return PaperValues(_ENTITY, kind, {"owner": self.asked.owner} | values)


def _text(amount: Decimal) -> str:
    return f"{cents(amount):f}"
