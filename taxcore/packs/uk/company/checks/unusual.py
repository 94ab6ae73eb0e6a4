"""What looks unusual in books, plant, gains and loans of a company, and what small companies easily overlook."""

from collections import Counter
from datetime import date

from taxcore.engine import check, found, idea, stops
from taxcore.packs.uk.company.papers import PROFIT_AND_LOSS
from taxcore.packs.uk.company.tagged import heading_sums

_REGISTERS_FROM = 90_000  # of VAT: VATA 1994 Sch. 1
_MICRO_RAISED = date(2025, 4, 6)
_MICRO = {False: (632_000, 316_000), True: (1_000_000, 500_000)}  # turnover and assets; later, since they were raised
_OWES = ("creditors", "later", "provisions", "capital")
_HAS = ("fixed", "stock", "debtors", "cash")
# Words in a trading account's name; code; what to look at
_ASKS = (
    ("gift", "uk.ct-gifts", "Gifts to customers are hardly ever deducted. Leave them out."),
    ("goodwill", "uk.ct-goodwill", "Relief for goodwill is restricted by when and from whom it was bought."),
    ("pension", "uk.ct-pension-paid", "Only contributions that were paid in the period are deducted."),
    ("bonus", "uk.ct-bonus", "Pay that is not paid within nine months of the period's end is deducted when it is."),
    ("late payment", "uk.ct-late-payment", "Interest on tax is no cost of the trade: choose interest. Penalties are left out."),
    ("subscription", "uk.ct-subscription", "Those of clubs and for the directors themselves are left out."),
)  # fmt: skip


@check("uk.ct-turnover-debit", "Turnover with a debit balance", "unlikely", "CTA 2009 s. 46")
@check("uk.ct-asset-credit", "An asset with a credit balance", "unlikely", "Companies Act 2006 s. 396")
@check("uk.ct-overdrawn", "A bank account that is overdrawn stands among the assets", "unlikely", "Companies Act 2006 s. 396")
@check("uk.ct-creditor-debit", "A creditor with a debit balance", "unlikely", "Companies Act 2006 s. 396")
@check("uk.ct-capital-missing", "No share capital in the trial balance", "missing", "Companies Act 2006 s. 542")
@check("uk.ct-no-depreciation", "Fixed assets, and no depreciation", "missed", "FRS 105 s. 12")
@check("uk.ct-net-liabilities", "The company owes more than it has", "unlikely", "Companies Act 2006 s. 393")
@stops("uk.ct-not-micro", "Too large for micro-entity accounts", "unsupported", "Companies Act 2006 s. 384A")
def balances(run):
    rows = list(run.single("accounts").rows)
    if not rows:
        return
    for row in rows:
        net = row.debit - row.credit
        if row.heading == "turnover" and net > 0:
            yield found(row.address("debit"), "Sales are credits. Check the side.", code="uk.ct-turnover-debit")
        if row.heading == "cash" and net < 0:
            yield found(
                row.address("heading"), "An overdraft is owed within a year. Choose that heading.", code="uk.ct-overdrawn"
            )
        elif row.heading in _HAS and net < 0:
            yield found(row.address("credit"), "Is it depreciation of an asset, or a creditor?", code="uk.ct-asset-credit")
        if row.heading in _OWES and net > 0:
            yield found(row.address("debit"), "Is it a debtor?", code="uk.ct-creditor-debit")
    headings, at = {str(row.heading) for row in rows}, run.single("accounts").address("rows")
    if "capital" not in headings:
        yield found(at, "Every company limited by shares has some.", code="uk.ct-capital-missing")
    if "fixed" in headings and not any("depreciation" in str(row.account).lower() for row in rows):
        yield found(at, "Enter it in the books, or confirm that there is none.", code="uk.ct-no-depreciation")
    sums = heading_sums(run)
    owned = sum(sums[name] for name in _HAS)
    if owned + sums["creditors"] + sums["later"] + sums["provisions"] < 0:
        yield found(at, "Can it go on trading? The accounts may have to say more.", code="uk.ct-net-liabilities")
    turnover, assets = _MICRO[run.period.start >= _MICRO_RAISED]
    if sums["turnover"] > turnover and owned > assets:
        says = f"Turnover is above {turnover:,} and assets above {assets:,}. Other accounts are not made here."
        yield found(at, says, code="uk.ct-not-micro")


@check("uk.ct-gifts", "Gifts are deducted", "missed", "CTA 2009 s. 1298")
@check("uk.ct-goodwill", "Goodwill is written off", "rule", "CTA 2009 s. 879A")
@check("uk.ct-pension-paid", "Pension contributions: were they paid?", "rule", "FA 2004 s. 196")
@check("uk.ct-bonus", "A bonus: was it paid within nine months?", "rule", "CTA 2009 s. 1288")
@check("uk.ct-late-payment", "Interest or penalties on tax are deducted", "rule", "CTA 2009 ss. 297, 1303")
@check("uk.ct-subscription", "Subscriptions are deducted", "missed", "CTA 2009 s. 54")
@idea("uk.ct-vat", "Turnover above the limit of registration for VAT", "missed", "VATA 1994 Sch. 1")
def of_names(run):
    for row in run.single("accounts").rows:
        if row.heading in PROFIT_AND_LOSS and row.treatment == "trade" and row.debit:
            for words, code, says in _ASKS:
                if words in str(row.account).lower():
                    yield found(row.address("treatment"), says, code=code)
    form = run.form("uk.ct600")
    if form.turnover > _REGISTERS_FROM and not any("vat" in str(row.account).lower() for row in run.single("accounts").rows):
        yield found(form.address("turnover"), "Is the company registered?", code="uk.ct-vat")


