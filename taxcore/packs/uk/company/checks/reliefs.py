"""Plant, losses, gains: days that do not fit, claims that cannot be, what could be claimed."""

from datetime import date, timedelta

from taxcore.engine import check, found, idea, stops
from taxcore.packs.uk.company.base import months_after

_FIRST_YEAR_SINCE = date(2021, 4, 1)
_FROZEN = date(2018, 1, 1)
_NEW_ALLOWANCE = date(2026, 1, 1)
_CARS = ("car", "high", "zero")
_ONE = timedelta(days=1)


@stops("uk.ct-plant-day", "Plant bought after the period, or sold before it was bought", "conflict", "CAA 2001 s. 5")
@stops("uk.ct-plant-used", "A first-year allowance for second-hand plant", "rule", "CAA 2001 ss. 45D, 45S")
@stops("uk.ct-plant-car", "An allowance that cars do not have", "rule", "CAA 2001 ss. 38B, 46")
@stops("uk.ct-plant-early", "A first-year allowance of before April 2021", "rule", "FA 2021 s. 9")
@check("uk.ct-sold-unsaid", "Plant was sold, and for how much is not said", "missing", "CAA 2001 s. 61")
@check("uk.ct-new-allowance", "New plant of 2026", "unsupported", "FA 2026")
@idea("uk.ct-first-could", "New plant without a claim", "missed", "CAA 2001 ss. 45S, 51A")
def plant(run):
    for row in (row for paper in run.papers("plant") for row in paper.assets):
        late = row.bought is not None and row.bought > run.period.end
        if late or (row.bought is not None and row.sold is not None and row.sold < row.bought):
            yield found(row.address("bought"), "The days do not fit the period, or each other.", code="uk.ct-plant-day")
        if row.used and row.claim == "first":
            yield found(row.address("claim"), "Only new things have it. Choose another claim.", code="uk.ct-plant-used")
        if (row.sort in _CARS and row.claim == "investment") or (row.sort in ("car", "high") and row.claim == "first"):
            yield found(row.address("claim"), "Choose another claim.", code="uk.ct-plant-car")
        if row.claim == "first" and row.sort not in _CARS and row.bought is not None and row.bought < _FIRST_YEAR_SINCE:
            yield found(
                row.address("claim"), "There was none for companies then. Choose another claim.", code="uk.ct-plant-early"
            )
        if row.sold is not None and not row.is_keyed("proceeds"):
            yield found(row.address("proceeds"), "Enter it; nothing, if it was scrapped.", code="uk.ct-sold-unsaid")
        fresh = row.bought is not None and row.bought in run.period and row.sort in ("main", "special")
        if fresh and row.claim == "none" and not row.used and run.single("about").ceased is None:
            yield found(row.address("claim"), "It could be deducted at once, or half of it.", code="uk.ct-first-could")
        if fresh and row.bought >= _NEW_ALLOWANCE and row.claim == "none":
            yield found(
                row.address("claim"),
                "The allowance of 40% is not supported. Another claim may serve.",
                code="uk.ct-new-allowance",
            )


@check("uk.ct-investment-above", "Claimed above the Annual Investment Allowance", "rule", "CAA 2001 s. 51A")
@stops("uk.ct-share-above", "A part of the allowance above all of it", "conflict", "CAA 2001 s. 51C")
@check("uk.ct-claim-above", "A claim above what can be written down", "conflict", "CAA 2001 s. 56")
@idea("uk.ct-claimed-less", "Less is written down than could be", "election", "CAA 2001 s. 56(5)")
@stops("uk.ct-building-day", "A building in use after the period, or sold before", "conflict", "CAA 2001 s. 270AB")
@check("uk.ct-building-sold", "A building was sold", "missed", "TCGA 1992 s. 37B")
def pools(run):
    for paper in run.papers("plant"):
        form, law = run.form("uk.plant"), run.laws["uk"].plant
        over = form.investment_special + form.investment_main - form.limit
        if over > 0:
            says = f"{over:,.0f} are written down instead. Full expensing has no limit."
            yield found(form.address("investment"), says, code="uk.ct-investment-above")
        if paper.investment_share > law.investment:
            yield found(paper.address("investment_share"), f"All of it is {law.investment:,.0f}.", code="uk.ct-share-above")
        for claim, written, most in (
            ("main_claim", form.main_written, _most(form, "main")),
            ("special_claim", form.special_written, _most(form, "special")),
        ):
            if paper.is_keyed(claim) and getattr(paper, claim) > most:
                yield found(paper.address(claim), f"No more than {most:,.2f} can be.", code="uk.ct-claim-above")
            elif paper.is_keyed(claim) and written < most:
                yield found(paper.address(claim), f"{most - written:,.2f} more could be.", code="uk.ct-claimed-less")
        for row in paper.buildings:
            late = row.since is not None and row.since > run.period.end
            if late or (row.since is not None and row.until is not None and row.until < row.since):
                yield found(row.address("since"), "The days do not fit the period, or each other.", code="uk.ct-building-day")
            if row.until is not None and row.until in run.period:
                says = "What was allowed is added to the proceeds of the gain. Enter the disposal so."
                yield found(row.address("until"), says, code="uk.ct-building-sold")


