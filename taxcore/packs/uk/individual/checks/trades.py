"""Trades and partnerships: flat rates beside allowances, the change of basis periods, losses, elections that cost or save."""

from decimal import Decimal

from taxcore.engine import check, found, stops
from taxcore.packs.uk.individual.choices import COSTS
from taxcore.packs.uk.individual.trades import is_full
from taxcore.packs.uk.individual.trading import trades_of

_CARS = ("electric", "main", "special")
_CHANGED = 2023


@stops("uk.mileage-and-allowances", "Mileage at flat rates beside allowances for a car", "conflict", "ITTOIA 2005 s. 94F(2)")
@stops("uk.home-months", "More than twelve months of work at home", "conflict", "ITTOIA 2005 s. 94H")
@stops("uk.disallowed-above", "More disallowed than was spent", "conflict", "ITTOIA 2005 s. 34")
@check("uk.depreciation", "Depreciation is never allowed", "missed", "ITTOIA 2005 s. 33")
@stops("uk.deductions-above", "Deductions of contractors above 30% of turnover", "unlikely", "FA 2004 s. 61")
@check("uk.no-expenses", "A trade without any expense", "missed", "ITTOIA 2005 s. 34")
def expenses(run):
    for paper in run.papers("trade"):
        if (paper.miles or paper.motorcycle_miles) and any(row.pool in _CARS for row in paper.assets):
            says = "Who takes the flat rates for a vehicle has no allowances for it. Remove one of both."
            yield found(paper.address("miles"), says, code="uk.mileage-and-allowances")
        if (paper.home_25 or 0) + (paper.home_51 or 0) + (paper.home_101 or 0) > 12:
            yield found(paper.address("home_25"), "The months together are more than twelve.", code="uk.home-months")
        for name in {row.of for row in paper.disallowed if row.of}:
            off = sum((row.amount for row in paper.disallowed if row.of == name), Decimal(0))
            if off > getattr(paper, name):
                says = f"{COSTS[name]}: more is disallowed than was entered."
                yield found(paper.address("disallowed"), says, code="uk.disallowed-above")
        if paper.depreciation and not paper.assets and not paper.main_before:
            says = "Enter the plant and cars: capital allowances take the place of depreciation."
            yield found(paper.address("depreciation"), says, code="uk.depreciation")
        rate = run.laws["uk"].contractors.rate
        if paper.deducted > paper.turnover * rate:
            says = f"A contractor deducts no more than {rate:.0%}. Enter the turnover before deductions."
            yield found(paper.address("deducted"), says, code="uk.deductions-above")
        spent = any(getattr(paper, name) for name in COSTS) or paper.miles or paper.use_allowance
        if not spent and paper.turnover > run.laws["uk"].small_allowances.trading:
            yield found(paper.address("goods"), "No expense and no allowance: is that all?", code="uk.no-expenses")


@stops("uk.asset-private", "An asset without any business use", "conflict", "CAA 2001 s. 15")
@stops("uk.asset-day", "An asset bought after the year, or sold before it was bought", "conflict", "CAA 2001 s. 5")
@check(
    "uk.asset-before",
    "An asset with private use was there before, and what it was worth is missing",
    "missing",
    "CAA 2001 s. 206",
)
@check("uk.ended-unsold", "The business ceased, and assets or pools are left", "missed", "CAA 2001 s. 61")
def assets(run):
    for row in (row for paper in run.papers("trade") for row in paper.assets):
        if row.private == 100:
            yield found(row.address("private"), "It is used for private purposes alone. Remove it.", code="uk.asset-private")
        late = row.bought is not None and row.bought > run.period.end
        if late or (row.bought is not None and row.sold is not None and row.sold < row.bought):
            yield found(row.address("bought"), "The days do not fit the year, or each other.", code="uk.asset-day")
        if row.private and row.bought is not None and row.bought < run.period.start and not row.is_keyed("before"):
            says = "Enter what it was worth when the year began; nothing where it was deducted whole."
            yield found(row.address("before"), says, code="uk.asset-before")
    for paper in run.papers("trade"):
        kept = [row for row in paper.assets if row.sold is None]
        if paper.ended is not None and (kept or paper.main_before or paper.special_before):
            says = "What is left is allowed in full. Enter for each asset what it was sold for, or its value if it was kept."
            yield found(paper.address("assets"), says, code="uk.ended-unsold")


