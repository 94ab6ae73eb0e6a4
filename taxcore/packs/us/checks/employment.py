"""More of W-2s: what an amount or a code there leads to elsewhere, and amounts that are hardly so."""

from decimal import Decimal

from taxcore.engine import ZERO, Mend, check, found, idea, stops
from taxcore.packs.us.base import UNTAXED
from taxcore.packs.us.papers.wages import DEFERRED_BUT_INSURED
from taxcore.packs.us.places import home_at_end

_PLANS = frozenset({"D", "E", "F", "H", "S", "AA", "BB"})
_NOTABLE = Decimal(20_000)
_MOST_WITHHELD = Decimal("0.45")
_ROUNDING = Decimal(1)


@check("us.w2.box-6-differs", "Box 6 does not match box 5", "conflict", "IRC 3101(b), 3102(f)")
def medicare_withheld_differs(run):
    law = run.laws["us"].payroll
    for wage in run.papers("w2"):
        if wage.is_keyed("medicare_withheld"):
            above = max(wage.medicare_wages - law.additional_withheld_above, ZERO)
            expected = law.medicare_rate * wage.medicare_wages + law.additional_rate * above
            if abs(wage.medicare_withheld - expected) > _ROUNDING:
                yield found(
                    (wage.address("medicare_withheld"), wage.address("medicare_wages")),
                    f"{wage.title}: box 6 is {wage.medicare_withheld:,}; 1.45% of box 5, and 0.9% of what is above "
                    f"{law.additional_withheld_above:,}, make {expected:,.2f}. Compare with the paper.",
                )


@check("us.w2.box-5-differs", "Medicare wages against boxes 1 and 12", "conflict", "IRC 3121(v)(1)")
def medicare_wages_differ(run):
    for wage in run.papers("w2"):
        if wage.is_keyed("medicare_wages"):
            expected = wage.wages + sum(wage.coded(DEFERRED_BUT_INSURED))
            if abs(wage.medicare_wages - expected) > _ROUNDING and wage.medicare_wages >= wage.social_security_wages:
                yield found(
                    (wage.address("medicare_wages"), wage.address("wages")),
                    f"{wage.title}: box 5 is {wage.medicare_wages:,}; box 1 with the deferrals of box 12 makes "
                    f"{expected:,}. Often correct (cafeteria plans); compare with the paper.",
                )


@check("us.w2.plan-mark-missing", "Box 12 deferrals, retirement plan not checked", "conflict", "IRC 219(g)(5), 6051")
def deferrals_without_plan(run):
    """The mark decides what an IRA may deduct."""
    for wage in run.papers("w2"):
        if sum(wage.coded(_PLANS)) > 0 and not wage.retirement_plan:
            yield found(
                (wage.address("retirement_plan"), wage.address("codes")),
                f"{wage.title}: box 12 shows deferrals and box 13, retirement plan, is not checked. Compare with the "
                "paper: the IRA deduction depends on it.",
                mend=Mend("Mark the retirement plan", wage.address("retirement_plan"), "yes"),
            )


@check("us.w2.withholding-high", "Withholding near half of wages", "unlikely")
@check("us.w2.withholding-none", "Wages without withholding", "unlikely", "IRC 3402")
@check("us.w2.withheld-as-box-4", "Box 2 repeats box 4 or 6", "unlikely")
@check("us.w2.withheld-as-state", "Box 2 repeats a state's withholding", "unlikely")
def withholding_unlikely(run):
    for wage in run.papers("w2"):
        at, kept = wage.address("federal_withheld"), wage.federal_withheld
        if wage.wages > 0 and wage.wages >= kept > _MOST_WITHHELD * wage.wages:
            yield found(
                (at, wage.address("wages")),
                f"{wage.title}: {kept:,} of {wage.wages:,} is withheld. Check for a misplaced decimal point or a wrong box.",
                code="us.w2.withholding-high",
            )
        if wage.wages >= _NOTABLE and not kept:
            yield found(
                at,
                f"{wage.title}: nothing is withheld from {wage.wages:,}. Correct if exempt; otherwise enter box 2.",
                code="us.w2.withholding-none",
            )
        same = [name for name in ("social_security_withheld", "medicare_withheld") if wage.is_keyed(name)]
        if kept and any(getattr(wage, name) == kept for name in same):
            yield found(
                (at, wage.address(same[0])),
                f"{wage.title}: box 2 is the same as box 4 or 6. Was a box entered twice?",
                code="us.w2.withheld-as-box-4",
            )
        if kept and any(row.withheld == kept for row in wage.states):
            yield found(
                (at, wage.address("states")),
                f"{wage.title}: box 2 is the same as box 17. Was a box entered twice?",
                code="us.w2.withheld-as-state",
            )


