"""Losses of shares against income, sums instead of disposals, subscriptions for shares, exchange rates."""

from decimal import Decimal

from taxcore.engine import check, found, stops

_RATES_CHANGED = 2024


@stops("uk.share-loss-kind", "A loss against income of something other than unlisted shares", "conflict", "ITA 2007 s. 131")
@stops(
    "uk.share-loss-conditions",
    "A loss of shares against income, and the conditions are not confirmed",
    "missing",
    "ITA 2007 s. 134",
)
@stops("uk.share-loss-none", "A loss against income where there is none", "conflict", "ITA 2007 s. 131")
@check("uk.share-loss-could", "A loss of unlisted shares: were they subscribed for?", "election", "ITA 2007 s. 131")
def share_losses(run):
    for row in (row for paper in run.papers("gains") for row in paper.disposals):
        at = row.address("to_income")
        if row.to_income and row.kind != "unlisted":
            yield found(at, "Only shares that no exchange lists can count. Remove the claim.", code="uk.share-loss-kind")
        if row.to_income and not row.subscribed:
            says = "Confirm that they were subscribed for, in a company that meets the conditions."
            yield found(row.address("subscribed"), says, code="uk.share-loss-conditions")
        if row.to_income and row.costs <= row.proceeds:
            yield found(at, "The disposal made no loss. Remove the claim.", code="uk.share-loss-none")
        if row.kind == "unlisted" and row.costs > row.proceeds and row.to_income is None:
            says = "If so, and the company meets the conditions, the loss can be set against income."
            yield found(at, says, code="uk.share-loss-could")


@stops("uk.summary-number", "A sum of disposals without their number", "missing", "SA108 notes")
@stops("uk.summary-lost", "Less lost than the sums show", "conflict", "SA108 notes")
@stops("uk.summary-late", "Disposals from 30 October 2024 in another year", "conflict", "TCGA 1992 s. 1H")
@check("uk.summary-attached", "Sums of disposals need the computation beside them", "missed", "SA108 notes")
def summaries(run):
    for row in (row for paper in run.papers("gains") for row in paper.summaries):
        if not row.number:
            yield found(row.address("number"), "Enter how many disposals there were.", code="uk.summary-number")
        if row.costs - row.proceeds > row.lost:
            yield found(row.address("lost"), "Costs are above proceeds by more than that.", code="uk.summary-lost")
        if row.late and run.year != _RATES_CHANGED:
            yield found(row.address("late"), "Only in 2024-25 there were two rates.", code="uk.summary-late")
        yield found(row.address("kind"), "Attach it to the return as a PDF.", code="uk.summary-attached")


@stops("uk.eis-knowledge-above", "More in knowledge-intensive companies than was subscribed", "conflict", "ITA 2007 s. 252A")
@check("uk.investment-limit", "Subscribed above the limit", "rule", "ITA 2007 ss. 158, 257AB, 262")
@check(
    "uk.investment-certificate", "Relief for a subscription wants the company's certificate", "missed", "ITA 2007 ss. 203, 257EC"
)
@check("uk.investment-unused", "Relief for subscriptions is above the tax", "election", "ITA 2007 s. 158(4)")
def subscriptions(run):
    if run.is_idle("uk.sa101"):
        return
    form, law, tax = run.form("uk.sa101"), run.laws["uk"].investments, run.form("uk.income-tax")
    paper = form.reliefs
    if paper.eis_knowledge > paper.eis:
        yield found(paper.address("eis_knowledge"), "It is part of what was subscribed.", code="uk.eis-knowledge-above")
    limits = {"vct": law.vct_limit, "eis": law.eis_limit + min(paper.eis_knowledge, law.eis_knowledge), "seis": law.seis_limit}
    for name, limit in limits.items():
        if getattr(paper, name) > limit:
            yield found(paper.address(name), f"No more than {limit:,.0f} is relieved.", code="uk.investment-limit")
    if paper.eis or paper.seis:
        yield found(paper.address("eis"), "Keep form EIS3 or SEIS3; without it nothing is due.", code="uk.investment-certificate")
    if form.relief > tax.investments:
        says = f"{form.relief - tax.investments:,.2f} find no tax. Can the shares be treated as issued in the year before?"
        yield found(tax.address("investments"), says, code="uk.investment-unused")


@stops("uk.lump-kind", "A lump sum, and how much of it is taxed is not said", "missing", "ITEPA 2003 s. 636A")
@stops("uk.lump-tax-above", "More tax than lump sum", "unlikely", "ITEPA 2003 s. 683")
def lump_sums(run):
    for paper in run.papers("pension"):
        if paper.lump_sum and not paper.state and not paper.lump_kind:
            yield found(paper.address("lump_kind"), "Choose what it is.", code="uk.lump-kind")
        if paper.lump_tax > paper.lump_sum:
            yield found(paper.address("lump_tax"), "Check both amounts.", code="uk.lump-tax-above")


@stops("uk.rate-missing", "An amount in another currency, and no rate for it", "missing", "TCGA 1992 s. 10A; SA106 notes")
@stops("uk.rate-day", "A rate of one day without the day", "missing", "SA106 notes")
@stops("uk.rate-nothing", "A rate of nothing", "conflict", "SA106 notes")
@check("uk.rate-twice", "Two averages for one currency", "conflict", "SA106 notes")
def rates(run):
    for paper in run.papers("foreign"):
        if paper.in_currency and not paper.amount and paper.rate_row() is None:
            says = f"Enter a rate for {paper.currency or 'its currency'} among the exchange rates, or the amount in pounds."
            yield found(paper.address("in_currency"), says, code="uk.rate-missing")
    averages = set()
    for row in (row for paper in run.papers("rates") for row in paper.rates):
        if row.what == "day" and row.day is None:
            yield found(row.address("day"), "Enter the day.", code="uk.rate-day")
        if row.rate and not Decimal(row.rate):
            yield found(row.address("rate"), "Nothing can be divided by it.", code="uk.rate-nothing")
        if row.what == "average" and row.currency in averages:
            yield found(row.address("currency"), "The first one is taken. Remove the other.", code="uk.rate-twice")
        averages |= {row.currency} if row.what == "average" else set()


CHECKS = (share_losses, summaries, subscriptions, lump_sums, rates)
