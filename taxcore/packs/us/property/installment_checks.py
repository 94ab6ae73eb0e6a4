"""Installment sales: what contradicts, what stops them by name, what is easily missed."""

from taxcore.engine import ZERO, check, found, stops
from taxcore.packs.us import places
from taxcore.packs.us.property.installments import SORTS
from taxcore.packs.us.states.conformity import dividing
from taxcore.packs.us.states.depreciation import differs

_LARGE = 5_000_000  # outstanding, of sales above 150,000: IRC 453A(b)


@stops("us.installment.related", "Installment sale to a related party", "unsupported", "IRC 453(e), (g)")
@stops("us.installment.large", "Interest on deferred tax of large installment sales", "unsupported", "IRC 453A")
@stops("us.installment.passive", "Installment sale of a rental with suspended losses", "unsupported", "IRC 469(g)(3)")
@stops(
    "us.installment.state",
    "Installment sale income in a state that divides it",
    "unsupported",
    "state law",
)
@stops(
    "us.installment.other-gain", "Installment sale: basis differs for AMT or a state", "unsupported", "IRC 56(a)(6); state law"
)
def not_made(run):
    waiting = not run.is_idle("us.8582") and any(one.waits > 0 or one.paper.disposed for one in run.every("us.sch-e-part-i"))
    apart = dividing(run)
    for form in run.every("us.6252"):
        one = form.paper
        if form.income > 0 and apart:
            says = f"What of it is {apart[0].name}'s is not supported yet. Its return waits."
            yield found(form.address("income"), says, code="us.installment.state")
        if one.related:
            says = "What the buyer does with it within two years counts. That is not supported yet: it cannot be e-filed."
            yield found(one.address("related"), says, code="us.installment.related")
        if form.owed_still > _LARGE:
            says = "Interest on the deferred tax is not supported yet: it cannot be e-filed."
            yield found(form.address("owed_still"), says, code="us.installment.large")
        if one.sort == "rental" and waiting:
            says = "Losses are released in proportion to the gain. That is not supported yet: it cannot be e-filed."
            yield found(one.address("sort"), says, code="us.installment.passive")
        if one.sale is not None and _has_other_gain(run, one.sale):
            says = "For the minimum tax or a state its basis is another one. That is not supported yet: it cannot be e-filed."
            yield found(one.address("asset"), says, code="us.installment.other-gain")


def _has_other_gain(run, sale):
    made = [one.state for one in places.made(run)]
    return sale.minimum_difference != ZERO or any(differs(state, sale.asset) for state in made)


@check("us.installment.no-gain", "Installment sale without a gain", "conflict", "IRC 453(a)")
@check("us.installment.percentage", "Gross profit percentage above 100%", "conflict", "IRC 453(c)")
@stops("us.installment.percentage-missing", "Gross profit percentage missing", "missing", "IRC 453(c)")
@check("us.installment.nothing-received", "Installment payment not entered", "unlikely", "IRC 453(c)")
@check("us.installment.interest", "Interest on an installment sale", "missed", "IRC 483, 1274")
@stops("us.installment.after-year", "Sold after the tax year", "conflict", "IRC 453(b)")
@check("us.installment.asset-sort", "Business asset sold as an investment", "conflict", "IRC 1231")
def contradicting(run):
    interest = bool(run.papers("1099-int"))
    for form in run.every("us.6252"):
        one = form.paper
        if one.sold is not None and one.sold.year > run.year:
            yield found(one.address("sold"), "It is not sold in this year. Check the day.", code="us.installment.after-year")
        if form.is_first and form.price > 0 and form.gross_profit == 0:
            says = "A loss is deducted at once, on Form 8949 or Form 4797: it is no installment sale."
            yield found(form.address("gross_profit"), says, code="us.installment.no-gain")
        if one.percentage > 1:
            says = "Enter it as a decimal, as last year's Form 6252, line 19, has it."
            yield found(one.address("percentage"), says, code="us.installment.percentage")
        if not form.is_first and not one.percentage:
            says = "Copy it from the Form 6252 of the year of the sale, line 19."
            yield found(one.address("percentage"), says, code="us.installment.percentage-missing")
        if not one.is_keyed("received"):
            yield found(one.address("received"), "Enter what was paid; 0 if nothing.", code="us.installment.nothing-received")
        if one.received and not interest:
            says = "Enter the interest on the note separately, with the buyer as the payer."
            yield found(one.address("received"), says, code="us.installment.interest")
        if one.sale is not None and one.sort == "capital":
            says = f"What a business or a rental used is “{SORTS['trade']}” or “{SORTS['rental']}”."
            yield found(one.address("sort"), says, code="us.installment.asset-sort")


CHECKS = (not_made, contradicting)
