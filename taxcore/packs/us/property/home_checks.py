"""Homes that were sold: what contradicts, what is missing, what costs the exclusion."""

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us.states.conformity import dividing

_TWO_YEARS = 24


@stops("us.home.sold-day", "Home not sold this year", "conflict", "IRC 1001")
@stops("us.home.state", "Home sale gain in a state that divides income", "unsupported", "state law")
@check("us.home.price", "Home sale without a price", "missing", "IRC 1001")
@check("us.home.cost", "Home sale without a basis", "missing", "IRC 1012")
@check("us.home.other-days", "Nonqualified use exceeds ownership", "conflict", "IRC 121(b)(5)")
@check("us.home.spouse-months", "Home sale: spouse's use not entered", "missing", "IRC 121(b)(2)")
@check("us.home.part", "Home sale: rented part not entered as sold", "conflict", "26 CFR 1.121-1(e)")
@check("us.home.part-open", "Home sale: share of the building not entered", "missing", "26 CFR 1.121-1(e)")
def contradicting(run):
    sold = [one for one in run.every("us.sale-of-property") if one.is_there and one.is_built]
    for form in run.every("us.home-sale"):
        one = form.paper
        if one.sold is not None and not form.is_this_year:
            yield found(one.address("sold"), "It belongs to the return of that year. Remove it here.", code="us.home.sold-day")
        for home in dividing(run):
            if form.gain_taxed > 0:
                says = f"What of it {home.name} taxes is not worked out yet. Its return waits."
                yield found(form.address("gain_taxed"), says, code="us.home.state")
        if not one.is_keyed("price") and not one.asset:
            yield found(one.address("price"), "Enter the price of the whole building.", code="us.home.price")
        if not one.is_keyed("cost") and not one.asset:
            yield found(one.address("cost"), "Without a basis the whole price is gain. Enter it.", code="us.home.cost")
        if one.acquired and one.sold and (one.other_days or 0) > (one.sold - one.acquired).days:
            yield found(one.address("other_days"), "Compare the days with both dates above.", code="us.home.other-days")
        if form.gain_taxed > 0 and run.form("us.1040").status == "joint" and one.spouse_months is None:
            says = "Another $250,000 is excluded if the spouse used it for two years. Enter the months."
            yield found(one.address("spouse_months"), says, code="us.home.spouse-months")
        if one.part < 100 and not sold:
            says = f"{one.part}% are the home. Enter the sale of the other part on its asset."
            yield found(one.address("part"), says, code="us.home.part")
        if one.part == 100 and sold and not one.asset:
            says = "If the rented part was in the same building, enter the home's share."
            yield found(one.address("part"), says, code="us.home.part-open")


@check("us.home.tests", "Home sale: two-year tests not met", "lost", "IRC 121(a), (c)")
@check("us.home.reason", "Reduced home sale exclusion", "rule", "26 CFR 1.121-3")
@check("us.home.depreciation", "Home office, but no depreciation on the home sale", "missed", "IRC 121(d)(6)")
@idea("us.home.loss", "Loss on a home is not deductible", "lost", "IRC 165(c)")
@idea("us.home.more-basis", "Taxable home sale gain without improvements", "missed", "IRC 1016(a)(1)")
def costly(run):
    offices = [books for books in run.papers("business") if books.home_method == "regular" or books.home_basis]
    for form in run.every("us.home-sale"):
        one = form.paper
        if form.eligible > 0 and form.most == 0:
            says = "Two of the last five years of ownership and use are needed, or a reason. Check the months."
            yield found(one.address("used_months"), says, code="us.home.tests")
        if one.reason and form.months < _TWO_YEARS:
            yield found(one.address("reason"), "Keep what proves the reason with the return.", code="us.home.reason")
        if offices and not one.depreciation:
            says = "What was written off, or could have been, is taxed. Enter it."
            yield found(one.address("depreciation"), says, code="us.home.depreciation")
        if form.whole_gain < 0:
            yield found(form.address("whole_gain"), "A loss on a personal residence is not deductible.", code="us.home.loss")
        if form.gain_taxed > form.of_depreciation and not one.improvements:
            says = "Roofs, kitchens, heating: what improved the home adds to its basis. Ask for the bills."
            yield found(one.address("improvements"), says, code="us.home.more-basis")


CHECKS = (contradicting, costly)
