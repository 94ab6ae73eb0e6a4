"""What a client may do: room in pension and health accounts and what using it saves, how far the next band is, filing separately,
withholding for next year. Everything is computed by running the return again with something changed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal
from typing import Any

from taxcore.engine import ZERO, Advice, Pack, PaperValues, Result, ReturnData, compute
from taxcore.packs.us import apart
from taxcore.packs.us.dividing import Division
from taxcore.whatif.trials import Trials

_WORTH = Decimal(100)  # smaller room is not worth a sentence
_PAYS = 26  # pay days of a year, every second week


def advice(result: Result) -> list[Advice]:
    """All items for a return, in the order of the page. Nothing is said of a return without income."""
    if result.run.form("us.1040").total_income <= 0 or result.run.person("taxpayer") is None:
        return []
    now, planned = _this_year(result), _next_year(result)
    found = [
        *_pensions(result, now, planned),
        *_health(result, now, planned),
        *_bands(result),
        *_apart(result),
        *_withholding(result, planned),
    ]
    return found + _ideas(result)


class _Year:
    """A year's facts, and what a change of its papers would save in that year. `result` is None where no law is known yet."""

    def __init__(self, pack: Pack, year: int, data: ReturnData | None, result: Result | None):
        self.pack, self.year, self.data, self.result = pack, year, data, result
        self._trials = Trials(pack)

    def saves(self, change: Any) -> Decimal | None:
        if self.data is None or self.result is None:
            return None
        return _together(self._trials.of(self.data.but(papers=change(self.data)))) - _together(self.result)


def _this_year(result: Result) -> _Year:
    return _Year(result.run.pack, result.year, result.run.data, result)


def _next_year(result: Result) -> _Year:
    """The same facts a year later, by the law that is known already."""
    pack, year = result.run.pack, result.year + 1
    data = result.run.data.but(year=year, last_year=None, amends=None) if year in pack.years else None
    return _Year(pack, year, data, compute(pack, data) if data is not None else None)


def _together(result: Result) -> Decimal:
    """All authorities' bottom lines: refunds less balances."""
    return sum((line.amount for line in result.bottom_lines), ZERO)


def _adding(kind: str, owner: str, name: str, more: Decimal) -> Any:
    """A change that raises one amount of a person's paper, which is made where there is none."""

    def change(data: ReturnData) -> tuple[PaperValues, ...]:
        mine = [one for one in data.papers if one.kind == kind and (one.values.get("owner") or "taxpayer") == owner]
        if not mine:
            return (*data.papers, PaperValues(f"advice-{owner}", kind, {"owner": owner, name: str(more)}))
        first = mine[0]
        raised = str(Decimal(str(first.values.get(name) or 0)) + more)
        return tuple(replace(one, values={**one.values, name: raised}) if one is first else one for one in data.papers)

    return change


def _pensions(result: Result, now: _Year, planned: _Year) -> Iterator[Advice]:
    run = result.run
    law = run.laws["us"]
    for person in run.form("us.1040").filers:
        role = person.role
        account = next(iter(run.papers("ira", role)), None)
        paid = account.traditional + account.roth if account is not None else ZERO
        older = (person.age_at_end() or 0) >= law.ira.catch_up_age
        most = law.ira.limit + (law.ira.catch_up if older else 0)
        room = min(most, run.form("us.earned-income", role).compensation) - paid
        if room >= _WORTH:
            change = _adding("ira", role, "traditional", room)
            saves = now.saves(change) or ZERO
            yield Advice(
                f"ira-{role}", f"An IRA for {person.title}",
                f"By the due date {person.title} can still contribute {room:,.0f} to an IRA for {run.year}."
                + ("" if saves > 0 else " It would not lower this year's tax; a Roth IRA would grow tax-free."),
                (("Contribution limit", most), ("Contributed so far", paid), ("Room", room)),
                saves, planned.saves(change), saves > 0, run.form("us.1040").address("adjusted_gross_income"),
                "IRC 219, 408A",
            )  # fmt: skip
        yield from _plan_at_work(result, planned, person)
    for form in run.every("us.plans"):
        books = next(iter(run.papers("business", form.key)), None)
        room = form.employer_limit - form.by_employer
        if books is not None and room >= 10 * _WORTH and not form.deferred and not form.simple:
            change = _of_paper(books.key, "business", "sep", room)
            yield Advice(
                f"sep-{form.key}", f"A retirement plan for {books.title}",
                f"A SEP can still be set up and up to {room:,.0f} contributed by the due date, extensions included.",
                (("Earned income", form.earnings), ("Contributed so far", form.by_employer), ("Room", room)),
                now.saves(change), planned.saves(change), True, form.address("deduction"), "IRC 404(h)",
            )  # fmt: skip


