"""Retirement, benefits and health savings: codes against ages, what must be removed, what may still be paid in."""

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.checks.months import backwards, months_of, overlap

_EARLY = frozenset({"1", "J", "S"})


def _half_years(person, year):
    """Age in half years reached on the last day of the year; None where the date of birth is missing."""
    born = person.birth_date
    return None if born is None else 2 * (year - born.year) + (1 if born.month <= 6 else 0)


def _of(run, paper):
    return run.person(paper.owner or "taxpayer")


@check("us.1099-r.code-1-though-older", "Early distribution code after age 59½", "conflict", "IRC 72(t)(2)(A)(i)")
@check("us.1099-r.code-7-though-younger", "Code 7 before age 59½", "conflict", "IRC 72(t)")
@check("us.1099-r.code-q-though-younger", "Qualified Roth code before age 59½", "conflict", "IRC 408A(d)(2)")
@check("us.1099-r.rollover-taxed", "Direct rollover with a taxable amount", "conflict", "IRC 402(c)")
@check("us.1099-r.rolled-over-twice", "Direct rollover also entered as rollover", "conflict", "IRC 402(c)")
@check("us.1099-r.codes-alike", "Box 7: same code twice", "format")
def codes(run):
    for paper in run.papers("1099-r"):
        person, found_codes = _of(run, paper), paper.codes()
        half = _half_years(person, run.year) if person is not None else None
        at = paper.address("code")
        if half is not None and half >= 121 and "1" in found_codes:
            yield found(
                at,
                f"{paper.title}: code 1 is early, and {person.title} was over 59½ all year. Check the date of birth and "
                "the code.",
                code="us.1099-r.code-1-though-older",
            )
        if half is not None and half < 119 and "7" in found_codes and not paper.moved_all():
            yield found(
                at,
                f"{paper.title}: code 7 is normal, and {person.title} was under 59½. Check the code: the additional tax "
                "depends on it.",
                code="us.1099-r.code-7-though-younger",
            )
        if half is not None and half < 119 and "Q" in found_codes:
            yield found(
                at,
                f"{paper.title}: code Q is qualified, and {person.title} was under 59½. Check the code.",
                code="us.1099-r.code-q-though-younger",
            )
        if "G" in found_codes and paper.is_keyed("taxable") and paper.taxable > 0:
            yield found(
                (paper.address("taxable"), at),
                f"{paper.title}: a direct rollover (code G) shows {paper.taxable:,} as taxable. Correct for a Roth "
                "conversion; otherwise check box 2a.",
                code="us.1099-r.rollover-taxed",
            )
        if found_codes & {"G", "H"} and paper.rolled_over:
            yield found(
                (paper.address("rolled_over"), at),
                f"{paper.title}: the code says direct rollover, and a 60-day rollover is also entered. Remove one.",
                code="us.1099-r.rolled-over-twice",
            )
        if paper.second_code and paper.second_code == paper.code:
            yield found(
                paper.address("second_code"),
                f"{paper.title}: both codes are {paper.code}. Compare box 7.",
                code="us.1099-r.codes-alike",
            )


