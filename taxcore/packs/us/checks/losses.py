"""Net operating losses: what contradicts, what a state counts otherwise, what comes along."""

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us import places
from taxcore.packs.us.federal.passive_trades import is_passive
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.states.conformity import rule


@stops("us.nol.year", "Net operating loss of this or a later year", "conflict", "IRC 172(b)(1)")
@stops("us.nol.state", "Net operating loss on a state return", "unsupported", "state law")
@check("us.nol.benefits", "Net operating loss and Social Security benefits", "unlikely", "IRC 172(a)(2)(B)(ii)")
@check("us.nol.limited", "The net operating loss deduction is limited", "rule", "IRC 172(a)(2)")
def of_before(run):
    paper, form = run.single("operating-losses"), run.form("us.net-operating-loss")
    for row in paper.rows:
        if row.from_year is not None and row.from_year >= run.year:
            yield found(row.address("from_year"), "Enter losses of years before this one. Check the year.", code="us.nol.year")
    if form.deduction <= 0:
        return
    for home in places.made(run):
        own = rule(home.state)
        if own is None or not own.federal_losses:
            says = f"{home.name} has net operating losses of its own, which are not worked out yet. Its return waits."
            yield found(form.address("deduction"), says, code="us.nol.state")
    if run.form("us.1040").taxable_benefits > 0:
        says = "The limit of 80% is on income without the deduction, which taxes more of the benefits. Check line 3."
        yield found(form.address("before"), says, code="us.nol.benefits")
    if form.deduction < form.older + form.newer:
        says = f"{form.deduction:,.0f} is deducted this year; the rest carries over."
        yield found(form.address("deduction"), says, code="us.nol.limited")


@check("us.nol.new", "Net operating loss this year", "carried", "IRC 172(b), (c)")
@idea("us.nol.farm", "Farming loss carryback", "election", "IRC 172(b)(1)(B)")
def of_this_year(run):
    form = run.form("us.net-operating-loss")
    if form.of_year > 0:
        says = f"{form.of_year:,.0f} carries over to next year. Check lines 7 to 11: nonbusiness income and deductions."
        yield found(form.address("of_year"), says, code="us.nol.new")
    lost = [one for one in run.every("us.sch-f") if one.profit < 0]
    if form.of_year > 0 and lost:
        says = "A farming loss is carried back two years unless waived. Form 1045 is not made here."
        yield found(lost[0].address("profit"), says, code="us.nol.farm")


@check("us.461.excess", "Business losses above the limit", "rule", "IRC 461(l)")
@check("us.461.qbi", "QBI of a loss above the limit", "rule", "26 CFR 1.199A-3(b)(1)(iv)")
@check("us.461.entered", "Excess business loss differs from Form 461", "conflict", "IRC 461(l)")
def above_limit(run):
    form, adjusting = run.form("us.461"), run.form("us.sch-1")
    if run.is_idle("us.461"):
        return
    if form.excess > 0:
        says = f"{form.excess:,.0f} are added back, and are a net operating loss of next year. Check lines 10 and 11."
        yield found(form.address("excess"), says, code="us.461.excess")
    if form.excess > 0 and any(one.income < 0 for one in run.every("us.qualified-income")):
        says = "What is added back is no qualified business loss yet. Check the losses on Form 8995."
        yield found(form.address("of_trades"), says, code="us.461.qbi")
    if adjusting.excess_loss != form.excess:
        says = f"Form 461 gives {form.excess:,.0f}. Empty the field, or check both."
        yield found(adjusting.address("excess_loss"), says, code="us.461.entered")


@stops("us.trade.former-passive", "Suspended loss of a former passive activity", "unsupported", "IRC 469(f)(1)")
@idea("us.trade.waits", "Passive loss of a trade suspended", "missed", "IRC 469(b)")
@check("us.trade.disposed", "Passive trade disposed of, but assets still in service", "conflict", "IRC 469(g)")
def passive_trades(run):
    for trade in trades(run):
        if trade.books.passive_before and not is_passive(trade.books):
            says = "It is deducted from this trade's income first, then waits. That is not supported yet: it cannot be e-filed."
            yield found(trade.books.address("passive_before"), says, code="us.trade.former-passive")
    for one in run.every("us.passive-trade"):
        if one.waits > 0:
            says = f"{one.waits:,.0f} wait for passive income, or the end of the trade. Did its owner take part after all?"
            yield found(one.books.address("participates"), says, code="us.trade.waits")
        kept = [thing for thing in run.papers("asset") if thing.used_in == one.key and thing.sold is None]
        if one.books.disposed and kept:
            says = "Losses are released by a disposition of all of it. When did the assets go?"
            yield found(kept[0].address("sold"), says, code="us.trade.disposed")


CHECKS = (of_before, of_this_year, above_limit, passive_trades)