@check("us.w2.no-state", "State wages without a state row", "missing", "IRC 6051(d)")
@check("us.w2.state-twice", "State entered twice on a W-2", "conflict")
@stops("us.w2.locality-missing", "Local tax without locality", "missing")
@check("us.w2.local-above-wages", "Local tax exceeds local wages", "unlikely")
@idea("us.w2.state-withheld-nothing", "State wages without withholding", "unlikely")
def places(run):
    home = home_at_end(run)
    for wage in run.papers("w2"):
        if wage.wages > 0 and not wage.states and home and home not in UNTAXED:
            yield found(
                wage.address("states"),
                f"{wage.title} has no row for boxes 15 to 17. Enter them: state withholding would be lost.",
                code="us.w2.no-state",
            )
        marks = [(row.state, row.locality, row.state_number) for row in wage.states if row.state]
        if len(marks) != len(set(marks)):
            yield found(
                wage.address("states"),
                f"{wage.title}: a state is on two rows. Combine them unless the paper has both.",
                code="us.w2.state-twice",
            )
        for row in wage.states:
            if row.local_withheld > 0 and not row.locality:
                yield found(
                    row.address("locality"),
                    f"{wage.title}: local tax is withheld and box 20 is empty. Enter the locality.",
                    code="us.w2.locality-missing",
                )
            if row.local_withheld > max(row.local_wages, row.wages):
                yield found(
                    row.address("local_withheld"),
                    f"{wage.title}: more local tax than wages. Compare boxes 18 and 19.",
                    code="us.w2.local-above-wages",
                )
            if row.state == home and home not in UNTAXED and row.wages >= _NOTABLE and not row.withheld:
                yield found(
                    row.address("withheld"),
                    f"{wage.title}: {row.state} wages of {row.wages:,} and nothing withheld. Compare box 17 with the paper.",
                    code="us.w2.state-withheld-nothing",
                )


@idea("us.w2.combat-pay", "Combat pay election for the EIC", "election", "IRC 32(c)(2)(B)(vi)")
@check("us.w2.nonqualified-above-wages", "Nonqualified plan amounts exceed wages", "conflict", "IRC 6051")
@check("us.w2.options-above-wages", "Box 12 income exceeds wages", "conflict", "IRC 79, 83")
def boxes_eleven_and_twelve(run):
    for wage in run.papers("w2"):
        combat = sum(wage.coded({"Q"}))
        counted = any(paper.combat_pay for paper in run.papers("other-income", wage.owner or "taxpayer"))
        if combat and not counted:
            yield found(
                wage.address("codes"),
                f"{wage.title}: {combat:,} of combat pay is not taxed. Electing it as earned income may increase the "
                "EIC: enter it as other income, 1i, and compare.",
                code="us.w2.combat-pay",
            )
        if wage.nonqualified_plans > wage.wages:
            yield found(
                wage.address("nonqualified_plans"),
                f"{wage.title}: box 11 is above box 1, which it is part of. Compare both.",
                code="us.w2.nonqualified-above-wages",
            )
        if sum(wage.coded({"C", "V"})) > wage.wages:
            yield found(
                wage.address("codes"),
                f"{wage.title}: codes C and V of box 12 are in box 1 and are more than it. Compare both.",
                code="us.w2.options-above-wages",
            )


@check("us.w2.cover-and-marketplace", "Employer coverage and advance premium tax credit", "rule", "IRC 36B(c)(2)(B)")
def employers_cover(run):
    """Whoever has an employer's cover has no premium credit for those months."""
    if not any(row.advance for paper in run.papers("1095-a") for row in paper.months):
        return
    covered = [wage for wage in run.papers("w2") if sum(wage.coded({"DD"})) > 0]
    if covered:
        yield found(
            tuple(wage.address("codes") for wage in covered),
            f"{covered[0].title} reports health coverage (code DD) and there are advance payments of the premium tax "
            "credit. No credit for months of employer coverage: ask which months.",
        )


@stops("us.w2.too-many-simple", "SIMPLE deferral exceeds the limit", "rule", "IRC 408(p)(2)(A)(ii)")
@idea("us.w2.deferral-room", "Higher elective deferral possible", "missed", "IRC 402(g)")
def deferral_limits(run):
    law = run.laws["us"]
    for role in ("taxpayer", "spouse"):
        person, papers = run.person(role), run.papers("w2", role)
        if person is None or not papers:
            continue
        older = (person.age_at_end() or 0) >= 50
        simple = sum(sum(wage.coded({"S"})) for wage in papers)
        most = law.plans.simple + (law.plans.simple_catch_up if older else 0)
        if simple > most * (1 + law.simple_plan.more_of_small_employers):
            yield found(
                papers[0].address("codes"),
                f"{person.title} deferred {simple:,} into a SIMPLE, more than {most:,}. Compare box 12 with the papers.",
                code="us.w2.too-many-simple",
            )
        deferred = sum(sum(wage.coded({"D", "E"})) for wage in papers)
        room = law.deferrals.limit + (law.deferrals.catch_up if older else 0) - deferred
        if deferred and room > 1_000:
            yield found(
                papers[0].address("codes"),
                f"{person.title} could have deferred {room:,} more this year. Mention it for next year's election.",
                code="us.w2.deferral-room",
            )


CHECKS = (
    medicare_withheld_differs, medicare_wages_differ, deferrals_without_plan, withholding_unlikely, places,
    boxes_eleven_and_twelve, employers_cover, deferral_limits,
)  # fmt: skip