def _of_paper(key: str, kind: str, name: str, more: Decimal) -> Any:
    def change(data: ReturnData) -> tuple[PaperValues, ...]:
        return tuple(
            replace(one, values={**one.values, name: str(Decimal(str(one.values.get(name) or 0)) + more)})
            if (one.kind, one.id) == (kind, key)
            else one
            for one in data.papers
        )

    return change


def _plan_at_work(result: Result, planned: _Year, person: Any) -> Iterator[Advice]:
    """Deferrals are over for this year; next year's are still open."""
    run = result.run
    papers = [wage for wage in run.papers("w2", person.role) if sum(wage.coded({"D", "E"})) > 0]
    if not papers or planned.result is None:
        return
    law = planned.result.run.laws["us"].deferrals
    older = (person.years_old() or 0) + 1 >= 50
    deferred = sum((sum(wage.coded({"D", "E"})) for wage in papers), ZERO)
    most = law.limit + (law.catch_up if older else 0)
    room = min(most - deferred, papers[0].wages / 4)
    if room < 10 * _WORTH:
        return

    def change(data: ReturnData) -> tuple[PaperValues, ...]:
        key = papers[0].key
        return tuple(
            replace(one, values=_deferring(one, room)) if (one.kind, one.id) == ("w2", key) else one for one in data.papers
        )

    yield Advice(
        f"plan-{person.role}", f"More into the plan at {papers[0].title}",
        f"{person.title} deferred {deferred:,.0f} this year; {most:,.0f} may be deferred in {planned.year}. "
        f"The saving is for {room:,.0f} more.",
        (("Deferred this year", deferred), (f"Most in {planned.year}", most)), None, planned.saves(change), True,
        papers[0].address("codes"), "IRC 402(g), 414(v)",
    )  # fmt: skip


def _deferring(wage: PaperValues, more: Decimal) -> dict[str, Any]:
    """The same pay, more of it deferred: boxes 1 and 16 fall, the deferral of box 12 rises, Social Security stays."""
    rows = [dict(row) for row in wage.values.get("codes") or ()]
    row = next(row for row in rows if row.get("code") in ("D", "E"))
    row["amount"] = str(Decimal(str(row.get("amount") or 0)) + more)
    states = [{**row, "wages": str(Decimal(str(row.get("wages") or 0)) - more)} for row in wage.values.get("states") or ()]
    return {**wage.values, "wages": str(Decimal(str(wage.values["wages"])) - more), "codes": rows, "states": states}


def _health(result: Result, now: _Year, planned: _Year) -> Iterator[Advice]:
    run = result.run
    for form in run.every("us.8889"):
        room = form.left - form.paid_in
        if run.papers("hsa", form.key) and room >= _WORTH:
            person, change = run.person(form.key), _adding("hsa", form.key, "paid_in", room)
            yield Advice(
                f"hsa-{form.key}", f"The health savings account of {person.title}",
                f"By the due date {room:,.0f} can still be contributed for {run.year}.",
                (("Contribution limit", form.limit), ("Employer contributions", form.employer), ("Paid in", form.paid_in)),
                now.saves(change), planned.saves(change), True, form.address("limit"), "IRC 223",
            )  # fmt: skip


