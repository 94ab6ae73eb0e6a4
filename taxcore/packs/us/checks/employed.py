"""Tips, household and statutory employees, moves, contracts: what is missing, what does not fit, what could be chosen."""

from taxcore.engine import check, found, idea, stops


@stops("us.household.section-b", "Unemployment tax by section B of Schedule H", "unsupported", "IRC 3302")
@check("us.household.nothing", "Household employees, and no tax on them", "unlikely", "IRC 3121(x)")
@stops("us.household.missing", "A household employee cares for somebody, and Schedule H is missing", "missing", "IRC 3111")
@check("us.household.withheld-above", "More income tax withheld than half the wages", "unlikely", "IRC 3402(p)")
@check("us.household.contractor", "Somebody who works in the home is reported as a contractor", "rule", "IRC 3121(d)")
def household(run):
    for paper in run.papers("household"):
        form = run.form("us.sch-h")
        if form.unemployment > 0 and not paper.one_state:
            says = "Line 10 is not answered with yes: the credit for contributions is another one. It is not supported yet."
            yield found(paper.address("one_state"), says, code="us.household.section-b")
        if not form.tax and paper.employees:
            yield found(
                paper.address("employees"), "Wages are below what the law asks for. Check them.", code="us.household.nothing"
            )
        if paper.withheld > sum(row.wages for row in paper.employees) / 2:
            yield found(paper.address("withheld"), "Check the amount against the records.", code="us.household.withheld-above")
    for care in run.papers("care"):
        if care.household_employee and not run.papers("household"):
            says = "Add what was paid to household employees. If this was no employee, answer no here."
            yield found(care.address("household_employee"), says, code="us.household.missing")
        if len(str(care.number or "").replace("-", "")) == 9 and run.papers("household") and care.household_employee is False:
            says = "A worker who is told what to do and how is an employee. Check what was agreed."
            yield found(care.address("household_employee"), says, code="us.household.contractor")


@stops("us.statutory.business", "A statutory employee without a business", "missing", "IRC 3121(d)(3)")
@stops("us.statutory.both", "A statutory employee's business has other receipts", "rule", "Schedule C, line 1")
@check("us.statutory.withheld", "Income tax withheld from a statutory employee", "unlikely", "IRC 3402")
def statutory(run):
    for wage in run.papers("w2"):
        if wage.statutory_employee and not wage.business:
            says = "The pay is reported on a Schedule C. Choose the business, or add one."
            yield found(wage.address("business"), says, code="us.statutory.business")
        if wage.statutory_employee and wage.federal_withheld:
            says = "Nothing is withheld from statutory employees. Is box 13 right?"
            yield found(wage.address("statutory_employee"), says, code="us.statutory.withheld")
    for one in run.every("us.sch-c"):
        pay = sum(paper.wages for paper in run.papers("w2") if paper.statutory_employee and paper.business == one.key)
        if one.is_statutory and one.receipts != pay:
            says = "Self-employed work has a Schedule C of its own, and bears the self-employment tax. Divide them."
            yield found(one.books.address("receipts"), says, code="us.statutory.both")


@stops("us.moving.not-ordered", "Moving expenses without orders", "rule", "IRC 217(k)")
@check("us.moving.no-expenses", "Moving expenses paid by the government, and none entered", "missing", "IRC 132(g)(2)")
def moves(run):
    for paper in run.papers("adjustments"):
        if (paper.moving or paper.moving_travel) and not paper.moving_ordered:
            says = "Only a move on active duty, to a new permanent station, is deductible. Say so, or clear the amount."
            yield found(paper.address("moving_ordered"), says, code="us.moving.not-ordered")
    for wage in run.papers("w2"):
        row = next((row for row in wage.codes if row.code == "P" and row.amount), None)
        own = run.papers("adjustments", wage.owner or "taxpayer")
        if row is not None and not any(paper.moving or paper.moving_travel for paper in own):
            says = "Box 12 has code P. What was paid above the cost of the move is income: enter the cost with the adjustments."
            yield found(row.address("amount"), says, code="us.moving.no-expenses")


@check("us.tips.allocated", "Allocated tips are income", "rule", "IRC 6053(c)")
@check("us.tips.no-wages", "Tips of somebody without wages", "unlikely", "IRC 3121(q)")
@idea("us.contracts.back", "A loss of contracts could go back three years", "election", "IRC 1212(c)")
@check("us.contracts.large", "A large gain of contracts", "unlikely", "IRC 1256")
def others(run):
    for wage in run.papers("w2"):
        if wage.allocated_tips:
            says = "Records of what was really received may show less. Without them all of it is income."
            yield found(wage.address("allocated_tips"), says, code="us.tips.allocated")
    for paper in run.papers("other-income"):
        if paper.tips and not run.papers("w2", paper.owner or "taxpayer"):
            yield found(paper.address("tips"), "Tips come with employment. Is a W-2 missing?", code="us.tips.no-wages")
    form = run.form("us.6781") if not run.is_idle("us.6781") else None
    if form is not None and form.together < 0:
        says = "By election, against gains of contracts of those years. It is not worked out here."
        yield found(form.address("together"), says, code="us.contracts.back")
    if form is not None and form.together > 100_000:
        yield found(form.address("together"), "Check box 11: losses are entered with a minus.", code="us.contracts.large")


CHECKS = (household, statutory, moves, others)
