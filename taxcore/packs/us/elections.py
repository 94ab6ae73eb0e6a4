"""What federal law and the states leave to whoever files, where the papers make a difference of it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from taxcore.engine import ZERO, total
from taxcore.packs.us.papers.credits import CREDITS
from taxcore.packs.us.papers.shares import KINDS
from taxcore.packs.us.states.base import files_in
from taxcore.whatif.choosing import Election, Way


def elections(run: Any) -> tuple[Election, ...]:
    """Those of this return. What an option wants besides stands with it: who deducts foreign tax enters it on Schedule A."""
    return (*_itemizing(run), *_education(run), *_foreign(run), *_investment(run), *_home(run), *_car(run), *_wisconsin(run))


def _itemizing(run: Any) -> Iterator[Election]:
    if run.form("us.sch-a").before_limit > 0:
        mark = "itemized/itemized/choice"
        yield Election(
            "Standard or itemized deduction",
            "IRC 63(e)",
            (Way("Standard", {mark: "standard"}), Way("Itemized", {mark: "itemise"})),
        )


def _education(run: Any) -> Iterator[Election]:
    """One of the two for each student, whichever schools they went to."""
    students = dict.fromkeys(paper.student for paper in run.papers("1098-t") if paper.paid > 0 and paper.student)
    for student in students:
        form = run.form("us.8863-student", student)
        if form.not_allowed:
            continue
        marks = [f"1098-t/{paper.key}/credit" for paper in run.papers("1098-t") if paper.student == student]
        codes = ("lifetime", "none") if form.not_american else ("american", "lifetime", "none")
        ways = tuple(Way(CREDITS[code], dict.fromkeys(marks, code)) for code in codes)
        person = next(one for one in run.people() if one.key == student)
        yield Election(f"Education credit, {person.title}", "IRC 25A(c)(2)(A), (g)", ways)


def _foreign(run: Any) -> Iterator[Election]:
    papers = [paper for kind in ("1099-int", "1099-div", *KINDS) for paper in run.papers(kind)]
    tax = total([paper.foreign_tax for paper in papers], run.single("foreign-tax").other_tax)
    if tax <= 0:
        return
    mark, deducted = "foreign-tax/foreign-tax/deduct_instead", "itemized/itemized/other_taxes"
    now, taken = run.single("itemized").other_taxes, run.single("foreign-tax").deduct_instead
    with_tax, without = (now, max(now - tax, ZERO)) if taken else (now + tax, now)
    credit = Way("Credit", {mark: "no", deducted: f"{without:f}"})
    deduction = Way("Deduction", {mark: "yes", deducted: f"{with_tax:f}"})
    yield Election("Foreign tax", "IRC 901(a), 164(a)(3), 275(a)(4)", (credit, deduction))


def _investment(run: Any) -> Iterator[Election]:
    """Gain and qualified dividends taxed at full rates so that more investment interest is deducted."""
    form = run.form("us.4952")
    least, gains = form.deduction, total(form.net_gain, form.interest.qualified)
    short = min(total(form.together) - least, gains)
    elected = run.single("itemized").gains_as_income
    if short > 0 or elected > 0:
        mark = "itemized/itemized/gains_as_income"
        yield Election(
            "Gain and qualified dividends as investment income", "IRC 163(d)(4)(B)",
            (Way("None", {mark: "0"}), Way(f"{max(short, elected):,.0f} of it", {mark: f"{max(short, elected):f}"})),
        )  # fmt: skip


def _home(run: Any) -> Iterator[Election]:
    costs = ("home_direct", "home_interest", "home_taxes", "home_insurance")
    for paper in run.papers("business"):
        if paper.home_area and paper.home_total and any(getattr(paper, name) for name in costs):
            mark = f"business/{paper.key}/home_method"
            ways = (Way("Simplified method", {mark: "simplified"}), Way("Regular method", {mark: "regular"}))
            yield Election(f"Home office, {paper.title}", "Rev. Proc. 2013-13; IRC 280A(c)", ways)


def _car(run: Any) -> Iterator[Election]:
    """Free in the first year; later the mileage rate only follows itself: Rev. Proc. 2019-46, sec. 4.05."""
    for paper in run.papers("business"):
        first = paper.car_placed is not None and paper.car_placed.year == run.year
        if first and paper.miles and paper.car_actual:
            mark = f"business/{paper.key}/car_method"
            ways = (Way("Standard mileage rate", {mark: "miles"}), Way("Actual expenses", {mark: "actual"}))
            yield Election(f"Vehicle, {paper.title}", "Rev. Proc. 2019-46; IRC 274(d)", ways)


def _wisconsin(run: Any) -> Iterator[Election]:
    if not files_in(run, "WI"):
        return
    form = run.form("us-wi.form-1")
    if "retirement_exclusion" in form.law and form.here.retirement and form.aged(form.law.retirement_exclusion.age):
        mark = "wi-questions/wi-questions/pension_exclusion"
        ways = (Way("With the credits", {mark: "no"}), Way("The larger exclusion", {mark: "yes"}))
        yield Election("Wisconsin retirement income", "2025 Wisconsin Act 15", ways)
