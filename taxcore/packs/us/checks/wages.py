"""W-2s: whether their boxes agree with each other. IRC 3101, 3121, 6051."""

from decimal import Decimal

from taxcore.engine import check, found, stops
from taxcore.packs.us.base import digits
from taxcore.packs.us.papers.wages import DEFERRED_BUT_INSURED, ELECTIVE_DEFERRALS

_CENT_ROUNDING = Decimal(1)


@stops("us.w2.employee-number-differs", "W-2 with another person's SSN", "conflict")
def employee_number_of_another(run):
    for wage in run.papers("w2"):
        owner = run.person(wage.owner) if wage.owner else None
        if owner is None or not wage.is_keyed("employee_number"):
            continue
        if digits(wage.employee_number) != digits(owner.number):
            yield found(
                wage.address("employee_number"),
                f"{wage.title}: box a is not {owner.title}'s number. Check whose W-2 this is, or ask for a corrected one.",
            )


@stops("us.w2.above-wage-base", "Social Security wages exceed the wage base", "rule", "IRC 3121(a)(1)")
def social_security_above_base(run):
    base = run.laws["us"].payroll.wage_base
    for wage in run.papers("w2"):
        if wage.social_security_wages + wage.social_security_tips > base:
            yield found(
                wage.address("social_security_wages"),
                f"{wage.title}: boxes 3 and 7 exceed {base:,}, the maximum for one employer. Compare with the paper.",
            )


@check("us.w2.box-3-differs", "Box 3 against boxes 1 and 12", "conflict", "IRC 3121(a), (v)")
def social_security_wages_differ(run):
    """Entered box 3 against box 1, the deferrals of box 12 and the wage base."""
    base = run.laws["us"].payroll.wage_base
    for wage in run.papers("w2"):
        if not wage.is_keyed("social_security_wages"):
            continue
        deferred = sum(wage.coded(DEFERRED_BUT_INSURED))
        expected = min(wage.wages + deferred, base - wage.social_security_tips)
        if abs(wage.social_security_wages - expected) > _CENT_ROUNDING:
            yield found(
                (wage.address("social_security_wages"), wage.address("wages")),
                f"{wage.title}: box 3 is {wage.social_security_wages:,}; box 1 with the deferrals of box 12 makes "
                f"{expected:,}. Compare boxes 1, 3 and 12.",
            )


@check("us.w2.box-4-differs", "Box 4 against boxes 3 and 7", "conflict", "IRC 3101(a)")
def social_security_withheld_differs(run):
    rate = run.laws["us"].payroll.social_security_rate
    for wage in run.papers("w2"):
        expected = rate * (wage.social_security_wages + wage.social_security_tips)
        if wage.is_keyed("social_security_withheld") and (abs(wage.social_security_withheld - expected) > _CENT_ROUNDING):
            yield found(
                wage.address("social_security_withheld"),
                f"{wage.title}: box 4 is {wage.social_security_withheld:,}; 6.2% of boxes 3 and 7 is "
                f"{expected:,.2f}. Compare with the paper.",
            )


@check("us.w2.box-5-below-box-3", "Box 5 below boxes 3 and 7", "conflict", "IRC 3121(a)")
def medicare_below_social_security(run):
    for wage in run.papers("w2"):
        if wage.medicare_wages < wage.social_security_wages + wage.social_security_tips - _CENT_ROUNDING:
            yield found(
                wage.address("medicare_wages"),
                f"{wage.title}: box 5 is below boxes 3 and 7, though Medicare has no wage limit. Compare with the paper.",
            )


@stops("us.w2.withheld-above-wages", "Withholding exceeds wages", "unlikely")
def withheld_above_wages(run):
    for wage in run.papers("w2"):
        if wage.federal_withheld > wage.wages:
            yield found(
                (wage.address("federal_withheld"), wage.address("wages")),
                f"{wage.title}: withholding exceeds wages. Compare boxes 1 and 2 with the paper.",
            )


