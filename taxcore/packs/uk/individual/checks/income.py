"""Employments, savings, property, foreign income, benefits and payments: what does not fit together or is easily missed."""

from collections import Counter
from decimal import Decimal

from taxcore.engine import check, found, stops
from taxcore.packs.uk.individual.pages import LET

_OF_A_PAYER = (
    ("interest", "payer", "untaxed"), ("dividends", "company", "dividends"), ("pension", "payer", "amount"),
    ("employment", "employer", "pay"),
)  # fmt: skip


@stops("uk.tax-above-pay", "More tax taken off than was paid", "unlikely", "ITEPA 2003 s. 684")
@check("uk.scheme-missing", "Tax was taken off, and the PAYE reference is missing", "missing", "SA102, box 4")
@check("uk.pay-no-tax", "Pay above the allowance, and no tax taken off", "unlikely", "ITEPA 2003 s. 684")
@stops("uk.fuel-no-car", "Fuel for a car that there is not", "conflict", "ITEPA 2003 s. 149")
@check("uk.car-no-fuel", "A company car without fuel", "missed", "ITEPA 2003 s. 149")
@check("uk.expenses-high", "Expenses above half the pay", "unlikely", "ITEPA 2003 s. 336")
@check("uk.loan-left-open", "A director's loan above 10,000 at the end of the year", "missed", "CTA 2010 s. 455")
@check("uk.close-company-dividends", "Director of a close company without dividends", "missed", "ITTOIA 2005 s. 383")
def employments(run):
    for form in run.every("uk.sa102"):
        paper, allowance = form.paper, run.laws["uk"].allowances.personal
        if paper.tax > paper.pay + paper.tips:
            yield found(paper.address("tax"), "The tax is more than the pay. Copy both from the P60.", code="uk.tax-above-pay")
        if paper.tax > 0 and not paper.scheme:
            yield found(paper.address("scheme"), "Enter the employer's PAYE reference from the P60.", code="uk.scheme-missing")
        if paper.pay > allowance and not paper.tax:
            yield found(paper.address("tax"), "No tax was taken off. Check the P60 and the tax code.", code="uk.pay-no-tax")
        if paper.fuel and not paper.car:
            yield found(paper.address("fuel"), "Enter the benefit of the car, or remove that of the fuel.", code="uk.fuel-no-car")
        if paper.car and not paper.fuel:
            yield found(paper.address("fuel"), "Was private fuel paid for? If not, leave it empty.", code="uk.car-no-fuel")
        if form.expenses * 2 > form.pay > 0:
            yield found(
                paper.address("travel"), "Expenses are above half the pay. Check what was reimbursed.", code="uk.expenses-high"
            )
        if paper.director and paper.loan_ended > run.laws["uk"].loans.above:
            says = "The company may owe tax on the loan unless it is repaid within nine months of its year's end."
            yield found(paper.address("loan_ended"), says, code="uk.loan-left-open")
        if paper.director and paper.close_company and not run.papers("dividends"):
            says = "Were dividends of the company paid? Enter them, or leave it as it is."
            yield found(paper.address("close_company"), says, code="uk.close-company-dividends")


@stops("uk.code-no-pay", "Tax of earlier years in a code, and nobody who took it off", "conflict", "SI 2003/2682, reg. 186")
@stops("uk.code-later-above", "More in a later code than one can collect", "rule", "SI 2003/2682, reg. 186")
def codes(run):
    about = run.single("about")
    if about.code_earlier and not run.papers("employment") and not run.papers("pension"):
        yield found(about.address("code_earlier"), "Enter the pay or the pension that it was taken off.", code="uk.code-no-pay")
    most = run.laws["uk"].codes.most
    if about.code_later >= most:
        says = f"A code collects less than {most:,.0f} of a year. Copy the amount from the coding notice."
        yield found(about.address("code_later"), says, code="uk.code-later-above")


