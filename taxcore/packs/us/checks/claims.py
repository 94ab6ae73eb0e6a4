"""Credits that are claimed: studies, care, marketplace coverage, energy. What their forms ask, and what hardly fits together."""

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.base import digits
from taxcore.packs.us.checks.months import backwards, overlap


@check("us.1098-t.years-open", "American opportunity credit: prior years not answered", "missing", "IRC 25A(b)(2)(A)")
@check("us.1098-t.aid-above-costs", "Scholarships exceed expenses", "missed", "IRC 117; 26 CFR 1.25A-5(c)")
@idea(
    "us.1098-t.tax-the-scholarship", "Treating a scholarship as income might raise a credit", "election", "26 CFR 1.25A-5(c)(3)"
)
@idea("us.1098-t.choice", "Another education credit is larger", "election", "IRC 25A")
@idea("us.8863.income-too-high", "Education credits phased out", "lost", "IRC 25A(d)")
@check("us.1098-t.grown-old", "American opportunity credit over age 30", "unlikely", "IRC 25A(b)(2)")
@idea("us.1098-t.books-not-asked", "Tuition without books", "missed", "IRC 25A(f)(1)(D)")
@check("us.1098-t.prepaid-twice", "Tuition for a term beginning next year", "unlikely", "26 CFR 1.25A-5(e)")
def tuition(run):
    papers = run.papers("1098-t")
    for paper in papers:
        yield from _statement(paper)
    for one in run.every("us.8863-student") if papers else ():
        first = next(paper for paper in papers if paper.student == one.key)
        student = next(person for person in run.people() if person.key == one.key)
        if one.chosen == "american":
            yield from _american(one, first, student, run.form("us.8863").law.education)
        yield from _other_choice(run, one, first, student)


def _statement(paper):
    """What one school's statement says."""
    got = paper.scholarships + paper.other_aid - paper.taxed_scholarship
    if got > paper.paid + paper.books > 0:
        yield found(
            (paper.address("scholarships"), paper.address("paid")),
            f"{paper.title}: {got:,} of tax-free assistance exceeds the expenses. Amounts for room and board or travel "
            "are taxable to the student: ask, and enter them.",
            code="us.1098-t.aid-above-costs",
        )
    if paper.next_term and paper.paid:
        yield found(
            paper.address("next_term"),
            f"{paper.title} includes a term beginning next year. Make sure it is claimed only once.",
            code="us.1098-t.prepaid-twice",
        )


def _american(one, first, student, law):
    """Around the credit of the first four years."""
    if first.years_claimed is None:
        yield found(
            first.address("years_claimed"),
            f"{student.title}: in how many prior years was the American opportunity credit claimed? Answer line 23.",
            code="us.1098-t.years-open",
        )
    if (student.years_old() or 0) > 30:
        yield found(
            first.address("four_years_done"),
            f"{student.title} is {student.years_old()}. Were the first 4 years of college completed before this year?",
            code="us.1098-t.grown-old",
        )
    if one.american_costs < law.full + law.quarter_of_next and not first.books:
        yield found(
            first.address("books"),
            f"{student.title}: books and course materials also qualify, and none are entered.",
            code="us.1098-t.books-not-asked",
        )
    if one.american_costs < law.full and first.scholarships > first.taxed_scholarship:
        yield found(
            (first.address("taxed_scholarship"), first.address("scholarships")),
            f"{student.title}: if part of the scholarship may be used for living expenses and is included in income, "
            "more tuition qualifies. Compare.",
            code="us.1098-t.tax-the-scholarship",
        )


def _other_choice(run, one, first, student):
    """Another credit, or another person's."""
    form = run.form("us.8863")
    if one.chosen == "lifetime" and not one.not_american and first.credit == "lifetime":
        yield found(
            first.address("credit"),
            f"{student.title} may qualify for the American opportunity credit, which is usually larger. Choose "
            "whichever is larger.",
            code="us.1098-t.choice",
        )
    if form.part == 0 and (one.american > 0 or one.lifetime_costs > 0) and run.form("us.1040").status != "separate":
        yield found(
            (form.address("modified_agi"), first.address("paid")),
            f"{student.title}: income is above the phaseout of the education credits. A student who is not claimed may "
            "take the credit.",
            code="us.8863.income-too-high",
        )