def _bands(result: Result) -> Iterator[Advice]:
    run = result.run
    form = run.form("us.1040")
    law, income = run.laws["us"], max(form.taxable_income - max(form.qualified_dividends, ZERO), ZERO)
    bands = law.income_tax[form.status]
    at = max(place for place, (begins, _) in enumerate(bands) if income >= begins)
    begins, rate = bands[at]
    facts: list[tuple[str, Any]] = [("Taxable income", form.taxable_income), ("Highest marginal rate", f"{rate:.0%}")]
    if at + 1 < len(bands):
        ends, following = bands[at + 1]
        facts += [("Room to the next bracket", ends - income), ("Next bracket rate", f"{following:.0%}")]
        says = f"Another {ends - income:,.0f} of ordinary income is taxed at {rate:.0%}, what follows at {following:.0%}."
        if at:
            says += f" {income - begins:,.0f} less would bring income into the {bands[at - 1][1]:.0%} bracket."
    else:
        says = f"Income is in the highest bracket, {rate:.0%}."
    yield Advice(
        "bands",
        "Distance to the next bracket",
        says,
        tuple(facts),
        shown=False,
        at=form.address("taxable_income"),
        cites="IRC 1(j)",
    )
    zero = law.capital_gains.zero_up_to[form.status]
    if form.taxable_income < zero and (run.papers("1099-b") or run.papers("1099-div")):
        room = zero - form.taxable_income
        yield Advice(
            "zero-gains", "Capital gains taxed at 0%",
            f"Long-term gains of up to {room:,.0f} more would have been taxed at 0% this year. Review before next year end.",
            (("Taxable income", form.taxable_income), ("0% rate up to", zero)), shown=False,
            at=form.address("taxable_income"), cites="IRC 1(h)",
        )  # fmt: skip


def _apart(result: Result) -> Iterator[Advice]:
    """A joint return against two: amounts of both halved, dependents with whoever earns more. An estimate, and said to be one."""
    run = result.run
    form = run.form("us.1040")
    if form.status != "joint" or run.person("spouse") is None or run.person("spouse").death_date is not None:
        return
    earned = {role: run.form("us.earned-income", role).earned for role in ("taxpayer", "spouse")}
    with_children = "spouse" if earned["spouse"] > earned["taxpayer"] else "taxpayer"
    both = [compute(run.pack, apart.everywhere(run, role, Division(with_children))) for role in ("taxpayer", "spouse")]
    amount = sum((_together(one) for one in both), ZERO)
    saves = amount - _together(result)
    if abs(saves) < _WORTH / 2:
        return
    says = (
        f"Married filing separately would save about {saves:,.0f} in total. Joint items were split in half and "
        "dependents assigned to the spouse who earns more: prepare both returns before deciding."
        if saves > 0
        else f"Married filing jointly saves about {-saves:,.0f} over two separate returns, with joint items split in half."
    )
    yield Advice(
        "apart", "Joint or separate", says, (("Joint", _together(result)), ("Two returns", amount)),
        saves if saves > 0 else None, None, saves > 0, run.single("filing").address("status"), "IRC 1(d), 6013",
    )  # fmt: skip


def _withholding(result: Result, planned: _Year) -> Iterator[Advice]:
    if planned.result is None:
        return
    now, then = result.run.form("us.1040"), planned.result.run.form("us.1040")
    balance = then.payments - then.total_tax
    if abs(balance) < 5 * _WORTH or not now.withheld:
        return
    each, year = abs(balance) / _PAYS, planned.year
    if balance > 0:
        says = (
            f"With the same income and withholding, {balance:,.0f} would be refunded for {year}: {each:,.0f} of each "
            "biweekly paycheck."
        )
    else:
        says = (
            f"With the same income and withholding, {-balance:,.0f} would be owed for {year}: {each:,.0f} more of each "
            "biweekly paycheck should be withheld, or estimated tax paid."
        )
    facts = ((f"Tax of {year} on the same facts", then.total_tax), ("Withholding as this year", then.payments))
    yield Advice(
        "withholding",
        f"Withholding in {year}",
        says,
        facts,
        shown=balance < 0,
        at=now.address("withheld"),
        cites="IRC 3402, 6654",
    )


_TOLD = {"missed", "next-year", "carried", "lost", "election"}
_WORKED_OUT = {"us.ira.room", "us.plans.room", "us.hsa.room", "us.w2.deferral-room"}  # above, with what they save


def _ideas(result: Result) -> list[Advice]:
    """What the diagnostics' ideas say, off unless a preparer finds one worth telling."""
    known = result.run.pack.diagnostics
    return [
        Advice(f"idea-{one.code}:{one.at[0]}"[:120], known[one.code].title, one.says, shown=False, at=one.at[0], cites=one.cites)
        for one in result.findings
        if one.weight == "idea" and one.kind in _TOLD and one.code not in _WORKED_OUT
    ]
