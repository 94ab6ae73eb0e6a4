"""What the states' returns share: when there is one, what was paid to it, and the credit for what other states tax.

No state's law is in here. A state's forms derive from `StateForm` and name their own lines.
"""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Any, ClassVar

from taxcore.engine import (
    ZERO,
    Amount,
    Authority,
    Flag,
    Form,
    Paper,
    excess,
    fact,
    greatest,
    least,
    linked,
    nothing_because,
    pro_rata,
    ratio,
    share,
    total,
    whole,
)
from taxcore.packs.us import couples, holidays, places
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.papers.shares import KINDS as SHARES


@cache
def folder(code: str) -> Path:
    """Where a state's years are."""
    return couples.state_folder(code) / "years"


def has_law(run: Any, code: str) -> bool:
    return bool(run.has_law(folder(code)))


def files_in(run: Any, code: str) -> bool:
    """Whether there is a return of this state: it is called for, in a year whose law is here. Other years stop filing by name."""
    return has_law(run, code) and places.calls(run, code) != ""


def authority(code: str, name: str, form: type[Form], **options: Any) -> Authority:
    """A state's authority; `options` are those of Authority: `due`, the names of lines, what its signature is called."""
    options.setdefault("closed", holidays.of_state(code.upper()))
    return Authority(
        code=f"us-{code.lower()}",
        name=name,
        form=form,
        refund="refund",
        owed="owed",
        after="us",
        amended=f"us-{code.lower()}.amended-return",
        applies=lambda run: files_in(run, code),
        files=lambda run: run.single("filing").only_state in ("", code),
        has_law=lambda run: has_law(run, code),
        **options,
    )


class StateQuestions(Paper):
    """What a state asks and no federal paper answers. Each state's own paper derives from it and adds its questions."""

    single, owned, group, goes_on = True, False, "places", True
    not_asked: ClassVar[tuple[str, ...]] = ()  # names of questions below that the state's return has no line for

    def __init_subclass__(cls, **kwargs: Any) -> None:
        """A state's own questions come before those that all states ask."""
        super().__init_subclass__(**kwargs)
        fields = {name: field for name, field in cls._fields.items() if name in vars(cls)} | cls._fields
        cls._fields = {name: field for name, field in fields.items() if name not in cls.not_asked}

    use_tax = Amount(None, "Use tax", help="Enter 0 if none.", alike=True, begins="All states")
    address_changed = Flag(None, "Address differs from last year's return")
    talk_to_preparer = Flag(None, "Preparer may discuss the return with the state", alike=True, kept=True)
    cheque = Flag(
        None, "Refund by paper check", help="If empty, deposited to the account of the federal refund.", alike=True, kept=True
    )
    applied_before = Amount(None, "Last year's overpayment applied", begins="Payments", opens=APPLIED)
    applied_to_next_year = Amount(None, "Overpayment applied to next year")
    other_additions = Amount(None, "Other additions", help="Additions that are not computed here.", begins="Manual entries")
    other_subtractions = Amount(None, "Other subtractions", help="Subtractions that are not computed here.")