def _most(form, pool):
    """What of a pool could be written down at most."""
    there = max(getattr(form, f"{pool}_in") - getattr(form, f"{pool}_out"), 0)
    if form.ceased or there <= form.of_the_year(form.law.plant.small_pool):
        return there
    return form.of_the_year(there * form.law.plant[pool])


@stops("uk.ct-short-kind", "A pool of its own for what cannot have one", "rule", "CAA 2001 s. 84")
@stops("uk.ct-short-left", "What is left of a pool is missing", "missing", "CAA 2001 s. 86")
@check("uk.ct-short-over", "A single-asset pool joins the main pool", "rule", "CAA 2001 s. 86(2)")
@check("uk.ct-left-alone", "What is left of an asset that has no pool of its own", "conflict", "CAA 2001 s. 54")
def alone(run):
    form = run.form("uk.plant")
    for row in (row for paper in run.papers("plant") for row in paper.assets):
        old = row.bought is not None and row.bought < run.period.start
        if row.short and row.sort != "main" and row.sort:
            yield found(row.address("short"), "Cars and special rate plant have none.", code="uk.ct-short-kind")
        if form.has_joined(row):
            says = "Eight years have ended since its first period. Enter what is left, and remove the mark in the next one."
            yield found(row.address("short"), says, code="uk.ct-short-over")
        elif old and row.short and row.claim == "none" and not row.is_keyed("left"):
            yield found(row.address("left"), "Enter it as the last period closed it.", code="uk.ct-short-left")
        if row.left and not row.short:
            yield found(
                row.address("left"), "It stands in a pool with others. Mark it, or remove the amount.", code="uk.ct-left-alone"
            )


@idea("uk.ct-loss-could", "A loss could be set against profits of the period or of before", "election", "CTA 2010 s. 37")
@stops("uk.ct-loss-no-period", "A loss is carried back, and no earlier period is entered", "missing", "CTA 2010 s. 37(3)(b)")
@stops("uk.ct-loss-order", "A loss is carried back over profits of the period", "rule", "CTA 2010 s. 37(4)")
@check("uk.ct-loss-ceased", "The trade ceased, and a loss is left", "missed", "CTA 2010 s. 39")
@check("uk.ct-losses-above", "Losses of before above what may be set", "rule", "CTA 2010 s. 269ZB")
@stops("uk.ct-allowance-above", "A part of the deductions allowance above all of it", "conflict", "CTA 2010 s. 269ZW")
def losses(run):
    form, paper, about = run.form("uk.ct600"), run.single("losses"), run.single("about")
    if form.loss_kept > 0 and not paper.this_year and not paper.back:
        says = f"{form.loss_kept:,.0f} go forward unless it is claimed."
        yield found(form.address("trade_left"), says, code="uk.ct-loss-could")
    if form.loss_kept > 0 and paper.back and not form.carried_back:
        yield found(paper.address("earlier"), "Enter the period with its profits and its tax.", code="uk.ct-loss-no-period")
    if form.loss_kept > 0 and paper.back and not paper.this_year and form.before_donations > 0:
        yield found(paper.address("this_year"), "Profits of the period come first. Claim both.", code="uk.ct-loss-order")
    if about.ceased is not None and form.trade_left > 0:
        says = f"{form.trade_left:,.0f} find no profit any more. Three years before can be reached."
        yield found(form.address("trade_left"), says, code="uk.ct-loss-ceased")
    wanted = paper.trade_before if not paper.is_keyed("trade_claim") else min(paper.trade_before, paper.trade_claim)
    if wanted > form.trade_before and form.before_donations > 0:
        says = f"{wanted - form.trade_before:,.0f} wait: above the allowance only half of the profits can be relieved."
        yield found(form.address("trade_before"), says, code="uk.ct-losses-above")
    if paper.allowance > run.laws["uk"].losses.allowance:
        yield found(
            paper.address("allowance"), f"All of it is {run.laws['uk'].losses.allowance:,.0f}.", code="uk.ct-allowance-above"
        )


