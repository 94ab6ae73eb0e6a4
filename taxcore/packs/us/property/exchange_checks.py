"""Like-kind exchanges: time limits, contradictions, what stops them by name, what is easily missed. IRC 1031."""

from datetime import timedelta

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us import places
from taxcore.packs.us.property.installments import SORTS
from taxcore.packs.us.property.papers import BUILT
from taxcore.packs.us.states.conformity import dividing
from taxcore.packs.us.states.depreciation import differs

_TO_IDENTIFY, _TO_RECEIVE = timedelta(45), timedelta(180)


@stops("us.exchange.related", "Like-kind exchange with a related party", "unsupported", "IRC 1031(f)")
@stops("us.exchange.not-real", "Like-kind exchange of property that is not real property", "rule", "IRC 1031(a)(1)")
@stops("us.exchange.state", "Like-kind exchange in a state that divides its gain", "unsupported", "state law")
@stops("us.exchange.other-basis", "Like-kind exchange: another basis for a state", "unsupported", "state law")
@stops("us.exchange.passive", "Like-kind exchange of a rental that is disposed of", "conflict", "IRC 469(g)(1)(A)")
def not_made(run):
    apart, made = dividing(run), [one.state for one in places.made(run)]
    disposed = {one.key for one in run.papers("rental") if one.disposed}
    for form in run.every("us.8824"):
        one, thing = form.paper, form.paper.thing
        if one.related:
            says = "Part II asks what becomes of both within two years. That is not supported yet: it cannot be e-filed."
            yield found(one.address("related"), says, code="us.exchange.related")
        if thing is not None and thing.sort not in (*BUILT, "land"):
            says = "Since 2018 other things are sold, for their value. Remove it here, and enter that as the asset's price."
            yield found(one.address("asset"), says, code="us.exchange.not-real")
        if form.gain > 0 and apart:
            says = f"What of it is {apart[0].name}'s is not supported yet. Its return waits."
            yield found(form.address("recognized"), says, code="us.exchange.state")
        if thing is not None and any(differs(state, thing) for state in made):
            says = "For a state its basis is another one. That is not supported yet: its return waits."
            yield found(one.address("asset"), says, code="us.exchange.other-basis")
        if thing is not None and thing.used_in in disposed:
            says = "An exchange is no full taxable disposition: losses go on waiting. Check “Disposed of entirely”."
            yield found(one.address("asset"), says, code="us.exchange.passive")


@stops("us.exchange.identified", "Replacement identified too late", "rule", "IRC 1031(a)(3)(A)")
@stops("us.exchange.received", "Replacement received too late", "rule", "IRC 1031(a)(3)(B)")
@check("us.exchange.order", "Like-kind exchange: dates out of order", "conflict", "IRC 1031(a)(3)")
@check("us.exchange.due-date", "Replacement received after the due date of the return", "rule", "IRC 1031(a)(3)(B)(ii)")
@stops("us.exchange.other-year", "Like-kind exchange in another tax year", "conflict", "Form 8824, line 4")
def in_time(run):
    for form in run.every("us.8824"):
        one = form.paper
        gone, named, came = one.transferred, one.identified, one.received
        if gone is None:
            continue
        if not form.is_this_year:
            says = "It is reported for the year of the transfer. Check the day, or remove this paper."
            yield found(one.address("transferred"), says, code="us.exchange.other-year")
        if named is not None and named > gone + _TO_IDENTIFY:
            says = "More than 45 days passed: it is a sale, for the value received."
            yield found(one.address("identified"), says, code="us.exchange.identified")
        if came is not None and came > gone + _TO_RECEIVE:
            says = "More than 180 days passed: it is a sale, for the value received."
            yield found(one.address("received"), says, code="us.exchange.received")
        if one.acquired is not None and one.acquired > gone:
            says = "It was acquired after it was transferred. Check both."
            yield found(one.address("acquired"), says, code="us.exchange.order")
        elif came is not None and came.year > run.year and (came.month, came.day) > (4, 15):
            says = "The time ends with the due date of the return, with its extension. Was it extended?"
            yield found(one.address("received"), says, code="us.exchange.due-date")


@check("us.exchange.asset-there", "An exchanged asset still in service", "conflict", "IRC 1031")
@check("us.exchange.asset-priced", "An exchanged asset with a sales price", "conflict", "IRC 1031")
@check("us.exchange.replacement-cost", "Replacement's cost differs from Form 8824 line 25", "conflict", "IRC 1031(d)")
@idea("us.exchange.replacement", "Replacement property not in the register of assets", "missed", "IRC 1031(d); 26 CFR 1.168(i)-6")
@check("us.exchange.asset-sort", "Business property exchanged as an investment", "conflict", "IRC 1231")
@check("us.exchange.value", "Like-kind exchange: value of the replacement is empty", "missing", "Form 8824, line 16")
@idea("us.exchange.loss", "Like-kind exchange: loss not deductible", "missed", "IRC 1031(c)")
def contradicting(run):
    for form in run.every("us.8824"):
        one, thing = form.paper, form.paper.thing
        new = run.by_key(("asset",), str(one.replacement or ""))
        if thing is not None and (thing.sold is None or thing.sold != one.transferred):
            says = "Depreciation ends with the day of the transfer. Enter it as the asset's day of sale."
            yield found(thing.address("sold"), says, code="us.exchange.asset-there")
        if thing is not None and thing.sold_for:
            says = "What was received stands on the exchange. Empty the price."
            yield found(thing.address("sold_for"), says, code="us.exchange.asset-priced")
        if thing is not None and one.sort == "capital":
            says = f"What a business or a rental used is “{SORTS['trade']}” or “{SORTS['rental']}”."
            yield found(one.address("sort"), says, code="us.exchange.asset-sort")
        if not one.value:
            yield found(one.address("value"), "Enter the fair market value of what was received.", code="us.exchange.value")
        if form.realized < ZERO:
            says = f"{-form.realized:,.0f} are not deducted. A sale would deduct it."
            yield found(form.address("realized"), says, code="us.exchange.loss")
        if new is not None and new.cost != form.basis_received:
            says = f"Its basis is {form.basis_received:,.0f}, by line 25 of Form 8824. Check both."
            yield found(new.address("cost"), says, code="us.exchange.replacement-cost")
        if new is None and one.sort != "capital":
            says = f"Add what was received, with line 25 ({form.basis_received:,.0f}) as its cost."
            yield found(one.address("replacement"), says, code="us.exchange.replacement")


CHECKS = (not_made, in_time, contradicting)
