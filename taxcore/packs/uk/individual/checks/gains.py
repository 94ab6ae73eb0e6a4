"""Gains: reliefs with their amounts, homes with their periods, returns within sixty days, pages that need not be filed."""

from datetime import timedelta

from taxcore.engine import check, found, stops
from taxcore.packs.uk.individual.disposals import home_sale, periods_of

_SIXTY = timedelta(days=60)
_AMOUNTS = ("held_over", "rolled_over", "deferred")
_OF_A_PART = {"rolled_over": "rolled over", "held_over": "held over", "deferred": "deferred"}


@stops("uk.relief-amount", "A relief without its amount", "missing", "TCGA 1992 ss. 152, 165, Sch. 5B")
@stops("uk.relief-above-gain", "More relieved than was gained", "conflict", "TCGA 1992 ss. 152, 165, Sch. 5B")
@stops("uk.relief-two", "Two rates for one gain", "conflict", "TCGA 1992 ss. 169I, 169VC")
@stops("uk.disposal-day", "A disposal in another tax year", "conflict", "TCGA 1992 s. 28")
@stops("uk.carried-interest", "Carried interest", "unsupported", "TCGA 1992 s. 103KA")
@check("uk.home-business", "Business asset disposal relief for a home", "unlikely", "TCGA 1992 s. 169L")
@check("uk.relief-claim", "A relief that is claimed on a form of its own", "missed", "TCGA 1992 ss. 152, 165, Sch. 5B")
def disposals(run):
    for row in (row for paper in run.papers("gains") for row in paper.disposals):
        if row.relief in _AMOUNTS and not row.relieved:
            yield found(
                row.address("relieved"), f"Enter how much of the gain is {_OF_A_PART[row.relief]}.", code="uk.relief-amount"
            )
        if row.relief in _AMOUNTS and row.relieved > max(row.proceeds - row.costs, 0):
            yield found(row.address("relieved"), "It is more than the gain.", code="uk.relief-above-gain")
        if row.relief in _AMOUNTS and row.relieved:
            says = "Both parties sign the claim, or it names the new asset. Attach it."
            yield found(row.address("relief"), says, code="uk.relief-claim")
        if row.business and row.relief == "investors":
            yield found(row.address("relief"), "Only one of both reliefs counts for a gain. Remove one.", code="uk.relief-two")
        if row.kind == "carried":
            yield found(row.address("kind"), "Its rates are not supported.", code="uk.carried-interest")
        if row.business and row.kind == "residential":
            yield found(
                row.address("business"), "A home is rarely an asset of a business. Check the claim.", code="uk.home-business"
            )
        if row.day is not None and row.day not in run.period:
            yield found(row.address("day"), "The day is not in the tax year.", code="uk.disposal-day")


@stops("uk.home-day", "A home sold in another tax year, or before it was bought", "conflict", "TCGA 1992 s. 28")
@stops("uk.home-periods", "A period in a home that does not fit", "conflict", "TCGA 1992 s. 223")
@stops("uk.home-let", "Part of a home was let, and how much or when is not said", "missing", "TCGA 1992 s. 224B")
@stops("uk.home-let-days", "A home let in days that do not fit", "conflict", "TCGA 1992 s. 224B")
@stops("uk.home-part", "Nothing of the home is the taxpayer's", "conflict", "TCGA 1992 s. 222")
@check("uk.home-absence", "An absence that was not followed by living there", "rule", "TCGA 1992 s. 223(3B)")
@check("uk.home-never", "A home in which nobody lived", "missed", "TCGA 1992 s. 222")
def homes(run):
    for paper in run.papers("home"):
        if paper.sold is not None and (
            run.pack.law_year(paper.sold) != run.year or (paper.bought is not None and paper.sold < paper.bought)
        ):
            yield found(
                paper.address("sold"), "The day is not in the tax year, or before the home was bought.", code="uk.home-day"
            )
        periods = periods_of(paper)
        for one in periods:
            known = paper.bought is not None and paper.sold is not None
            if one.ended < one.begun or (
                known and (one.ended < paper.bought or one.begun >= paper.sold or one.begun < paper.bought)
            ):
                yield found(
                    paper.address("periods"),
                    "A period begins before the home was bought, or ends before it begins.",
                    code="uk.home-periods",
                )
        let = (paper.let_percent, paper.let_begun, paper.let_ended)
        if paper.let_beside and None in let:
            yield found(paper.address("let_percent"), "Enter the part, and from when until when.", code="uk.home-let")
        elif paper.let_beside and paper.let_ended < paper.let_begun:
            yield found(paper.address("let_ended"), "It ended before it began.", code="uk.home-let-days")
        if paper.percent == 0:
            yield found(paper.address("percent"), "Enter the taxpayer's part, or remove the paper.", code="uk.home-part")
        lived = [one for one in periods if one.why == "lived"]
        if any(one.why in ("abroad", "elsewhere") and not any(other.begun > one.ended for other in lived) for one in periods):
            says = "It counts only where work kept them from coming back. Otherwise remove the absence."
            yield found(paper.address("periods"), says, code="uk.home-absence")
        if not lived:
            yield found(
                paper.address("periods"), "Without a period lived in nothing is relieved. Is that so?", code="uk.home-never"
            )


@stops("uk.sixty-days-unsaid", "Tax paid on a home without the day of its return", "missing", "FA 2019 Sch. 2 para. 3")
@check("uk.sixty-days", "A gain on a home, and no return within sixty days", "missed", "FA 2019 Sch. 2 para. 3")
@check("uk.sixty-days-late", "The return of a home came after sixty days", "rule", "FA 2019 Sch. 2 para. 3")
def within_sixty_days(run):
    for paper in run.papers("home"):
        if paper.tax_paid and paper.reported is None:
            yield found(paper.address("reported"), "Enter when it was reported.", code="uk.sixty-days-unsaid")
        if paper.reported is None and home_sale(paper).gain > 0:
            says = "A gain that is taxed is reported and paid within sixty days of completion. Enter when it was."
            yield found(paper.address("reported"), says, code="uk.sixty-days")
        if paper.reported is not None and paper.sold is not None and paper.reported > paper.sold + _SIXTY:
            yield found(paper.address("reported"), "Interest and a penalty may follow.", code="uk.sixty-days-late")


@check("uk.gains-not-filed", "The gains pages are not needed and stay here", "missed", "TMA 1970 s. 8C")
@check("uk.gains-exempt-unused", "Part of the exempt amount is not used", "election", "TCGA 1992 s. 1K")
@check("uk.losses-kept", "Losses of the year are carried forward", "missed", "TCGA 1992 s. 16(2A)")
def pages(run):
    if run.is_idle("uk.sa108"):
        return
    form, tax = run.form("uk.sa108"), run.form("uk.gains-tax")
    if not form.required():
        says = "Gains and proceeds are below both thresholds. They are kept here; the pages can be filed all the same."
        yield found(form.paper.address("file_anyway"), says, code="uk.gains-not-filed")
    if 0 < tax.exempt < run.laws["uk"].gains.exempt and not form.losses:
        left = run.laws["uk"].gains.exempt - tax.exempt
        yield found(tax.address("exempt"), f"{left:,.0f} of it are left until 5 April.", code="uk.gains-exempt-unused")
    if form.losses > form.gains:
        yield found(
            form.address("carried_on"), f"{form.losses - form.gains:,.0f} are claimed with this return.", code="uk.losses-kept"
        )


CHECKS = (disposals, homes, within_sixty_days, pages)