@check("us.w2.state-withheld-above-wages", "State withholding exceeds state wages", "unlikely")
def state_withheld_above_wages(run):
    for wage in run.papers("w2"):
        for row in wage.states:
            if row.withheld > row.wages and row.withheld > 0:
                yield found(
                    row.address("withheld"),
                    f"{wage.title}: {row.state} withholding exceeds its wages. Compare boxes 16 and 17 with the paper.",
                )


@stops("us.w2.state-number-missing", "State withholding without state ID number", "missing")
def state_number_missing(run):
    for wage in run.papers("w2"):
        for row in wage.states:
            if row.withheld > 0 and not row.state_number:
                yield found(
                    row.address("state_number"),
                    f"{wage.title}: {row.state or 'a state'} withheld tax and has no state ID number. Enter box 15.",
                )


@check("us.w2.states-differ", "State wages differ from box 1", "conflict")
def states_do_not_add_up(run):
    for wage in run.papers("w2"):
        together = sum(row.wages for row in wage.states)
        if wage.states and together != wage.wages:
            yield found(
                (wage.address("states"), wage.address("wages")),
                f"{wage.title}: state wages total {together:,}, box 1 is {wage.wages:,}. Often correct; compare box 16 "
                "with the paper.",
            )


@check("us.w2.code-twice", "Box 12 code entered twice", "conflict")
def code_twice(run):
    for wage in run.papers("w2"):
        codes = [row.code for row in wage.codes if row.code]
        twice = sorted({code for code in codes if codes.count(code) > 1})
        if twice:
            yield found(
                wage.address("codes"),
                f"{wage.title}: code {', '.join(twice)} is in box 12 twice. Combine them unless the paper repeats the code.",
            )


@check("us.w2.twice", "W-2 entered twice", "conflict")
def statement_twice(run):
    seen = {}
    for wage in run.papers("w2"):
        mark = (digits(wage.employer_number), wage.wages, wage.federal_withheld, wage.owner)
        if wage.wages and mark[0] and mark in seen:
            yield found(
                (wage.address("wages"), seen[mark].address("wages")),
                f"{wage.title} was entered twice with the same amounts. Remove one unless there are two forms.",
            )
        seen.setdefault(mark, wage)


@stops("us.w2.deferrals-above-limit", "Elective deferrals exceed the limit", "rule", "IRC 402(g)")
def deferrals_above_limit(run):
    limits = run.laws["us"].deferrals
    for person in run.people():
        if person.role not in ("taxpayer", "spouse"):
            continue
        papers = run.papers("w2", person.role)
        deferred = sum(sum(wage.coded(ELECTIVE_DEFERRALS)) for wage in papers)
        older = (person.age_at_end() or 0) >= 50
        limit = limits.limit + (limits.catch_up if older else 0)
        if papers and deferred > limit:
            yield found(
                papers[0].address("codes"),
                f"{person.title} deferred {deferred:,}, more than {limit:,}. The excess is taxable, which is not "
                "supported yet; compare box 12 with the papers.",
            )


@check("us.w2.failed-plan-interest", "Section 409A: premium interest not entered", "missing", "IRC 409A(a)(1)(B)(i)(I)")
def failed_plans(run):
    for wage in run.papers("w2"):
        if wage.coded({"Z"}) and not wage.is_keyed("failed_plan_interest"):
            says = "Beside a fifth of it there is interest from the year of deferral. Enter it, zero if none."
            yield found(wage.address("failed_plan_interest"), says, code="us.w2.failed-plan-interest")


CHECKS = (
    failed_plans,
    employee_number_of_another,
    social_security_above_base,
    social_security_wages_differ,
    social_security_withheld_differs,
    medicare_below_social_security,
    withheld_above_wages,
    state_withheld_above_wages,
    state_number_missing,
    states_do_not_add_up,
    code_twice,
    statement_twice,
    deferrals_above_limit,
)