class StateForm(Form):
    """Base of a state's forms; of its worksheets too."""

    rounding = staticmethod(whole)
    federal = linked("us.1040")

    @classmethod
    def state(cls) -> str:
        return cls.jurisdiction.partition("-")[2].upper()

    @classmethod
    def idle(cls, run: Any) -> bool:
        return not files_in(run, cls.state())

    @classmethod
    def keys(cls, run: Any) -> Any:
        """Of forms for each person: those who file. A spouse who files separately is on the return by name only."""
        return [one.role for one in run.form("us.1040").filers] if cls.per == "person" else super().keys(run)

    @property
    def questions(self) -> Any:
        return self.paper(f"{self.state().lower()}-questions")

    @property
    def kind_of_return(self) -> str:
        """full-year, part-year or nonresident."""
        return places.calls(self.run, self.state())

    @property
    def is_whole(self) -> bool:
        return self.kind_of_return == places.WHOLE

    @property
    def everywhere(self) -> Any:
        """Income as if it all were this state's."""
        return self.run.form(f"{self.jurisdiction}.income-everywhere")

    @property
    def here(self) -> Any:
        """The income that is this state's: all of it where everybody lived here the whole year."""
        return self.everywhere if self.is_whole else self.run.form(f"{self.jurisdiction}.income-here")

    @property
    def is_joint(self) -> bool:
        return self.federal.status == "joint"

    survives_as: ClassVar[str] = "single"  # whose amounts a surviving spouse has: what the law gives couples it gives the married

    def by_status(self, table: Any) -> Any:
        """An entry of the law by filing status: the one of a single person where the status has none of its own."""
        status = self.survives_as if self.federal.status == "surviving_spouse" else self.federal.status
        return table[status if status in table else "single"]

    def dependants(self) -> list[Any]:
        return [one for one in self.every("us.dependent") if one.is_dependant]

    def aged(self, years: int = 65) -> int:
        return sum(1 for person in self.federal.filers if (person.age_at_end() or 0) >= years)

    def blind(self) -> int:
        return sum(1 for person in self.federal.filers if person.blind)

    def of_shares(self, name: str) -> list[Any]:
        """An amount of this state's row on Schedules K-1."""
        rows = [row for kind in SHARES for paper in self.papers(kind) for row in paper.states]
        return [getattr(row, name) for row in rows if row.state == self.state()]

    def withheld_here(self, *, local: bool = False) -> Any:
        rows = [row for paper in self.run.all_papers() for row in getattr(paper, "states", ()) if row.state == self.state()]
        return total([row.withheld for row in rows], [getattr(row, "local_withheld", ZERO) for row in rows] if local else ())

    def estimates_here(self) -> Any:
        return total([row.amount for row in self.paper("estimates").state_rows if row.state == self.state()])

    def by_hand(self) -> Any:
        """What a preparer adds and takes off by hand: the state's own amounts, whatever the residency."""
        return total(self.questions.other_additions, less=self.questions.other_subtractions)

    def by_assets(self) -> Any:
        """What its own depreciation adds to federal income, or takes off."""
        return total([one.difference for one in self.every(f"{self.jurisdiction}.own-depreciation")])

    def own_additions(self) -> Any:
        """Entered by hand, and what the federal return writes off sooner."""
        return total(self.questions.other_additions, excess(self.by_assets(), over=ZERO))

    def own_subtractions(self) -> Any:
        """Entered by hand, and what the state writes off later."""
        return total(self.questions.other_subtractions, excess(ZERO, over=self.by_assets()))

    def extension_here(self) -> Any:
        """What was paid with the extension: made, not only asked for."""
        return total([row.paying for row in self.paper("state-extensions").rows if row.state == self.state() and row.paid])

    def taxed_elsewhere(self) -> list[Any]:
        """What other states tax of the income that is counted here; of a mover as much as belongs to the time in this state.

        A state where there is a loss taxes nothing: a credit is never below zero.
        """
        if self.kind_of_return == places.NONE:
            return []
        found = places.taxed_elsewhere(self.run, self.state())
        counted = found if self.is_whole else map(self._counted_here, found)
        return [one for one in counted if one.income > 0]

    def _counted_here(self, one: Any) -> Any:
        counted = self.here.counted_of(one.state)
        if one.income <= 0:
            return places.TaxedElsewhere(one.state, counted, ZERO, ZERO)
        tax, taxable = (pro_rata(amount, counted, one.income) for amount in (one.tax, one.taxable))
        return places.TaxedElsewhere(one.state, counted, tax, taxable)

    def credit_for_others(self, tax: Any, base: Any) -> Any:
        """Tax paid to other states, in each no more than the tax here on the income that both tax, nor all more than the tax.

        `base` is all income that a resident's tax is on; a mover's is the part that is this state's.
        """
        elsewhere = self.taxed_elsewhere()
        if not elsewhere:
            return nothing_because(self.no_other_state)
        of = base if self.is_whole else self.here.agi
        return least(of={"all states": total([self.credited(one, tax, of) for one in elsewhere]), "tax": tax})

    @property
    def no_other_state(self) -> str:
        return "it is for residents" if self.kind_of_return == places.NONE else "no other state taxes this income"

    def reverse_credit(self, tax: Any, base: Any) -> Any:
        """What the home state taxes of a nonresident's income here, where the credit is given here and not there."""
        home = places.taxed_at_home(self.run, self.state())
        if home is None:
            return nothing_because("the home state credits its own residents")
        there = pro_rata(home.tax, base, home.income) if home.income > 0 and base > 0 else ZERO
        return least(of={"tax at home on the same income": there, "tax here": tax})

    def credited(self, one: Any, tax: Any, base: Any) -> Any:
        """What is credited for one other state; a state whose law limits it otherwise has its own."""
        if base <= 0:
            return nothing_because("there is no income to tax")
        twice = least(of={"income taxed there": one.income, "all income": base})
        return least(of={f"tax paid to {one.state}": one.tax, "tax here on the same income": pro_rata(tax, twice, base)})


