"""Illinois: individual return of a full-year resident. Part-year and non-resident returns stop filing."""

from taxcore.engine import Amount, Authority, Paper, check, found, stops
from taxcore.packs.us.states import State
from taxcore.packs.us.states.il.forms import LAW, IncomeTax, Modifications, OtherStates, lives_here


class Questions(Paper):
    """What Illinois asks and no federal paper answers."""

    jurisdiction = "us-il"
    kind, name, official, group = "il-questions", "Illinois questions", "IL-1040", "places"
    single, owned = True, False

    use_tax = Amount("21", "Use tax on untaxed purchases", help="Zero is an answer too.", cites="35 ILCS 105/3", alike=True)
    property_tax = Amount("16a", "Property tax paid on the main home", cites="35 ILCS 5/208")


@check("us-il.use-tax-open", "Illinois use tax is not answered", "missing", "35 ILCS 105/3")
def use_tax_not_answered(run):
    if lives_here(run) and not run.single("il-questions").is_answered("use_tax"):
        yield found(
            run.single("il-questions").address("use_tax"),
            "Use tax is not answered. Ask about purchases on which no Illinois tax was paid, and key 0 if there were none.",
        )


@stops("us-il.schedule-icr", "Illinois Schedule ICR, property tax", "unsupported", "35 ILCS 5/208")
def property_tax_not_supported(run):
    questions = run.single("il-questions")
    if lives_here(run) and questions.property_tax > 0:
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
    if not lives_here(run):
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
        applies=lives_here,
        after="us",
        declaration="IL-8453",
    ),
    forms=(IncomeTax, Modifications, OtherStates),
    papers=(Questions,),
    law=LAW,
    checks=(
        use_tax_not_answered,
        property_tax_not_supported,
        schedule_m_line_number,
        schedule_cr_line_numbers,
        underpayment_possible,
        earned_income_credit_by_age,
    ),
)