@idea("uk.ct-deficit-could", "A deficit of loans could be carried back", "election", "CTA 2009 s. 463B")
@check("uk.ct-deficit-none", "A deficit is carried back, and no profits of loans are entered", "missing", "CTA 2009 s. 463E")
@stops("uk.ct-deficit-interest", "More profits of loans than profits", "conflict", "CTA 2009 s. 463E")
@stops("uk.ct-loss-period", "An earlier period that the loss does not reach", "conflict", "CTA 2010 ss. 37(3)(b), 39")
@stops(
    "uk.ct-loss-tax-missing", "A loss is set against a period, and its tax is not entered", "missing", "FA 1998 Sch. 18 para. 57"
)
@stops("uk.ct-loss-tax", "More tax with a loss than without it", "conflict", "FA 1998 Sch. 18 para. 57")
def earlier(run):
    form, paper = run.form("uk.ct600"), run.single("losses")
    taken = {row.key for row, _, _ in form.claims()}
    kept = form.deficit_kept - form.deficit_used
    if kept > 0 and not paper.deficit_back:
        says = f"{kept:,.0f} go forward. Profits of loans of the twelve months before could take them."
        yield found(form.address("deficit_left"), says, code="uk.ct-deficit-could")
    if kept > 0 and paper.deficit_back and not form.deficit_back:
        says = "Enter them with their period, or take the claim back."
        yield found(paper.address("earlier"), says, code="uk.ct-deficit-none")
    months = 36 if run.single("about").ceased is not None else 12
    for row in paper.earlier:
        if row.interest > row.profits:
            yield found(row.address("interest"), "They are part of the profits.", code="uk.ct-deficit-interest")
        if row.begun is not None and row.ended is not None:
            outside = row.ended >= run.period.start or row.ended < months_after(run.period.start, -months)
            if outside or row.ended < row.begun or row.ended > months_after(row.begun - _ONE, 12):
                says = "It is not before this period, not within reach, or no period of up to twelve months."
                yield found(row.address("ended"), says, code="uk.ct-loss-period")
        if row.key in taken and not row.is_keyed("tax_before"):
            yield found(
                row.address("tax_before"), "Enter that period's tax, and the same with the loss.", code="uk.ct-loss-tax-missing"
            )
        if row.tax_after > row.tax_before:
            yield found(row.address("tax_after"), "It cannot be more than without the loss.", code="uk.ct-loss-tax")


@stops("uk.ct-gain-day", "A disposal in another period, or before the thing was bought", "conflict", "TCGA 1992 s. 28")
@stops("uk.ct-gain-factor", "Bought before 2018, and the indexation factor is missing", "missing", "TCGA 1992 s. 53")
@stops("uk.ct-gain-factor-late", "Indexation of what was bought since 2018", "rule", "TCGA 1992 s. 53(1A)")
@check("uk.ct-dividends", "Dividends received: are all of them exempt?", "rule", "CTA 2009 s. 931A")
@check("uk.ct-loss-kept", "A capital loss waits for gains", "missed", "TCGA 1992 s. 2A")
def gains(run):
    for row in (row for paper in run.papers("gains") for row in paper.disposals):
        if row.sold is not None and (row.sold not in run.period or (row.bought is not None and row.sold < row.bought)):
            yield found(row.address("sold"), "The day is not in the period, or before it was bought.", code="uk.ct-gain-day")
        old = row.bought is not None and row.bought < _FROZEN
        if old and not row.is_keyed("factor") and row.proceeds > row.cost:
            yield found(row.address("factor"), "Enter it from HMRC's table; 0 where there is none.", code="uk.ct-gain-factor")
        if row.bought is not None and not old and row.is_keyed("factor"):
            yield found(row.address("factor"), "Indexation ended with December 2017. Remove it.", code="uk.ct-gain-factor-late")
    form = run.form("uk.ct600")
    if form.exempt:
        says = "Those of small companies from abroad may be taxed. They count for the limits unless they are of the group."
        yield found(form.address("exempt"), says, code="uk.ct-dividends")
    if form.gains_lost > form.gains:
        yield found(form.address("capital_left"), f"{form.capital_left:,.0f} are kept.", code="uk.ct-loss-kept")


CHECKS = (plant, pools, alone, losses, earlier, gains)