class StateReturn(StateForm):
    """Base of a state's return: one form whatever the residency, so that a change of it keeps what was entered."""

    @fact("Residency", text=True)
    def residency(self):
        return self.kind_of_return

    @fact("State percentage of income", rounding=None)
    def part(self):
        """Of adjusted gross income; never above one."""
        if self.is_whole:
            return total(1)
        if self.everywhere.agi <= 0:
            return nothing_because("there is no income")
        return least(ratio(excess(self.here.agi, over=0), over=self.everywhere.agi), 1)

    @property
    def penalty_is_known(self):
        """Whether the state's penalty for paying late in the year is worked out here; else it is left to the authority."""
        return False

    def standard_of_dependant(self):
        """What the federal law leaves somebody whom others can claim: earned income and more, or the least. IRC 63(c)(5)."""
        least_of_all = self.run.laws["us"].standard_deduction.dependant_least
        return greatest(of={"earned income and more": self.federal.standard.earned, "minimum": least_of_all})

    def state_tax_in_itemized(self, *, others_only=False):
        """State and local income tax among the federal itemized deductions, in the part that the cap left; all of it, or what
        other states took."""
        federal = self.federal
        parts = federal.itemized
        if not federal.is_itemised or not parts.taxes_together or parts.state_tax != parts.state_income_tax:
            return nothing_because("no state income tax was deducted")
        deducted = least(self._paid_to_others(), parts.state_income_tax) if others_only else parts.state_income_tax
        return pro_rata(parts.taxes_capped, deducted, parts.taxes_together)

    def _paid_to_others(self):
        """Withheld for other states, and paid to them in estimates during the year."""
        rows = [row for paper in self.run.all_papers() for row in getattr(paper, "states", ()) if row.state != self.state()]
        paid = [one for one in self.paper("estimates").state_rows if one.paid and one.paid.year == self.year]
        return total([row.withheld for row in rows], [one.amount for one in paid if one.state and one.state != self.state()])

    def untaxed_unemployment(self, benefits, law):
        """What stays untaxed where a state taxes half of the income above a base, and no more than the benefits."""
        if not benefits:
            return total(0)
        base = law["separate" if self.federal.status == "separate" else "joint" if self.is_joint else "single"]
        taxed = share(law.part, of=excess(self.federal.adjusted_gross_income, over=base))
        return excess(benefits, over=taxed)


class StateExtension(StateForm):
    """More time to file with a state. Each state's own law: extension.toml in its folder; the federal one: IRC 6081.

    Worked out when asked for, whether there is a return of the state or not.
    """

    number, name, worksheet = "Extension", "State extension", True

    def required(self):
        return False

    def _row(self):
        """The row that asks this state; None where nobody asked."""
        return next((row for row in self.paper("state-extensions").rows if row.state == self.state()), None)

    @property
    def _home(self):
        """The state's return, where there is one."""
        return None if super().idle(self.run) else self.run.form(self.run.pack.authority(self.jurisdiction).form.code())

    @fact("Estimate of total tax", rounding=whole)
    def expected(self):
        row = self._row()
        if row is not None and row.is_keyed("expected_tax"):
            return total(row.expected_tax)
        return total(self._home.total_tax) if self._home else nothing_because("no return of this state is made yet")

    @fact("Total payments", rounding=whole)
    def paid(self):
        """Withheld, estimated, applied and credits that are paid out; not what goes with this."""
        home = self._home
        if home is None:
            return total(self.withheld_here(), self.estimates_here())
        return total(home.total_tax, home.overpaid, less=[home.owed, self.extension_here()])

    @fact("Balance", rounding=whole)
    def balance(self):
        return excess(self.expected, over=self.paid)

    @fact("Amount paid with extension", rounding=whole)
    def paying(self):
        return total([row.paying for row in self.paper("state-extensions").rows if row.state == self.state()])
