"""General business credits: what is missing or contradicts, what a limit leaves. IRC 38, 39, 280C."""

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.papers.shares import KINDS as SHARES

_FIELDS = ("wages_short", "wages_long", "wages_second", "tips", "access_costs", "plan_costs")


@stops("us.3800.passive", "A business credit of a passive activity", "unsupported", "IRC 469(d)(2); Form 8582-CR")
@stops("us.3800.share", "Schedule K-1 credit not on Form 3800", "missing", "IRC 38, 702(a)(7), 1366(a)(1)")
@stops("us.3800.entered-there", "Business credit entered among other credits", "conflict", "IRC 38")
@check("us.3800.old-row", "Business credit carryforward expired", "conflict", "IRC 39(a)(1)")
@idea("us.3800.waits", "Business credit carried forward", "missed", "IRC 39(a)")
@check("us.3800.no-business", "Business credit without a business", "conflict", "IRC 38")
def together(run):
    paper, form = run.single("business-credits"), run.form("us.3800")
    for row in paper.rows:
        if row.passive:
            says = "It is limited to the tax on passive income, on Form 8582-CR. That is not supported yet."
            yield found(row.address("passive"), says, code="us.3800.passive")
    named = {str(row.share) for row in paper.rows if row.share}
    for kind in SHARES:
        for share in run.papers(kind):
            if share.credits and share.key not in named:
                says = "Add “General business credit”, with a row of this share: its form, its kind and amount."
                yield found(share.address("credits"), says, code="us.3800.share")
    if run.single("credits-carried").general_business:
        says = "Enter it on “General business credit”, by its form, and empty this field."
        yield found(run.single("credits-carried").address("general_business"), says, code="us.3800.entered-there")
    for row in paper.carried:
        if row.from_year is not None and not form.oldest() <= row.from_year < run.year:
            says = "It counts for twenty years after its own. Check the year."
            yield found(row.address("from_year"), says, code="us.3800.old-row")
    if form.left > 0:
        says = f"{form.left:,.0f} carry over. This year's part may go back to last year first: Form 1040-X."
        yield found(form.address("left"), says, code="us.3800.waits")
    if any(getattr(paper, name) for name in _FIELDS) and not trades(run) and not named:
        name = next(name for name in _FIELDS if getattr(paper, name))
        says = "No business is on this return. Add the one that these credits come from."
        yield found(paper.address(name), says, code="us.3800.no-business")


@check("us.3800.deduction", "Deduction to be reduced by the credit", "rule", "IRC 280C(a), 45B(c), 44(d)(7), 45E(e)(2)")
@check("us.5884.certified", "Work opportunity: the certification", "missing", "IRC 51(d)(13)")
@check("us.8846.tips", "More tips toward the minimum wage than tips", "conflict", "IRC 45B(b)(1)")
@check("us.8826.size", "Disabled access credit: size of the business", "rule", "IRC 44(b)")
@stops("us.8881.employees", "Plan startup without the number of employees", "missing", "IRC 45E(c)")
@check("us.8881.too-many", "Plan startup credit: more than 100 employees", "rule", "IRC 408(p)(2)(C)(i)")
def each(run):
    paper = run.single("business-credits")
    credits = {code: run.form(code).credit for code in ("us.5884", "us.8846", "us.8826", "us.8881")}
    if any(amount > 0 for amount in credits.values()):
        code = next(code for code, amount in credits.items() if amount > 0)
        says = f"The credits reduce the deduction for wages, taxes or costs by {sum(credits.values()):,.0f}. Check the books."
        yield found(run.form(code).address("credit"), says, code="us.3800.deduction")
    if credits["us.5884"] > 0:
        says = "Form 8850 went to the state within 28 days of the first day of work, and came back certified? Keep it."
        yield found(paper.address("wages_long"), says, code="us.5884.certified")
    if paper.tips_to_minimum > paper.tips:
        yield found(paper.address("tips_to_minimum"), "It is a part of the tips. Check both.", code="us.8846.tips")
    receipts = sum(one.gross_income for one in trades(run))
    law = run.laws["us"].business_credits
    if credits["us.8826"] > 0 and receipts > law.access_receipts and (paper.employees or 0) > law.access_employees:
        says = f"Last year's receipts were up to {law.access_receipts:,}, or employees up to {law.access_employees}?"
        yield found(paper.address("access_costs"), says, code="us.8826.size")
    if paper.plan_costs and (paper.employees is None or paper.plan_members is None):
        name = "employees" if paper.employees is None else "plan_members"
        says = "Rate and limit depend on both numbers. Enter them."
        yield found(paper.address(name), says, code="us.8881.employees")
    if paper.plan_costs and (paper.employees or 0) > law.plan_employees:
        says = "There is no credit then. Check the number: only those with 5,000 or more of pay count."
        yield found(paper.address("employees"), says, code="us.8881.too-many")


CHECKS = (together, each)
