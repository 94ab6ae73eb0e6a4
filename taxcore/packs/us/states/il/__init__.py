"""Illinois: individual income tax return of residents, part-year residents and non-residents."""

from taxcore.engine import Amount, Authority, Paper, check, found, stops
from taxcore.packs.us import places
from taxcore.packs.us.states import State
from taxcore.packs.us.states.il.forms import LAW, IncomeTax, Modifications, OtherStates, PartHere, files_here, lives_here


class Questions(Paper):
    """What Illinois asks and no federal paper answers."""

    jurisdiction = "us-il"
    kind, name, official, group = "il-questions", "Illinois questions", "IL-1040", "places"
    single, owned = True, False

    use_tax = Amount("21", "Use tax on untaxed purchases", help="Zero is an answer too.", cites="35 ILCS 105/3", alike=True)
    property_tax = Amount("16a", "Property tax paid on the main home", cites="35 ILCS 5/208")


@check("us-il.use-tax-open", "Illinois use tax is not answered", "missing", "35 ILCS 105/3")
def use_tax_not_answered(run):
    if files_here(run) and not run.single("il-questions").is_answered("use_tax"):
        yield found(
            run.single("il-questions").address("use_tax"),
            "Use tax is not answered. Ask about purchases on which no Illinois tax was paid, and key 0 if there were none.",
        )


@stops("us-il.schedule-icr", "Illinois Schedule ICR, property tax", "unsupported", "35 ILCS 5/208")
def property_tax_not_supported(run):
    questions = run.single("il-questions")
    if files_here(run) and questions.property_tax > 0:
        yield found(
            questions.address("property_tax"),
            "Schedule ICR, the credit for property tax, is not computed yet. This return cannot be filed with it from here.",
        )


@check("us-il.schedule-m-line", "The line of Schedule M for US interest", "unlikely")
def schedule_m_line_number(run):
    if lives_here(run) and run.form("us-il.sch-m").government_interest > 0:
        yield found(
            run.form("us-il.sch-m").address("government_interest"),
            "Interest on US obligations is subtracted on Schedule M. The amount is certain; look up the number of "
            "its line, which is not confirmed here.",
        )


@check("us-il.il-2210", "Illinois penalty for paying late in the year", "missing", "35 ILCS 5/804")
def underpayment_possible(run):
    if not files_here(run):
        return
    form = run.form("us-il.il-1040")
    if form.owed > form.law.underpayment.owed_above:
        yield found(
            form.address("owed"),
            f"{form.owed:,} is owed. A penalty for paying late in the year (IL-2210) may apply; it is left to the "
            "authority to work out.",
        )


@stops("us-il.eitc-by-age", "Illinois earned income credit without age limits", "unsupported", "35 ILCS 5/212")
def earned_income_credit_by_age(run):
    """Illinois gives its credit without the federal age limits."""
    worksheet = run.form("us.earned-income-credit")
    row = run.laws["us"].earned_income_credit.children["0"]
    below = row.below_joint if run.form("us.1040").status == "joint" else row.below
    denied_for_age = worksheet.not_allowed.startswith("nobody is between")
    grown = any((person.years_old() or 0) >= 18 for person in run.form("us.1040").filers)
    dependant = any(person.claimed_by_other for person in run.form("us.1040").filers)
    if (
        run.year >= 2023
        and lives_here(run)
        and denied_for_age
        and grown
        and not dependant
        and run.form("us.1040").adjusted_gross_income < below
    ):
        yield found(
            run.form("us-il.il-1040").address("earned_income_credit"),
            "Illinois gives its earned income credit without the federal age limits, which is not computed yet. "
            "This return cannot be filed with it from here.",
        )


@check("us-il.schedule-cr-lines", "The lines of Schedule CR", "unlikely")
def schedule_cr_line_numbers(run):
    if lives_here(run) and run.form("us-il.il-1040").other_state_credit > 0:
        yield found(
            run.form("us-il.il-1040").address("other_state_credit"),
            "The credit for other states' tax is computed on Schedule CR. The amount is certain; look up the numbers of its "
            "lines, which are not confirmed here.",
        )


@check("us-il.schedule-nr-lines", "The lines of Schedule NR", "unlikely")
@stops("us-il.nr-business", "A business of somebody who did not live in Illinois all year", "unsupported", "35 ILCS 5/304")
@stops("us-il.nr-sales", "Sales of somebody who moved to or from Illinois", "unsupported", "35 ILCS 5/303")
@stops("us-il.nr-adjustments", "Adjustments on a part-year or non-resident return of Illinois", "unsupported", "35 ILCS 5/203(a)")
@stops(
    "us-il.nr-other-income", "Other income on a part-year or non-resident return of Illinois", "unsupported", "35 ILCS 5/301(c)"
)
@stops("us-il.part-year-credit", "A mover's credit for tax paid to another state", "unsupported", "35 ILCS 5/601(b)(3)")
def part_here(run):
    """What Schedule NR asks beyond pay for work, interest and dividends stops filing with its name."""
    if not files_here(run) or lives_here(run):
        return
    says = "is not computed yet. This return cannot be filed with it from here."
    federal, kind = run.form("us.1040"), places.calls(run, "IL")
    yield found(
        run.form("us-il.sch-nr").address("net_income"),
        "Illinois' part of the income is computed on Schedule NR. Compare it with the schedule: the numbers of its lines are not "
        "confirmed here.",
        code="us-il.schedule-nr-lines",
    )
    for name in ("business", "k1-1065", "k1-1120s", "k1-1041"):
        for paper in run.papers(name):
            yield found(
                paper.address_prefix, f"{paper.title}: a business of a mover or non-resident {says}", code="us-il.nr-business"
            )
    if kind == places.PART:
        for name in ("1099-b", "1099-da"):
            for paper in run.papers(name):
                yield found(paper.address_prefix, f"{paper.title}: sales of a mover {says}", code="us-il.nr-sales")
        if places.taxed_elsewhere(run, "IL"):
            yield found(
                run.form("us-il.il-1040").address("other_state_credit"),
                f"A mover's credit for another state's tax {says}",
                code="us-il.part-year-credit",
            )
    if federal.adjustments:
        yield found(federal.address("adjustments"), f"Illinois' part of the adjustments {says}", code="us-il.nr-adjustments")
    for paper in run.papers("other-income"):
        yield found(paper.address_prefix, f"{paper.title} on Schedule NR {says}", code="us-il.nr-other-income")


STATE = State(
    code="IL",
    authority=Authority(
        code="us-il",
        name="Illinois",
        form=IncomeTax,
        refund="refund",
        owed="owed",
        return_type="IL1040",
        due=(4, 15),
        applies=files_here,
        after="us",
        declaration="IL-8453",
        credited_tax="tax_after_credits",
        credited_income="taxed_here",
    ),
    forms=(IncomeTax, PartHere, Modifications, OtherStates),
    papers=(Questions,),
    law=LAW,
    checks=(
        use_tax_not_answered,
        property_tax_not_supported,
        schedule_m_line_number,
        schedule_cr_line_numbers,
        underpayment_possible,
        earned_income_credit_by_age,
        part_here,
    ),
)
