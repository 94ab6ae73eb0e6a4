"""Losses of trades and shares of partnerships: where they are set, and what of them is lost."""

from taxcore.engine import check, found, stops
from taxcore.packs.uk.individual.trading import trades_of

_BACK = ("back", "both", "back_first", "opening", "end")
_AGAINST_INCOME = ("income", "both", "back_first", "back", "opening")
_OPENING_YEARS = 4


@stops("uk.loss-unsaid", "What becomes of a loss is not said", "missing", "ITA 2007 ss. 64, 83")
@stops("uk.loss-no-year", "A loss is carried back, and no earlier year is entered", "missing", "ITA 2007 ss. 64, 72, 89")
@stops("uk.loss-opening-late", "A claim for opening years of an older business", "rule", "ITA 2007 s. 72(1)")
@stops("uk.loss-end-going", "A claim for the end of a business that goes on", "conflict", "ITA 2007 s. 89")
@check("uk.loss-active", "A loss against income: is the trade commercial, with ten hours a week?", "rule", "ITA 2007 ss. 66, 74A")
@check("uk.loss-capped", "Part of a loss is above what income may be lowered by", "rule", "ITA 2007 s. 24A")
@check("uk.loss-lost", "The business ended, and a loss is left", "missed", "ITA 2007 ss. 83, 89")
def uses(run):
    for form in (one for one in trades_of(run) if one.loss_at_hand > 0):
        paper, use = form.paper, form.loss_use
        at = paper.address("loss_use")
        if not use:
            yield found(at, f"The trade lost {form.net_loss:,}. Choose what becomes of it.", code="uk.loss-unsaid")
        if use in _BACK and not form.claims():
            says = "Enter the earlier year with its income and its tax."
            yield found(paper.address("earlier"), says, code="uk.loss-no-year")
        if use == "opening" and not _is_new(run, paper):
            says = "It is for losses of the first four tax years. Enter when the business began, or choose another use."
            yield found(at, says, code="uk.loss-opening-late")
        if use == "end" and paper.ended is None:
            yield found(at, "Enter the day on which it ended, or choose another use.", code="uk.loss-end-going")
        if use in _AGAINST_INCOME:
            says = "Confirm that the trade is commercial and takes ten hours a week: otherwise 25,000 count at most, or nothing."
            yield found(at, says, code="uk.loss-active")
        if form.claimed > form.loss_against_income:
            left = form.claimed - form.loss_against_income
            yield found(at, f"{left:,.0f} cannot be set against income of this year.", code="uk.loss-capped")
        if paper.ended is not None and form.loss_forward > 0:
            says = f"{form.loss_forward:,.0f} find no profit any more. Can they be set against earlier years?"
            yield found(at, says, code="uk.loss-lost")


def _is_new(run, paper):
    """Whether the year is one of the first four tax years of the trade."""
    return paper.begun is not None and run.pack.law_year(paper.begun) > run.year - _OPENING_YEARS


@stops("uk.loss-year", "An earlier year that the loss does not reach", "conflict", "ITA 2007 ss. 64, 72, 89")
@stops("uk.loss-tax-missing", "A loss is set against a year, and its tax is not entered", "missing", "TMA 1970 Sch. 1B para. 2")
@stops("uk.loss-tax", "More tax with a loss than without it", "conflict", "TMA 1970 Sch. 1B para. 2")
@stops("uk.loss-profit", "More profit of a trade than income", "conflict", "ITA 2007 s. 24A")
def earlier_years(run):
    for form in trades_of(run):
        taken = {row.key: amount for row, amount in form.claims()}
        for row in form.paper.earlier:
            if row.of_year and int(row.of_year) not in form.reached():
                yield found(row.address("of_year"), "The chosen use of the loss does not reach it.", code="uk.loss-year")
            if taken.get(row.key, 0) > 0 and not row.is_keyed("tax_before"):
                yield found(
                    row.address("tax_before"), "Enter that year's tax, and the same with the loss.", code="uk.loss-tax-missing"
                )
            if row.tax_after > row.tax_before:
                yield found(row.address("tax_after"), "It cannot be more than without the loss.", code="uk.loss-tax")
            if row.profit > row.income:
                yield found(row.address("profit"), "It is part of the income, and cannot be more.", code="uk.loss-profit")


@stops("uk.begun-later", "A business that began after it ended, or after the year", "conflict", "ITTOIA 2005 s. 200")
@stops("uk.partner-ended", "A partner left in another year", "conflict", "ITTOIA 2005 s. 202")
def days(run):
    for paper in (*run.papers("trade"), *run.papers("partnership")):
        if paper.begun is not None and paper.begun > (paper.ended or run.period.end):
            yield found(paper.address("begun"), "The days do not fit each other, or the year.", code="uk.begun-later")
    for paper in run.papers("partnership"):
        if paper.ended is not None and paper.ended not in run.period:
            yield found(paper.address("ended"), "The day is not in the tax year.", code="uk.partner-ended")


CHECKS = (uses, earlier_years, days)