@stops("uk.transition-year", "A transition part in another year than 2023-24", "conflict", "FA 2022 Sch. 1 para. 65")
@stops("uk.transition-loss", "A loss in the year in which basis periods changed", "unsupported", "FA 2022 Sch. 1 paras 69, 74")
@stops("uk.transition-more", "More charged by election than there is", "conflict", "FA 2022 Sch. 1 para. 73")
@check("uk.transition-class-4", "A transition profit is charged", "missed", "FA 2022 Sch. 1 para. 73")
def transition(run):
    for form in trades_of(run):
        paper = form.paper
        entered = bool(paper.transition_part or paper.overlap)
        if entered and run.year != _CHANGED:
            says = "Only 2023-24 has a transition part. Enter what is left of its profit instead."
            yield found(paper.address("transition_part"), says, code="uk.transition-year")
        if entered and form.net_loss > 0:
            says = "What becomes of a loss of that year is not supported."
            yield found(paper.address("transition_part"), says, code="uk.transition-loss")
        if paper.transition_more > form.transition_whole:
            says = f"No more than {form.transition_whole:,.0f} can be charged."
            yield found(paper.address("transition_more"), says, code="uk.transition-more")
        if form.transition_left > 0 and not paper.transition_more:
            says = f"{form.transition_left:,.0f} are left for later years. More may be charged now, if income is low."
            yield found(paper.address("transition_more"), says, code="uk.transition-class-4")


@stops("uk.trade-ended", "The business ended in another year", "conflict", "ITTOIA 2005 s. 202")
@check("uk.short-not-enough", "The short pages are chosen and are not enough", "rule", "SA103S notes")
@check("uk.trading-allowance-better", "The trading allowance is better than the expenses", "election", "ITTOIA 2005 s. 783AI")
@check("uk.trading-expenses-better", "The expenses are better than the trading allowance", "election", "ITTOIA 2005 s. 783AL")
@check("uk.class-2-could", "Small profits: class 2 can be paid by choice", "election", "SSCBA 1992 s. 11(6)")
def trades(run):
    law, forms = run.laws["uk"], run.every("uk.trading-profit")
    for form in forms:
        paper = form.paper
        if paper.ended is not None and paper.ended not in run.period:
            yield found(paper.address("ended"), "The day is not in the tax year.", code="uk.trade-ended")
        if paper.pages == "short" and is_full(paper):
            yield found(
                paper.address("pages"),
                "Turnover, or a box that only they have, asks for the full pages.",
                code="uk.short-not-enough",
            )
        least, spent = min(form.receipts, law.small_allowances.trading), form.expenses + form.allowances
        if len(forms) == 1 and not paper.use_allowance and least > spent:
            says = f"The allowance takes {least:,.0f} off, the expenses {spent:,.0f}."
            yield found(paper.address("use_allowance"), says, code="uk.trading-allowance-better")
        entered = sum((getattr(paper, name) for name in COSTS if name != "depreciation"), Decimal(0))
        if paper.use_allowance and entered > least:
            says = f"Expenses of {entered:,.2f} were entered, the allowance is {least:,.0f}."
            yield found(paper.address("use_allowance"), says, code="uk.trading-expenses-better")
    profits = run.form("uk.national-insurance").profits
    if forms and not law.insurance.class_2_due and profits < law.insurance.class_2_small and run.single("about").class_2 is None:
        says = "A year may be missing for the State Pension. Answer whether class 2 is paid by choice."
        yield found(run.single("about").address("class_2"), says, code="uk.class-2-could")


@stops("uk.partner-limited", "A loss of a limited or sleeping partner", "unsupported", "ITA 2007 ss. 103C, 104")
@stops("uk.partner-tax", "Deductions of contractors above 30% of the share", "unlikely", "FA 2004 s. 61")
def partners(run):
    for form in run.every("uk.partnership-profit"):
        paper = form.paper
        if paper.limited and form.net_loss > 0 and form.loss_use == "income":
            yield found(
                paper.address("loss_use"), "How much of it counts is not supported. Carry it forward.", code="uk.partner-limited"
            )
        if paper.deducted and paper.deducted > max(paper.share, Decimal(0)):
            yield found(paper.address("deducted"), "The deductions are more than the share. Check both.", code="uk.partner-tax")


CHECKS = (expenses, assets, transition, trades, partners)