@check("uk.ct-plant-twice", "Plant that stands there twice", "conflict", "CAA 2001 s. 5")
@check("uk.ct-plant-cost", "Plant without a cost", "missing", "CAA 2001 s. 5")
@check("uk.ct-plant-car-kind", "A car among the plant", "conflict", "CAA 2001 s. 268A")
@check("uk.ct-charged", "More was received than the pool had", "rule", "CAA 2001 s. 55(3)")
@check("uk.ct-building-cost", "A building without its cost", "missing", "CAA 2001 s. 270BA")
@check("uk.ct-ceased-plant", "The trade ceased, and plant is left", "missed", "CAA 2001 s. 61")
def plant(run):
    for paper in run.papers("plant"):
        same = Counter((str(row.what).lower(), row.bought, row.cost) for row in paper.assets)
        for row in paper.assets:
            if same[(str(row.what).lower(), row.bought, row.cost)] > 1:
                yield found(row.address("what"), "Another line says the same.", code="uk.ct-plant-twice")
            if not row.cost:
                yield found(row.address("cost"), "Enter what it cost.", code="uk.ct-plant-cost")
            if row.sort in ("main", "special") and "car" in str(row.what).lower().split():
                yield found(row.address("sort"), "Choose its kind by its emissions.", code="uk.ct-plant-car-kind")
        form = run.form("uk.plant")
        if form.charges > form.first_charged:
            yield found(form.address("charges"), "Check proceeds and pool: the difference is taxed.", code="uk.ct-charged")
        for row in paper.buildings:
            if not row.cost:
                yield found(row.address("cost"), "Enter it, land apart.", code="uk.ct-building-cost")
        if run.single("about").ceased is not None and any(row.sold is None for row in paper.assets):
            says = "Enter for each thing what it was sold for, or its value if it was kept."
            yield found(paper.address("assets"), says, code="uk.ct-ceased-plant")


@stops("uk.ct-loan-before", "A loan of an earlier period", "conflict", "CTA 2010 s. 455(3)")
@check("uk.ct-gain-twice", "A disposal that stands there twice", "conflict", "TCGA 1992 s. 2")
@check("uk.ct-gain-given", "A disposal for nothing", "rule", "TCGA 1992 s. 17")
@idea("uk.ct-rolled-over", "A gain of a trading asset, and new assets", "election", "TCGA 1992 s. 152")
@check("uk.ct-costs-above", "Costs of lettings above the rents", "unlikely", "CTA 2009 s. 209")
@check("uk.ct-paid-above", "More was paid than is due", "unlikely", "TMA 1970 s. 59D")
@check("uk.ct-period-short", "A period of less than twelve months", "rule", "CTA 2009 s. 10")
def others(run):
    for row in (row for paper in run.papers("loans") for row in paper.loans):
        if row.made is not None and row.made < run.period.start:
            says = "Its tax was due with the period in which it was lent. Enter only what was lent since."
            yield found(row.address("made"), says, code="uk.ct-loan-before")
    rows = [row for paper in run.papers("gains") for row in paper.disposals]
    same = Counter((str(row.asset).lower(), row.sold, row.proceeds) for row in rows)
    for row in rows:
        if same[(str(row.asset).lower(), row.sold, row.proceeds)] > 1:
            yield found(row.address("asset"), "Another line says the same.", code="uk.ct-gain-twice")
        if not row.proceeds:
            yield found(row.address("proceeds"), "Between connected persons the market value counts.", code="uk.ct-gain-given")
    form, about = run.form("uk.ct600"), run.single("about")
    fresh = [row for paper in run.papers("plant") for row in paper.assets if row.bought is not None and row.bought in run.period]
    if form.net_gains > 0 and fresh:
        says = "A claim to roll the gain over is not computed here. Could the new assets take it?"
        yield found(form.address("net_gains"), says, code="uk.ct-rolled-over")
    for paper in run.papers("other-income"):
        if paper.property_costs > paper.rents:
            yield found(paper.address("property_costs"), "Check both amounts.", code="uk.ct-costs-above")
    if about.paid > form.charged:
        yield found(about.address("paid"), f"{form.charged:,.2f} are due.", code="uk.ct-paid-above")
    if run.period.days < 365 and about.ceased is None:
        yield found(about.address("ceased"), "Limits go by its days. Did the accounting date change?", code="uk.ct-period-short")


CHECKS = (balances, of_names, plant, others)
