"""Foreign earned income: tests that are not met, amounts that contradict, what is not known beside it. IRC 911."""

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us import places
from taxcore.packs.us.federal.foreign_earned import LEAST_DAYS, is_twelve_months


@check("us.2555.days", "Physical presence: fewer than 330 full days abroad", "rule", "IRC 911(d)(1)(B)")
@check("us.2555.twelve-months", "Physical presence: the period is not twelve months", "conflict", "IRC 911(d)(1)(B)")
@check("us.2555.residence", "Bona fide residence: no whole tax year", "rule", "IRC 911(d)(1)(A)")
@check("us.2555.outside", "Qualifying period outside the tax year", "conflict", "IRC 911(b)(2)(A)")
@check("us.2555.government", "Pay of the U.S. government is not excluded", "rule", "IRC 911(b)(1)(B)(ii)")
def qualifying(run):
    for form in run.every("us.2555"):
        one = form.paper
        if one is None:
            continue
        if one.employer_kind == "government":
            yield found(
                one.address("employer_kind"), "Nothing is excluded. Enter pay of others alone.", code="us.2555.government"
            )
        if one.test == "presence" and one.presence_from and one.presence_to:
            yield from _present(form, one)
        if one.test == "residence" and one.residence_from and form.qualifying_days == 0 and one.employer_kind != "government":
            if one.residence_to and one.residence_to.year < run.year:
                yield found(one.address("residence_to"), "No day of it is in this year. Check the dates.", code="us.2555.outside")
            else:
                says = "Nothing is excluded. The physical presence test may be met, or more time be asked for with Form 2350."
                yield found(one.address("residence_from"), says, code="us.2555.residence")


def _present(form, one):
    if not is_twelve_months(one.presence_from, one.presence_to):
        says = "Enter twelve months in a row, from one day to the day before it a year later."
        yield found(one.address("presence_to"), says, code="us.2555.twelve-months")
    elif (one.days_abroad or 0) < LEAST_DAYS:
        says = f"Nothing is excluded: {one.days_abroad or 0} of {LEAST_DAYS} days. Other twelve months may have them."
        yield found(one.address("days_abroad"), says, code="us.2555.days")
    elif form.qualifying_days == 0 and one.employer_kind != "government":
        yield found(one.address("presence_from"), "No day of it is in this year. Check the dates.", code="us.2555.outside")


@stops("us.2555.above-wages", "Earned abroad exceeds the W-2s", "conflict", "IRC 911(b)(1)(A)")
@check("us.2555.deductions", "Form 2555, line 44: deductions of the business not answered", "missing", "IRC 911(d)(6)")
@check("us.2555.no-business", "Business income abroad without a Schedule C", "conflict", "IRC 911(d)(2)")
@check("us.2555.camp", "Meals and lodging exceed the noncash income", "conflict", "IRC 119")
@idea("us.2555.housing", "Housing expenses may exceed the base amount", "election", "IRC 911(c)")
@check("us.2555.tax-reduction", "Foreign tax on excluded income not answered", "missing", "IRC 911(d)(6)")
def amounts(run):
    for form in run.every("us.2555"):
        one = form.paper
        if one is None:
            continue
        wages = sum((wage.wages for wage in run.papers("w2", form.key)), 0)
        if one.on_w2 > wages:
            says = f"This person's W-2s show {wages:,.2f}. Pay without a W-2 has a field of its own."
            yield found(one.address("on_w2"), says, code="us.2555.above-wages")
        if one.business_income and not any(run.papers(kind, form.key) for kind in ("business", "farm", "k1-1065")):
            yield found(
                one.address("business_income"), "Enter the business too: its profit is income.", code="us.2555.no-business"
            )
        elif one.business_income and not one.is_keyed("deductions"):
            says = "Costs of the business and half of self-employment tax belong to it in part. Enter them, zero if none."
            yield found(one.address("deductions"), says, code="us.2555.deductions")
        if one.camp > one.in_kind + one.allowances:
            yield found(one.address("camp"), "It is part of noncash income. Check both.", code="us.2555.camp")
        if form.room > 0 and not one.is_keyed("housing"):
            says = f"{form.room:,.0f} stays taxed. Housing above {form.housing_base:,.0f} could be left out too."
            yield found(one.address("housing"), says, code="us.2555.housing")
    questions = run.single("foreign-tax")
    claims = not run.is_idle("us.1116") and run.form("us.1116").available > 0
    if claims and run.form("us.1040").left_out_abroad and not questions.is_keyed("reduction"):
        says = "No credit is given for tax on income that is left out. Enter that part of the tax, zero if none."
        yield found(questions.address("reduction"), says, code="us.2555.tax-reduction")


@stops("us.2555.state", "Foreign earned income on a state return", "unsupported", "state law")
@stops("us.2555.special-gain", "Form 2555 with gain of the 25% or 28% kind", "unsupported", "IRC 911(f)(2)")
@stops("us.2555.annualized", "Form 2555 with Schedule AI", "unsupported", "IRC 6654(d)(2)")
@stops("us.2555.child", "Form 2555 of a child with Form 8615", "unsupported", "IRC 1(g)")
def unsupported(run):
    if run.is_idle("us.2555") or not run.form("us.1040").left_out_abroad:
        return
    income, form = run.form("us.1040"), run.every("us.2555")[0]
    for home in places.made(run):
        says = f"Whether {home.name} takes over the exclusion is not known here. Its return waits."
        yield found(form.address("excluded_net"), says, code="us.2555.state")
    if income.tax_method == "schedule D":
        says = "Which gain ends above taxable income is not worked out by kind."
        yield found(form.address("excluded_net"), says, code="us.2555.special-gain")
    if run.papers("annualized"):
        yield found(form.address("excluded_net"), "Each period has an exclusion of its own.", code="us.2555.annualized")
    if not run.is_idle("us.8615") and run.form("us.8615").applies:
        yield found(
            form.address("excluded_net"), "The parent's rates beside an exclusion are not worked out.", code="us.2555.child"
        )


CHECKS = (qualifying, amounts, unsupported)