@stops("uk.earlier-both", "More and less tax for an earlier year at once", "conflict", "TMA 1970 Sch. 1B")
@stops("uk.reduced-why", "Payments on account reduced without a reason", "missing", "TMA 1970 s. 59A(4)")
@check("uk.reduced-above", "Payments on account are not reduced by the claim", "unlikely", "TMA 1970 s. 59A(4)")
@check("uk.paid-on-account", "Payments on account other than last year's return asked for", "last year", "TMA 1970 s. 59A")
def payments(run):
    about, summary = run.single("about"), run.form("uk.sa110")
    if about.earlier_more and about.earlier_less:
        yield found(about.address("earlier_less"), "Enter the difference in one of both boxes.", code="uk.earlier-both")
    if about.is_keyed("reduced_to") and not about.reduced_why:
        yield found(about.address("reduced_why"), "HMRC asks why. Enter the reason.", code="uk.reduced-why")
    if about.is_keyed("reduced_to") and about.reduced_to > summary.relevant / 2:
        yield found(about.address("reduced_to"), "Half of what counts is less than that anyway.", code="uk.reduced-above")
    asked = run.line_before("uk.sa110:on_account")
    if asked is not None and about.paid_on_account != 2 * asked:
        says = f"Two payments of {asked:,.2f} were due. Check what was paid."
        yield found(about.address("paid_on_account"), says, code="uk.paid-on-account")


@stops("uk.born-later", "Born after the tax year", "unlikely", "SA100, box 1")
@check("uk.state-pension-early", "State Pension before its age", "unlikely", "Pensions Act 2014 s. 1")
@stops("uk.state-pension-taxed", "Tax taken off the State Pension", "unlikely", "ITEPA 2003 s. 577")
def ages(run):
    born = next((one.birth_date for one in run.people("taxpayer")), None)
    for person in run.people("taxpayer"):
        if born is not None and born > run.period.end:
            yield found(person.address("birth_date"), "The day of birth is after the tax year.", code="uk.born-later")
    for paper in run.papers("pension"):
        if paper.state and born is not None and run.period.end.year - born.year < run.laws["uk"].state_pension.age:
            says = "Nobody of that age has a State Pension. Check the date of birth, or whose pension it is."
            yield found(paper.address("state"), says, code="uk.state-pension-early")
        if paper.state and paper.tax:
            says = "No tax is taken off the State Pension. Was another pension meant?"
            yield found(paper.address("tax"), says, code="uk.state-pension-taxed")


@check("uk.taxed-interest", "Interest with tax taken off", "unlikely", "ITA 2007 s. 874")
@check("uk.entered-twice", "Two papers of one payer with one amount", "unlikely", "SA100, boxes 1 to 12")
def savings(run):
    for paper in run.papers("interest"):
        if paper.taxed_net:
            says = "Banks have taken no tax off since 2016. Is it from a trust, a company's loan or an annuity?"
            yield found(paper.address("taxed_net"), says, code="uk.taxed-interest")
    for kind, payer, amount in _OF_A_PAYER:
        papers = [paper for paper in run.papers(kind) if getattr(paper, amount)]
        seen = Counter((getattr(paper, payer).lower(), getattr(paper, amount)) for paper in papers)
        for paper in papers:
            if seen[getattr(paper, payer).lower(), getattr(paper, amount)] > 1:
                yield found(
                    paper.address(amount),
                    "The same amount is on another paper of the same name. Is it one?",
                    code="uk.entered-twice",
                )


@stops("uk.lettings-missing", "Rents, and no number of properties", "missing", "SA105, box 1")
@stops("uk.private-above", "Private use above all expenses of letting", "conflict", "ITTOIA 2005 s. 34")
@check("uk.property-allowance-better", "The property allowance is better than the expenses", "election", "ITTOIA 2005 s. 783BI")
@check(
    "uk.property-expenses-better",
    "The expenses of letting are better than the property allowance",
    "election",
    "ITTOIA 2005 s. 783BL",
)
def letting(run):
    if not run.papers("property"):
        return
    form, law = run.form("uk.sa105"), run.laws["uk"].small_allowances
    paper = form.paper
    costs = sum((getattr(paper, name) for name in (*LET, "domestic_items")), Decimal(0))
    if paper.rents and paper.lettings is None:
        yield found(paper.address("lettings"), "Enter how many properties were let.", code="uk.lettings-missing")
    if paper.private > costs:
        yield found(paper.address("private"), "Private use cannot be more than the expenses.", code="uk.private-above")
    best = min(paper.rents, law.property)
    if not paper.use_allowance and best > costs + paper.home_finance + paper.home_finance_before:
        says = f"The allowance takes {best:,.0f} off, the expenses {costs:,.2f}."
        yield found(paper.address("use_allowance"), says, code="uk.property-allowance-better")
    if paper.use_allowance and costs > best:
        says = f"The expenses take {costs:,.2f} off, the allowance {best:,.0f}."
        yield found(paper.address("use_allowance"), says, code="uk.property-expenses-better")


