"""What looks unusual in books, plant, gains and loans of a company, and what small companies easily overlook."""

from collections import Counter
from datetime import date

from taxcore.engine import check, found, idea, stops
from taxcore.packs.uk.company.papers import PROFIT_AND_LOSS
from taxcore.packs.uk.company.tagged import heading_sums

_REGISTERS_FROM = 90_000  # of VAT: VATA 1994 Sch. 1
_RAISED = date(2025, 4, 6)
# Turnover, assets, employees of which two may not be exceeded; later, since the first two were raised
_LIMITS = {
    "micro": {False: (632_000, 316_000, 10), True: (1_000_000, 500_000, 10)},
    "small": {False: (10_200_000, 5_100_000, 50), True: (15_000_000, 7_500_000, 50)},
}
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


@stops("uk.ct-not-micro", "Too large for micro-entity accounts", "rule", "Companies Act 2006 s. 384A")
@stops("uk.ct-not-small", "Too large for accounts of a small company", "unsupported", "Companies Act 2006 s. 382")
@check("uk.ct-employees", "How many worked there is not said", "missing", "Companies Act 2006 s. 411")
@stops("uk.ct-fixed-missing", "The note of fixed assets is missing", "missing", "SI 2008/409 Sch. 1 para. 51")
@stops(
    "uk.ct-fixed-differs", "The note of fixed assets differs from the balance sheet", "conflict", "SI 2008/409 Sch. 1 para. 51"
)
@check("uk.ct-fixed-bought", "The note has other additions than the capital allowances", "conflict", "CAA 2001 s. 5")
@stops("uk.ct-policies", "Accounting policies are missing", "missing", "SI 2008/409 Sch. 1 para. 44")
def made_here(run):
    """Accounts of the size that was chosen, with what belongs to it. A company is too large that is above two of three limits."""
    paper, sums = run.single("accounts"), heading_sums(run)
    if not paper.rows:
        return
    if not paper.is_keyed("employees"):
        yield found(
            paper.address("employees"), "Accounts state it, those of micro-entities too. Enter it.", code="uk.ct-employees"
        )
    owned = sum(sums[name] for name in _HAS)
    for size, code, says in (
        ("micro", "uk.ct-not-micro", "It is above two of the limits. Choose accounts of a small company."),
        ("small", "uk.ct-not-small", "It is above two of the limits. Attach tagged accounts that were made elsewhere."),
    ):
        turnover, assets, staff = _LIMITS[size][run.period.start >= _RAISED]
        above = (sums["turnover"] > turnover) + (owned > assets) + ((paper.employees or 0) > staff)
        if paper.size == size and above > 1:
            yield found(paper.address("size"), says, code=code)
    if paper.size == "small":
        yield from _small(run, paper, sums["fixed"])


def _small(run, paper, fixed):
    if not paper.policies:
        yield found(paper.address("policies"), "Say by which the figures were drawn up.", code="uk.ct-policies")
    left = sum(row.cost_after - row.written_after for row in paper.fixed)
    if fixed and not paper.fixed:
        yield found(paper.address("fixed"), "Enter what became of them, kind by kind.", code="uk.ct-fixed-missing")
    elif left != fixed:
        says = f"It comes to {left:,.0f}, the trial balance to {fixed:,.0f}."
        yield found(paper.address("fixed"), says, code="uk.ct-fixed-differs")
    bought = sum(row.bought for row in paper.fixed)
    fresh = [
        row.cost for plant in run.papers("plant") for row in plant.assets if row.bought is not None and row.bought in run.period
    ]
    if bought != sum(fresh):
        says = f"{bought:,.0f} were bought, {sum(fresh):,.0f} stand among the capital allowances. Is something left out?"
        yield found(paper.address("fixed"), says, code="uk.ct-fixed-bought")


@check("uk.ct-note-idle", "A note to a line that is not printed", "conflict", "FA 1998 Sch. 18 para. 11")
def notes(run):
    for row in (row for paper in run.papers("notes") for row in paper.lines):
        if row.at and run.is_idle(str(row.at).partition(":")[0]):
            yield found(row.address("at"), "Nothing on the return calls for its page.", code="uk.ct-note-idle")


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


CHECKS = (balances, made_here, notes, of_names, plant, others)
