"""What a lender asks for of a year: income by source with the tax taken off it, and the tax of the year."""

from taxcore.engine.outgoing import Drawn, DrawnTable


def statements(result):
    """One statement of the whole year."""
    run = result.run
    return (Drawn("lender", "Income and tax of the year", (_income(run), _tax(run))),)


def _income(run):
    rows = [*_of_work(run), *_of_savings(run)]
    total = run.form("uk.income").total_income + run.form("uk.income").transition
    return DrawnTable("Income", ("Source", "Kind", "Income", "Tax taken off"), tuple(rows), ("Total income", "", total, ""))


def _of_work(run):
    for form in run.every("uk.sa102"):
        yield form.paper.employer, "Employment", form.taxable, form.tax
    for paper in run.papers("pension"):
        yield paper.payer, "State Pension" if paper.state else "Pension", paper.amount, paper.tax
    for form in run.every("uk.trading-profit"):
        yield form.paper.description, "Trade", form.taxable + form.transition, form.deducted
    for form in run.every("uk.partnership-profit"):
        whole = form.taxable + form.transition + form.property + form.other + form.savings + form.dividends
        yield form.paper.description, "Partnership", whole, form.deducted + form.interest_tax
    if run.papers("property"):
        form = run.form("uk.sa105")
        yield "Lettings in the United Kingdom", "Property", form.taxable, form.tax


def _of_savings(run):
    """Amounts as they are charged: taxed interest with the tax taken off it, foreign income by item."""
    main = run.form("uk.sa100")
    for paper in run.papers("interest"):
        gross = paper.untaxed + paper.taxed_net * main.one_and_a_quarter
        yield paper.payer, "Interest", gross, gross - paper.untaxed - paper.taxed_net
    for paper in run.papers("dividends"):
        yield paper.company, "Dividends", paper.dividends + paper.fund, ""
    for form in run.every("uk.foreign-item"):
        if form.charged:
            yield f"{form.paper.payer}, {form.paper.country}", "Foreign income", form.charged, ""


def _tax(run):
    summary = run.form("uk.sa110")
    rows = [
        ("Income tax and charges", summary.income_tax), ("Class 4", summary.class_4), ("Class 2", summary.class_2),
        ("Student and postgraduate loan", summary.student_loan + summary.postgraduate_loan),
        ("Capital gains tax", summary.gains_tax),
        ("All that is charged", summary.charged), ("Taken off at source", summary.deducted),
    ]  # fmt: skip
    return DrawnTable("Tax", ("", "£"), tuple(row for row in rows if row[1]))