@stops("uk.foreign-here", "Foreign income from the United Kingdom", "conflict", "ITTOIA 2005 s. 830")
@stops("uk.foreign-tax-above", "Foreign tax above the income", "unlikely", "TIOPA 2010 s. 18")
@stops("uk.released-above", "More could be remitted than was kept", "conflict", "ITTOIA 2005 s. 844")
@check("uk.foreign-rate", "An amount in another currency without its rate", "missing", "TIOPA 2010 s. 18")
@check("uk.foreign-unclaimed", "Foreign tax without a claim to credit", "election", "TIOPA 2010 s. 112")
def foreign(run):
    for paper in run.papers("foreign"):
        if paper.country == "GBR":
            yield found(paper.address("country"), "Enter it on the British papers.", code="uk.foreign-here")
        if paper.tax > paper.amount + paper.released:
            yield found(
                paper.address("tax"), "The tax is more than the income. Enter the amount before tax.", code="uk.foreign-tax-above"
            )
        if paper.released > paper.kept_before:
            yield found(
                paper.address("released"), "It is part of what was kept. Enter no more than that.", code="uk.released-above"
            )
        if paper.in_currency and not paper.rate_source:
            yield found(paper.address("rate_source"), "Enter the rate and where it is from.", code="uk.foreign-rate")
        if paper.tax and not paper.claims and not paper.unremittable:
            says = "The tax is deducted from the income. A credit is mostly worth more."
            yield found(paper.address("claims"), says, code="uk.foreign-unclaimed")


@check("uk.child-benefit-whose", "Who has the higher income, for the Child Benefit charge", "missing", "ITEPA 2003 s. 681C")
@check("uk.marriage-could", "Income below the allowance: part of it can be transferred", "election", "ITA 2007 s. 55C")
@stops("uk.marriage-giver-rate", "Allowance transferred by somebody above the basic rate", "rule", "ITA 2007 s. 55C(1)")
@stops("uk.loan-deducted-none", "A student loan deducted by an employer, and none entered", "conflict", "SI 2009/470, reg. 41")
def benefits(run):
    about, income, tax = run.single("about"), run.form("uk.income"), run.form("uk.income-tax")
    law = run.laws["uk"]
    if about.child_benefit and about.partner_earns_more is None and income.adjusted > law.child_benefit_charge["from"]:
        says = "The charge is whose adjusted net income is higher. Answer whether it is the partner's."
        yield found(about.address("partner_earns_more"), says, code="uk.child-benefit-whose")
    room = law.allowances.personal - law.allowances.marriage
    if about.gives_allowance is None and not about.receives_allowance and 0 < income.net <= room:
        says = "If married or in a civil partnership, 10% of the allowance can go to a spouse at the basic rate."
        yield found(about.address("gives_allowance"), says, code="uk.marriage-could")
    if about.gives_allowance and tax.taxable > tax.edges("basic")[1]:
        says = "Who is taxed above the basic rate cannot transfer the allowance. Remove the answer."
        yield found(about.address("gives_allowance"), says, code="uk.marriage-giver-rate")
    for paper in run.papers("employment"):
        if paper.loan_deducted and about.loan in ("", "none"):
            says = "Enter which plan the loan is on, or remove the deduction."
            yield found(paper.address("loan_deducted"), says, code="uk.loan-deducted-none")


CHECKS = (employments, codes, payments, ages, savings, letting, foreign, benefits)
