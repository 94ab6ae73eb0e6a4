"""Wage statements: whether their boxes agree with each other. IRC 3101, 3121, 6051."""

from decimal import Decimal

from taxcore.engine import check, stops_filing
from taxcore.packs.us.base import digits
from taxcore.packs.us.papers.wages import DEFERRED_BUT_INSURED, ELECTIVE_DEFERRALS

_CENT_ROUNDING = Decimal(1)


def employee_number_of_another(run):
    for wage in run.papers("w2"):
        owner = run.person(wage.owner) if wage.owner else None
        if owner is None or not wage.is_keyed("employee_number"):
            continue
        if digits(wage.employee_number) != digits(owner.number):
            yield stops_filing("us.w2.employee-number-differs", at=wage.address("employee_number"),
                               says=f"{wage.title}: box a is not {owner.title}'s number. Check whose statement this "
                                    "is, or ask the employer for a corrected one.")  # fmt: skip


def social_security_above_base(run):
    base = run.laws["us"].payroll.wage_base
    for wage in run.papers("w2"):
        if wage.social_security_wages + wage.social_security_tips > base:
            yield stops_filing("us.w2.above-wage-base", at=wage.address("social_security_wages"),
                               cites="IRC 3121(a)(1)", says=f"{wage.title}: boxes 3 and 7 are above {base:,}, the most "
                               "one employer can report. Compare them with the paper.")  # fmt: skip


def social_security_wages_differ(run):
    """Keyed box 3 against box 1, the deferrals of box 12 and the wage base."""
    base = run.laws["us"].payroll.wage_base
    for wage in run.papers("w2"):
        if not wage.is_keyed("social_security_wages"):
            continue
        deferred = sum(wage.coded(DEFERRED_BUT_INSURED))
        expected = min(wage.wages + deferred, base - wage.social_security_tips)
        if abs(wage.social_security_wages - expected) > _CENT_ROUNDING:
            yield check("us.w2.box-3-differs", at=(wage.address("social_security_wages"), wage.address("wages")),
                        cites="IRC 3121(a), (v)", says=f"{wage.title}: box 3 is {wage.social_security_wages:,}; box 1 "
                        f"with the deferrals of box 12 makes {expected:,}. Compare boxes 1, 3 and 12.")  # fmt: skip


def social_security_withheld_differs(run):
    rate = run.laws["us"].payroll.social_security_rate
    for wage in run.papers("w2"):
        expected = rate * (wage.social_security_wages + wage.social_security_tips)
        if wage.is_keyed("social_security_withheld") and (abs(wage.social_security_withheld - expected) > _CENT_ROUNDING):
            yield check("us.w2.box-4-differs", at=wage.address("social_security_withheld"), cites="IRC 3101(a)",
                        says=f"{wage.title}: box 4 is {wage.social_security_withheld:,}; 6.2% of boxes 3 and 7 is "
                             f"{expected:,.2f}. Compare them with the paper.")  # fmt: skip


def medicare_below_social_security(run):
    for wage in run.papers("w2"):
        if wage.medicare_wages < wage.social_security_wages + wage.social_security_tips - _CENT_ROUNDING:
            yield check("us.w2.box-5-below-box-3", at=wage.address("medicare_wages"), cites="IRC 3121(a)",
                        says=f"{wage.title}: box 5 is below boxes 3 and 7, though Medicare has no ceiling. Compare "
                             "them with the paper.")  # fmt: skip


def withheld_above_wages(run):
    for wage in run.papers("w2"):
        if wage.federal_withheld > wage.wages:
            yield stops_filing("us.w2.withheld-above-wages", at=(wage.address("federal_withheld"),
                               wage.address("wages")), says=f"{wage.title}: more tax is withheld than was paid in "
                               "wages. Compare boxes 1 and 2 with the paper.")  # fmt: skip


def state_withheld_above_wages(run):
    for wage in run.papers("w2"):
        for row in wage.states:
            if row.withheld > row.wages and row.withheld > 0:
                yield check("us.w2.state-withheld-above-wages", at=row.address("withheld"),
                            says=f"{wage.title}: {row.state} withheld more than its wages. Compare boxes 16 and 17 "
                                 "with the paper.")  # fmt: skip


def state_number_missing(run):
    for wage in run.papers("w2"):
        for row in wage.states:
            if row.withheld > 0 and not row.state_number:
                yield stops_filing("us.w2.state-number-missing", at=row.address("state_number"),
                                   says=f"{wage.title}: {row.state or 'a state'} withheld tax and has no state number. "
                                        "Copy box 15 from the paper.")  # fmt: skip


def states_do_not_add_up(run):
    for wage in run.papers("w2"):
        together = sum(row.wages for row in wage.states)
        if wage.states and together != wage.wages:
            yield check("us.w2.states-differ", at=(wage.address("states"), wage.address("wages")),
                        says=f"{wage.title}: the states' wages make {together:,}, box 1 is {wage.wages:,}. Often right; "
                             "compare box 16 with the paper.")  # fmt: skip


def code_twice(run):
    for wage in run.papers("w2"):
        codes = [row.code for row in wage.codes if row.code]
        twice = sorted({code for code in codes if codes.count(code) > 1})
        if twice:
            yield check("us.w2.code-twice", at=wage.address("codes"),
                        says=f"{wage.title}: code {', '.join(twice)} stands twice in box 12. Keep one row of each "
                             "unless the paper repeats it.")  # fmt: skip


def statement_twice(run):
    seen = {}
    for wage in run.papers("w2"):
        mark = (digits(wage.employer_number), wage.wages, wage.federal_withheld, wage.owner)
        if wage.wages and mark[0] and mark in seen:
            yield check("us.w2.twice", at=(wage.address("wages"), seen[mark].address("wages")),
                        says=f"{wage.title} was keyed twice with the same amounts. Take one out unless there are two "
                             "papers.")  # fmt: skip
        seen.setdefault(mark, wage)


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
            yield stops_filing("us.w2.deferrals-above-limit", at=papers[0].address("codes"), cites="IRC 402(g)",
                               says=f"{person.title} deferred {deferred:,}, more than {limit:,}. The excess is income, "
                                    "which is not computed yet; compare box 12 with the papers.")  # fmt: skip


CHECKS = (
    employee_number_of_another, social_security_above_base,
    social_security_wages_differ, social_security_withheld_differs, medicare_below_social_security,
    withheld_above_wages, state_withheld_above_wages, state_number_missing, states_do_not_add_up, code_twice,
    statement_twice, deferrals_above_limit,
)  # fmt: skip
