"""Pension savings, contributions and gifts."""

from taxcore.engine import check, found, stops


@stops("uk.own-above-input", "Own payments above all that was saved", "conflict", "FA 2004 s. 233")
@stops("uk.net-pay-above-own", "More taken off pay than was paid by the taxpayer", "conflict", "FA 2004 s. 193")
@stops("uk.scheme-pays-above", "The scheme pays more than the charge", "conflict", "FA 2004 s. 237B")
@stops("uk.money-purchase-above", "Money purchase savings above all that was saved", "conflict", "FA 2004 s. 227ZA")
@stops("uk.unused-year", "Unused allowance of a year that does not count", "rule", "FA 2004 s. 228A")
@check("uk.allowance-charge", "An annual allowance charge", "missed", "FA 2004 s. 227")
def savings(run):
    if not run.papers("pension-savings"):
        return
    form = run.form("uk.annual-allowance")
    paper = form.paper
    for name, than, says, code in (
        ("own", "input", "Own payments are part of the input. Enter no more than it.", "uk.own-above-input"),
        ("net_pay", "own", "It is part of the own payments. Enter no more than these.", "uk.net-pay-above-own"),
        ("money_purchase", "input", "It is part of the input. Enter no more than that.", "uk.money-purchase-above"),
    ):
        if getattr(paper, name) > getattr(paper, than):
            yield found(paper.address(name), says, code=code)
    if paper.scheme_pays > form.charge:
        yield found(paper.address("scheme_pays"), f"The charge is {form.charge:,.2f}.", code="uk.scheme-pays-above")
    years = [str(year) for year in range(form.oldest, run.year)]
    for row in paper.unused:
        if row.of_year and row.of_year not in years:
            yield found(row.address("of_year"), f"Only {', '.join(years)} count. Remove the row.", code="uk.unused-year")
    if form.charge > form.paid_by_scheme:
        says = f"{form.charge - form.paid_by_scheme:,.2f} are due. The scheme may pay them if asked in time."
        yield found(paper.address("scheme_pays"), says, code="uk.allowance-charge")


@stops("uk.contributions-above-earnings", "Pension contributions above the earnings", "unsupported", "FA 2004 s. 190")
@check("uk.savings-unsaid", "Large contributions, and nothing of the annual allowance", "missing", "FA 2004 s. 227")
def contributions(run):
    main, income = run.form("uk.sa100"), run.form("uk.income")
    paid = main.relief_at_source + main.gross_contributions
    earnings = max(income.employments + income.trades + income.transition, run.laws["uk"].contributions.basic_amount)
    at = run.single("reliefs").address("relief_at_source")
    if paid > earnings:
        says = f"Relief is given up to earnings of {earnings:,.0f}. What is above has none: enter only what has."
        yield found(at, says, code="uk.contributions-above-earnings")
    law = run.laws["uk"].annual_allowance
    if not run.papers("pension-savings") and (paid > law.money_purchase or income.net > law.threshold) and paid:
        yield found(at, "Add the paper of pension savings, so that the annual allowance is looked at.", code="uk.savings-unsaid")


@stops("uk.gifts-back-above", "More gifts treated as last year's than were made", "conflict", "ITA 2007 s. 426")
@stops("uk.gifts-above-tax", "Gift Aid above the tax that was paid", "unsupported", "ITA 2007 s. 424")
def gifts(run):
    if not run.papers("reliefs"):
        return
    main, tax, paper = run.form("uk.sa100"), run.form("uk.income-tax"), run.single("reliefs")
    if paper.gifts_to_year_before > paper.gifts:
        says = "These are part of the gifts of the year. Enter no more than them."
        yield found(paper.address("gifts_to_year_before"), says, code="uk.gifts-back-above")
    treated = main.gifts_gross * run.laws["uk"].income_tax.basic
    if treated > tax.before + run.form("uk.gains-tax").tax:
        says = "The tax treated as taken off the gifts is more than the year's tax. The charge on it is not supported."
        yield found(paper.address("gifts"), says, code="uk.gifts-above-tax")


CHECKS = (savings, contributions, gifts)