@check("us.rollover.once-a-year", "Two IRA rollovers within 12 months", "rule", "IRC 408(d)(3)(B)")
@check("us.1099-r.exception-not-early", "Exception for a distribution that is not early", "conflict", "IRC 72(t)(2)")
@check("us.1099-r.home-above-limit", "First-home exception exceeds the limit", "rule", "IRC 72(t)(8)")
@check("us.1099-r.birth-above-limit", "Birth or adoption exception exceeds the limit", "rule", "IRC 72(t)(2)(H)")
@check("us.1099-r.charity-above-limit", "Qualified charitable distributions exceed the limit", "rule", "IRC 408(d)(8)(A), (F)")
@idea("us.1099-r.withholding-none", "Pension without withholding, and tax due", "next-year", "IRC 3405")
def distributions(run):
    for role in ("taxpayer", "spouse"):
        papers = run.papers("1099-r", role)
        moved = [paper for paper in papers if paper.ira and paper.rolled_over and not paper.codes() & {"G", "H"}]
        if len(moved) > 1:
            yield found(
                moved[1].address("rolled_over"),
                "A person may roll over one IRA distribution in twelve months. The second is taxable, unless it was "
                "trustee-to-trustee.",
                code="us.rollover.once-a-year",
            )
        given = sum((paper.charity for paper in papers), ZERO)
        most = run.laws["us"].charity_from_iras.most
        if given > most:
            yield found(
                next(paper for paper in papers if paper.charity).address("charity"),
                f"{given:,} of qualified charitable distributions; {most:,} is the limit. Enter the rest as a contribution.",
                code="us.1099-r.charity-above-limit",
            )
    for paper in run.papers("1099-r"):
        spared = paper.excepted if paper.is_keyed("excepted") else (paper.gross if paper.exception else ZERO)
        if paper.exception and not paper.codes() & _EARLY:
            yield found(
                paper.address("exception"),
                f"{paper.title} is not early by its code, so no exception is needed. Compare code and exception.",
                code="us.1099-r.exception-not-early",
            )
        law = run.laws["us"].early_distributions
        for exception, code, limit in (("09", "home", law.first_home), ("19", "birth", law.birth)):
            if paper.exception == exception and spared > limit:
                yield found(
                    paper.address("excepted"),
                    f"{paper.title}: the exception is limited to {limit:,} in a lifetime or for each child, and "
                    f"{spared:,} is excepted. Correct the amount.",
                    code=f"us.1099-r.{code}-above-limit",
                )
    if run.papers("1099-r") and run.form("us.1040").owed > 1_000:
        for paper in run.papers("1099-r"):
            if paper.gross > 5_000 and not paper.withheld and not paper.moved_all():
                yield found(
                    paper.address("withheld"),
                    f"{paper.title} withheld nothing and tax is owed. Form W-4P, or W-4R, lets the client choose "
                    "withholding for next year.",
                    code="us.1099-r.withholding-none",
                )


@check("us.ira.required-distribution", "Required minimum distribution", "rule", "IRC 401(a)(9), 4974")
@idea("us.ira.required-next-year", "Required minimum distributions begin next year", "next-year", "IRC 401(a)(9)(C)")
@idea("us.ira.room", "IRA contribution possible", "missed", "IRC 219(b)(5)")
@stops("us.ira.after-year-above", "Contributions after year end exceed the total", "conflict", "IRC 219(f)(3)")
def accounts(run):
    law = run.laws["us"].required_distributions
    age = law.from_age
    for role in ("taxpayer", "spouse"):
        person, account = run.person(role), next(iter(run.papers("ira", role)), None)
        if person is None or person.birth_date is None:
            continue
        years = run.year - person.birth_date.year
        taken = any(paper.ira and paper.gross for paper in run.papers("1099-r", role))
        if account is not None and account.value_at_end > 0 and years > age and not taken:
            yield found(
                account.address("value_at_end"),
                f"{person.title} is {years}, has IRAs and took no distribution. An RMD was required; the excise tax on "
                f"the shortfall is {law.excise:.0%}. Ask for the 1099-R.",
                code="us.ira.required-distribution",
            )
        if years + 1 == age and (taken or account is not None):
            yield found(
                person.address("birth_date"),
                f"{person.title} turns {age} next year: required minimum distributions begin. Tell the client.",
                code="us.ira.required-next-year",
            )
        if account is not None and account.paid_after_year > account.traditional:
            yield found(
                (account.address("paid_after_year"), account.address("traditional")),
                f"{person.title}: contributions after year end exceed the total for the year. Compare both.",
                code="us.ira.after-year-above",
            )
    yield from _ira_room(run)


def _ira_room(run):
    """For those whose income lets them pay into a Roth IRA in full, whether or not a traditional one is deducted."""
    law, form = run.laws["us"].ira, run.form("us.1040")
    if form.adjusted_gross_income > law.roth_from[form.status]:
        return
    for person in form.filers:
        account = next(iter(run.papers("ira", person.role)), None)
        paid = account.traditional + account.roth if account is not None else ZERO
        older = (person.age_at_end() or 0) >= law.catch_up_age
        pay = run.form("us.earned-income", person.role).compensation
        room = min(law.limit + (law.catch_up if older else 0), pay) - paid
        if pay > 5_000 and room >= 500:
            yield found(
                account.address("traditional") if account is not None else (person.address("birth_date"), "us.ira"),
                f"{person.title} may still contribute {room:,} to an IRA for {run.year} by the due date. The Advice "
                "page shows the savings.",
                code="us.ira.room",
            )