@stops("us.care.provider-is-dependent", "Care provider is a dependent or spouse", "rule", "IRC 21(e)(6)")
@check("us.care.above-earnings", "Care expenses exceed the lower earned income", "lost", "IRC 21(d)")
@check("us.care.large", "Unusually high care expenses", "unlikely")
@idea("us.care.benefits-room", "Care paid without employer benefits", "missed", "IRC 129")
@idea("us.care.turns-13-next-year", "Child turns 13 next year", "next-year", "IRC 21(b)(1)(A)")
def care(run):
    numbers = {digits(person.number): person for person in run.people() if person.number}
    for paper in run.papers("care"):
        if digits(paper.number) in numbers:
            person = numbers[digits(paper.number)]
            yield found(
                (paper.address("number"), person.address("number")),
                f"{paper.title} has the TIN of {person.title}. Payments to a dependent or spouse do not qualify; check "
                "the number.",
                code="us.care.provider-is-dependent",
            )
        for row in paper.costs:
            if row.amount > 40_000:
                yield found(
                    row.address("amount"),
                    f"{paper.title}: {row.amount:,} for one child. Check the decimal point.",
                    code="us.care.large",
                )
    if run.is_idle("us.2441") or not run.papers("care"):
        return
    form = run.form("us.2441")
    if form.counted and form.base < form.counted and form.base > 0:
        yield found(
            (form.address("base"), form.address("counted")),
            f"Only {form.base:,} of {form.counted:,} counts, limited to the lower earned income. A student or a spouse "
            "incapable of self-care is treated as earning: enter the months.",
            code="us.care.above-earnings",
        )
    if form.expenses > 3_000 and form.benefits == 0 and any(wage.wages > 30_000 for wage in run.papers("w2")):
        yield found(
            run.papers("w2")[0].address("care_benefits"),
            "A dependent care FSA often saves more than the credit. Mention it before open enrollment.",
            code="us.care.benefits-room",
        )
    for key in {row.person for paper in run.papers("care") for row in paper.costs if row.person}:
        person = next((one for one in run.people("dependant") if one.key == key), None)
        if person is not None and person.years_old() == 12 and not person.needs_care():
            yield found(
                person.address("birth_date"),
                f"{person.title} turns 13 next year: expenses qualify only up to the birthday.",
                code="us.care.turns-13-next-year",
            )


@stops("us.1095-a.months-wrong", "Marketplace months end before they begin", "conflict")
@check("us.1095-a.months-twice", "Month entered twice for one policy", "conflict", "IRC 36B(b)")
@check("us.1095-a.benchmark-missing", "Marketplace coverage without SLCSP premium", "missing", "IRC 36B(b)(3)(B)")
@check("us.1095-a.advance-above-premium", "Advance payments exceed the premium", "conflict", "IRC 36B(b)(2)")
@idea("us.premium.repaid", "Excess advance premium tax credit", "lost", "IRC 36B(f)(2)")
@check("us.premium.apart", "Premium tax credit, married filing separately", "lost", "IRC 36B(c)(1)(C)")
def marketplace(run):
    for paper in run.papers("1095-a"):
        yield from backwards(paper, paper.months, "us.1095-a.months-wrong")
        for row in paper.months:
            if row.premium and not row.benchmark:
                yield found(
                    row.address("benchmark"),
                    f"{paper.title}: column B is empty, so there is no credit and all advance payments are repaid. Look "
                    "up the SLCSP premium.",
                    code="us.1095-a.benchmark-missing",
                )
            if row.advance > row.premium:
                yield found(
                    (row.address("advance"), row.address("premium")),
                    f"{paper.title}: column C is above column A. Compare the columns.",
                    code="us.1095-a.advance-above-premium",
                )
        if overlap(paper.months):
            yield found(
                paper.address("months"),
                f"{paper.title}: a month is on two rows, and both are counted. Keep one.",
                code="us.1095-a.months-twice",
            )
    if not run.papers("1095-a"):
        return
    form, first = run.form("us.8962"), run.papers("1095-a")[0]
    if form.to_repay > 0:
        yield found(
            (form.address("to_repay"), first.address("months")),
            f"{form.to_repay:,} of advance premium tax credit is repaid. Advise the client to report income changes to "
            "the marketplace.",
            code="us.premium.repaid",
        )
    if run.form("us.1040").status == "separate" and not run.single("premium-questions").abused_or_abandoned:
        yield found(
            (run.single("premium-questions").address("abused_or_abandoned"), first.address("months")),
            "Filed separately there is no premium tax credit, except in cases of abuse or abandonment. Answer the "
            "question, or compare a joint return.",
            code="us.premium.apart",
        )


@idea("us.savers-credit.possible", "A small retirement contribution would give the saver's credit", "missed", "IRC 25B")
@idea("us.energy.above-cap", "Home improvement credit limited", "lost", "IRC 25C(b)")
@idea("us.energy.carried-on", "Clean energy credit carryforward", "carried", "IRC 25D(c)")
def savings_and_energy(run):
    form = run.form("us.1040")
    law = run.laws["us"].savers_credit
    if 0 < form.adjusted_gross_income <= law.fifth_up_to[form.status] and form.tax_after_credits > 100:
        saved = run.form("us.8880").saved if not run.is_idle("us.8880") else ZERO
        able = [one for one in form.filers if (one.years_old() or 0) >= 18 and not one.student and not one.claimed_by_other]
        if not saved and able and any(run.form("us.earned-income", one.role).earned > 5_000 for one in able):
            yield found(
                (form.address("adjusted_gross_income"), able[0].address("birth_date")),
                "At this income an IRA or elective deferral contribution gives the saver's credit, up to half of it. "
                "An IRA contribution is possible until the due date.",
                code="us.savers-credit.possible",
            )
    if run.single("energy").values and run.year >= 2023 and not run.is_idle("us.5695"):
        energy = run.form("us.5695")
        if energy.first_group > energy.first_capped:
            yield found(
                energy.address("first_group"),
                f"{energy.first_group - energy.first_capped:,} of home improvement credit exceeds the annual limit and is lost.",
                code="us.energy.above-cap",
            )
        if energy.carried_on > 0:
            yield found(
                energy.address("carried_on"),
                f"{energy.carried_on:,} of clean energy credit carries forward to next year.",
                code="us.energy.carried-on",
            )


CHECKS = (tuition, care, marketplace, savings_and_energy)
