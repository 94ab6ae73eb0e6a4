"""What every state's return may say about itself: the same few diagnostics for each, under the state's own code."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from taxcore.engine import PaperValues, check, compute, found, stops
from taxcore.engine import law as law_files
from taxcore.packs.us import places
from taxcore.packs.us.federal.trades import TRADES
from taxcore.packs.us.papers.shares import KINDS as SHARES
from taxcore.packs.us.states.base import files_in, folder

_NOT_YET = "is not computed yet. This return cannot be filed with it from here."


def common(code: str, name: str, form: str, *, use_tax: bool = True, lines: bool = True) -> tuple[Any, ...]:
    """The checks of one state. `form` is the code of its return; `use_tax` says whether it asks for it, `lines` whether the
    numbers of its lines still need comparing."""
    mark = f"us-{code.lower()}"
    checks = [
        _mover(mark, name, code),
        _shared_by_days(mark, name, code),
        _payments(mark, name, code, form),
        _by_hand(mark, name, code),
    ]
    if any("planning" in law_files.load(folder(code), year) for year in law_files.years(folder(code))):
        checks.append(_planning(mark, name, code, form))
    if use_tax:
        checks.append(_use_tax(mark, name, code))
    if lines:
        checks.append(_lines(mark, name, code, form))
    return tuple(checks)


def _use_tax(mark, name, code):
    @check(f"{mark}.use-tax-open", f"{name}: use tax is not answered", "missing")
    def use_tax_not_answered(run: Any) -> Iterator[Any]:
        questions = run.single(f"{code.lower()}-questions")
        if files_in(run, code) and not questions.is_answered("use_tax"):
            says = f"{name} asks for use tax. Ask about untaxed purchases, and enter 0 if none."
            yield found(questions.address("use_tax"), says)

    return use_tax_not_answered


def _lines(mark, name, code, form):
    @check(f"{mark}.lines-unconfirmed", f"{name}: line numbers not compared with the form", "unlikely")
    def lines_unconfirmed(run: Any) -> Iterator[Any]:
        if files_in(run, code):
            says = (
                f"{name}'s amounts and line numbers follow the law cited and were not compared with this year's printed "
                "form. Compare them once before the first return of the year is filed."
            )
            yield found(run.form(form).address("owed"), says)

    return lines_unconfirmed


def _planning(mark, name, code, form):
    @check(f"{mark}.planning-amounts", f"{name}: prior year amounts, for planning", "next-year")
    def amounts_of_another_year(run: Any) -> Iterator[Any]:
        if files_in(run, code) and "planning" in run.laws[mark]:
            known = run.laws[mark].planning.amounts_of
            says = f"{name}'s amounts of {run.year} were not known: those of {known} are used, for planning only."
            yield found(run.form(form).address("owed"), says)

    return amounts_of_another_year


def _mover(mark, name, code):
    @stops(
        f"{mark}.sales-of-mover",
        f"{name}: sales by part-year residents or of real estate, without dates or with limited losses",
        "unsupported",
    )
    def mover(run: Any) -> Iterator[Any]:
        kind = places.calls(run, code) if files_in(run, code) else ""
        at = _undated(run) if kind == places.PART else _limited(run) if kind == places.NONE and _land(run, code) else ""
        if at:
            says = f"{name}'s part of these sales {_NOT_YET} Enter the dates of sale; losses must be within the year's limit."
            yield found(at, says)

    return mover


def _undated(run: Any) -> str:
    """Where sales of a mover cannot be given to a state: totals without days, a carried loss, a loss cut by the limit."""
    for kind in ("1099-b", "1099-da"):
        for paper in run.papers(kind):
            if (paper.values.get("summaries") and paper.summaries) or any(row.sold is None for row in paper.sales):
                return str(paper.address_prefix)
    return _limited(run)


def _land(run: Any, code: str) -> bool:
    """Whether land or a house in the state was sold."""
    return any(places.situated(paper) == code for paper in run.papers("1099-b"))


def _limited(run: Any) -> str:
    """Where a loss of sales is carried or cut by the limit, so that no part of it can be named."""
    if run.is_idle("us.sch-d"):
        return ""
    schedule, carried = run.form("us.sch-d"), run.single("capital-carryover")
    cut = schedule.together != schedule.counted or carried.short_term or carried.long_term
    return str(schedule.address("together")) if cut else ""


def _shared_by_days(mark, name, code):
    @check(f"{mark}.shared-by-days", f"{name}: business or K-1 income allocated by days or receipts", "unlikely")
    @check(f"{mark}.wages-by-days", f"{name}: part-year wages allocated by days", "unlikely")
    @check(f"{mark}.adjustments-by-income", f"{name}: adjustments allocated by income", "unlikely")
    def shared_by_days(run: Any) -> Iterator[Any]:
        if not files_in(run, code) or places.calls(run, code) == places.WHOLE:
            return
        for kind in (*TRADES, *SHARES):
            for paper in run.papers(kind):
                yield found(
                    paper.address_prefix,
                    f"{paper.title}: {name}'s share follows receipts by state where entered, otherwise days of "
                    "residence. Enter the state rows if the books differ.",
                    code=f"{mark}.shared-by-days",
                )
        for wage in _by_days(run, code):
            says = (
                f"{wage.title}: no state row allocates these wages to a state of residence, so {name} includes them by "
                "days. Enter the state rows if the wages were earned before or after the move."
            )
            yield found(wage.address("wages"), says, code=f"{mark}.wages-by-days")
        if run.form("us.1040").adjustments:
            says = f"{name}'s share of adjustments: business adjustments follow the profit, the others follow income. Check it."
            yield found(run.form("us.1040").address("adjustments"), says, code=f"{mark}.adjustments-by-income")

    return shared_by_days


def _by_days(run: Any, code: str) -> Iterator[Any]:
    """Wages of people who moved, of which no state lived in, or none at all, is named."""
    for wage in run.papers("w2"):
        homes = places.days_in(run, wage.owner or "taxpayer")
        named = {row.state for row in wage.states if row.state}
        if code in homes and len(homes) > 1 and (not named or named - set(homes)):
            yield wage


def _payments(mark, name, code, form):
    @check(f"{mark}.underpaid", f"{name}: underpayment penalty possible", "missing")
    @check(f"{mark}.applied-too-much", f"{name}: applied to next year exceeds the overpayment", "conflict")
    def payments(run: Any) -> Iterator[Any]:
        if not files_in(run, code):
            return
        home, questions = run.form(form), run.single(f"{code.lower()}-questions")
        if home.owed > home.law.underpayment.owed_above and not home.penalty_is_known:
            says = f"{home.owed:,} is due to {name}. An underpayment penalty may apply; it is left to the state."
            yield found(home.address("owed"), says, code=f"{mark}.underpaid")
        if questions.applied_to_next_year > home.overpaid:
            says = (
                f"{questions.applied_to_next_year:,} is to be applied to next year in {name}, {home.overpaid:,} was overpaid. "
                "Enter no more than that."
            )
            yield found(questions.address("applied_to_next_year"), says, code=f"{mark}.applied-too-much")

    return payments


def _by_hand(mark, name, code):
    @check(f"{mark}.added-by-hand", f"{name}: manual addition or subtraction", "unlikely")
    def by_hand(run: Any) -> Iterator[Any]:
        questions = run.single(f"{code.lower()}-questions")
        if files_in(run, code):
            for field in ("other_additions", "other_subtractions"):
                if getattr(questions, field):
                    says = f"{getattr(questions, field):,} was entered manually for {name}. Attach what explains it."
                    yield found(questions.address(field), says)

    return by_hand


def answered(run: Any, kind: str, name: str, value: str) -> Any:
    """The result if one question of a state were answered otherwise. The return itself stays as it is."""
    given = next((paper for paper in run.data.papers if paper.kind == kind), PaperValues(kind, kind))
    other = replace(given, values={**given.values, name: value})
    papers = (*(paper for paper in run.data.papers if paper is not given), other)
    return compute(run.pack, run.data.but(papers=papers))


def in_doubt(mark: str, name: str, what: str, title: str, cites: str, where: Any) -> Any:
    """A check for a rule that was settled without the printed form. `where(run)` is (address, what was done), or nothing."""

    @check(f"{mark}.{what}", f"{name}: {title}", "unlikely", cites)
    def settled_in_doubt(run: Any) -> Iterator[Any]:
        at = where(run) if files_in(run, mark.partition("-")[2].upper()) else None
        if at:
            yield found(at[0], f"{name}: {at[1]} Compare it with the form.")

    return settled_in_doubt


def unsupported(mark: str, name: str, what: str, title: str, cites: str, where: Any) -> Any:
    """A check that stops filing with the name of law that is not computed. `where(run)` is the address, or nothing."""

    @stops(f"{mark}.{what}", f"{name}: {title}", "unsupported", cites)
    def law_not_computed(run: Any) -> Iterator[Any]:
        code = mark.partition("-")[2].upper()
        at = where(run) if files_in(run, code) else None
        if at:
            yield found(at, f"{name}: {title[0].lower()}{title[1:]} {_NOT_YET}")

    return law_not_computed