@check("us.benefits.too-young", "Social Security under 62 without disability", "unlikely", "42 USC 402")
@idea("us.benefits.withholding", "Social Security taxed, nothing withheld", "next-year", "IRC 3402(p)")
@check("us.benefits.premiums-missing", "Social Security at 65 without Medicare premiums", "missed", "IRC 213(d)(1)(D)")
def benefits(run):
    for paper in run.papers("ssa-1099"):
        person = _of(run, paper)
        years = (person.years_old() if person is not None else None) or 0
        if paper.net > 0 and years and years < 62 and not person.disabled:
            yield found(
                (paper.address("net"), person.address("disabled")),
                f"{person.title} is {years} and has benefits. Are they disability or survivor benefits? Check the owner "
                "and the date of birth.",
                code="us.benefits.too-young",
            )
        if paper.net > 0 and years > 65 and not paper.medicare_premiums and run.form("us.1040").is_itemised:
            yield found(
                paper.address("medicare_premiums"),
                f"{paper.title}: no Medicare premium is entered. Form SSA-1099 lists it; it is a medical expense.",
                code="us.benefits.premiums-missing",
            )
        if run.form("us.1040").taxable_benefits > 5_000 and not paper.withheld and run.form("us.1040").owed > 1_000:
            yield found(
                paper.address("withheld"),
                "Benefits are taxed, nothing is withheld and tax is owed. With Form W-4V the client can have 7, 10, 12 "
                "or 22% withheld.",
                code="us.benefits.withholding",
            )


@stops("us.hsa.months-wrong", "HSA months end before they begin", "conflict")
@stops("us.hsa.months-overlap", "HSA months entered twice", "conflict", "IRC 223(b)(2)")
@idea("us.hsa.room", "HSA contribution possible", "missed", "IRC 223(b)")
@check("us.hsa.medicare-age", "HSA contribution at 65 or later", "rule", "IRC 223(b)(7)")
@check("us.hsa.more-medical-than-paid-out", "HSA medical expenses without a distribution", "conflict", "IRC 223(f)")
@idea("us.hsa.catch-up-next-year", "Next year: HSA catch-up contribution", "next-year", "IRC 223(b)(3)")
def health_savings(run):
    law = run.laws["us"].hsa
    for paper in run.papers("hsa"):
        yield from backwards(paper, paper.coverage, "us.hsa.months-wrong")
        months = months_of(paper.coverage)
        if overlap(paper.coverage):
            yield found(
                paper.address("coverage"),
                f"{paper.title}: a month is on two rows of coverage. Keep one.",
                code="us.hsa.months-overlap",
            )
        person, form = _of(run, paper), run.form("us.8889", paper.owner or "taxpayer")
        years = (person.years_old() if person is not None else None) or 0
        room = form.left - form.paid_in
        if room > 100 and form.excess_left == 0:
            yield found(
                (paper.address("paid_in"), form.address("limit")),
                f"{person.title if person else paper.title} may still contribute {room:,} to the HSA for the year by "
                "the due date.",
                code="us.hsa.room",
            )
        if years > 65 and (form.paid_in or form.employer) and months:
            yield found(
                paper.address("coverage"),
                f"{person.title} is {years}. No HSA contributions from the month Medicare begins: ask when it began, "
                "and correct the months.",
                code="us.hsa.medicare-age",
            )
        if years + 1 == law.catch_up_age:
            yield found(
                person.address("birth_date"),
                f"{person.title} turns {law.catch_up_age} next year and may then contribute {law.catch_up:,} more to the HSA.",
                code="us.hsa.catch-up-next-year",
            )
    for paper in run.papers("1099-sa"):
        if paper.medical > 0 and not paper.gross:
            yield found(
                (paper.address("gross"), paper.address("medical")),
                f"{paper.title}: medical expenses are entered without a distribution. Enter box 1.",
                code="us.hsa.more-medical-than-paid-out",
            )


@idea("us.ira.catch-up-next-year", "Next year: catch-up contributions", "next-year", "IRC 219(b)(5)(B), 414(v)")
@idea("us.person.turns-65-next-year", "Turns 65 next year", "next-year", "IRC 63(f), 151(d)(5)(C)")
def birthdays_of_next_year(run):
    for person in run.form("us.1040").filers:
        years = (person.years_old() or 0) + 1
        if years == run.laws["us"].ira.catch_up_age and (run.papers("w2", person.role) or run.papers("ira", person.role)):
            yield found(
                person.address("birth_date"),
                f"{person.title} turns {years} next year: catch-up contributions to IRAs and workplace plans begin.",
                code="us.ira.catch-up-next-year",
            )
        if years == 65:
            yield found(
                person.address("birth_date"),
                f"{person.title} turns 65 next year: Medicare, a larger standard deduction and the senior deduction "
                "begin. HSA contributions end.",
                code="us.person.turns-65-next-year",
            )


CHECKS = (codes, distributions, accounts, benefits, health_savings, birthdays_of_next_year)
