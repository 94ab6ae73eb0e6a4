"""What would be wrong with assets and rents, what stops them by name, and what is easily missed."""

from collections import Counter
from decimal import Decimal

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us import places
from taxcore.packs.us.federal.trades import TRADES, trade_of
from taxcore.packs.us.property.lives import before_this_year, is_depreciated, is_mostly_business
from taxcore.packs.us.property.macrs import TABLES
from taxcore.packs.us.property.papers import ACTIVITIES, AMORTIZED, ANIMALS, BUILT, LISTED, NOT_EXPENSED
from taxcore.packs.us.states.conformity import dividing

_SPECIAL_KNOWN_SINCE = 2018
_SMALL, _LARGE_REPAIR = 2_500, Decimal("0.5")


@stops("us.asset.day", "Placed in service after the year", "conflict", "IRC 168(d)(4)")
@stops("us.asset.acquired", "Acquired after it was placed in service", "conflict", "IRC 168(k)")
@stops("us.asset.sold-before", "Sold before it was placed in service", "conflict", "IRC 1001")
@stops("us.asset.period", "The recovery period is missing", "missing", "IRC 168(c)")
@stops("us.asset.cost", "An asset without its cost", "missing", "IRC 1012")
@stops("us.asset.land-above", "More land than cost", "conflict", "IRC 167(c)(2)")
@check("us.asset.land-missing", "A building without its land", "missed", "IRC 167(c)(2)")
@check("us.asset.no-business-use", "No use in business", "conflict", "IRC 167(a)")
@check("us.asset.twice", "Two assets that say the same", "conflict", "IRC 167(a)")
def things(run):
    same = Counter((str(one.description).lower(), one.in_service, one.cost) for one in run.papers("asset"))
    for one in run.papers("asset"):
        if one.in_service is not None and one.in_service.year > run.year:
            yield found(one.address("in_service"), f"It is not in service in {run.year}. Check the day.", code="us.asset.day")
        if one.acquired is not None and one.in_service is not None and one.acquired > one.in_service:
            yield found(
                one.address("acquired"), "Nothing is in service before it is acquired. Check both.", code="us.asset.acquired"
            )
        if one.sold is not None and one.in_service is not None and one.sold < one.in_service:
            yield found(one.address("sold"), "It was sold before it was in service. Check both.", code="us.asset.sold-before")
        if is_depreciated(one) and not one.period and one.sort not in AMORTIZED:
            yield found(one.address("period"), "Nobody can tell it from this kind. Choose it.", code="us.asset.period")
        if not one.cost and one.sort not in ANIMALS:
            yield found(one.address("cost"), "Nothing is written off without it. Enter it.", code="us.asset.cost")
        if one.land > one.cost:
            yield found(one.address("land"), "The land is part of the cost. Check both.", code="us.asset.land-above")
        if one.sort in BUILT and one.cost and not one.land:
            yield found(one.address("land"), "Land is not depreciated. Enter its part of the cost.", code="us.asset.land-missing")
        if one.business_share == 0:
            says = "Nothing is deducted then. Is the percentage right?"
            yield found(one.address("business_share"), says, code="us.asset.no-business-use")
        if same[(str(one.description).lower(), one.in_service, one.cost)] > 1:
            yield found(
                one.address("description"), "Another asset has the same description, day and cost.", code="us.asset.twice"
            )


@check("us.asset.old-special", "Placed in service before 2018: was there a special allowance?", "missed", "IRC 168(k)")
@check("us.asset.prior-differs", "Earlier depreciation differs from what the law gave", "unlikely", "IRC 1016(a)(2)")
@stops("us.asset.prior-above", "More was written off than there is", "conflict", "IRC 1016(a)(2)")
@check("us.asset.class-election", "Some of one class and year have the special allowance, some have not", "rule", "IRC 168(k)(7)")
@check("us.asset.ads-years", "The alternative system by the general system's years", "rule", "IRC 168(g)(2)(C)")
@check("us.asset.mid-quarter", "The mid-quarter convention holds this year", "rule", "IRC 168(d)(3)")
@idea("us.asset.small", "It could be deducted as a supply", "election", "26 CFR 1.263(a)-1(f)")
def written_off(run):
    classes = {}
    for one in run.papers("asset"):
        if not is_depreciated(one):
            continue
        form, old = run.form("us.depreciation", one.key), one.in_service.year < run.year
        if (
            old
            and one.in_service.year < _SPECIAL_KNOWN_SINCE
            and not one.is_keyed("prior")
            and one.sort not in (*BUILT, *AMORTIZED)
        ):
            says = "It is taken to have had none. Enter the depreciation of earlier years if it had one."
            yield found(one.address("prior"), says, code="us.asset.old-special")
        if one.is_keyed("prior") and "prior" not in one.carried and not one.has_fallen:  # that was of a larger business share
            law = before_this_year(one)
            if one.prior > form.basis - form.section_179:
                yield found(one.address("prior"), f"The basis is {form.basis:,.0f}. Check both.", code="us.asset.prior-above")
            elif old and abs(one.prior - law) > max(law / 50, 2) and one.in_service.year >= _SPECIAL_KNOWN_SINCE:
                says = f"By what is entered here it was {law:,.0f}. What was allowable counts, deducted or not."
                yield found(one.address("prior"), says, code="us.asset.prior-differs")
        if one.period and one.sort not in (*BUILT, *AMORTIZED) and is_mostly_business(one) and one.method != "ads":
            classes.setdefault((one.in_service.year, str(one.period)), []).append(one)
        if one.method == "ads" and not one.ads_years and one.sort in ("machinery", "furniture", "other"):
            says = f"{one.period} years are used. Its class life may be longer: enter it."
            yield found(one.address("ads_years"), says, code="us.asset.ads-years")
        if not old and one.quarter and not one.is_keyed("quarter"):
            says = "More than 40% of what was placed in service came in the last three months. What is expensed does not count."
            yield found(one.address("quarter"), says, code="us.asset.mid-quarter")
        if not old and 0 < one.cost <= _SMALL and one.sort not in (*BUILT, *AMORTIZED, *LISTED, "land"):
            says = (
                "Things of up to 2,500 can be deducted at once by the yearly safe harbor election. Enter it among the supplies."
            )
            yield found(one.address("cost"), says, code="us.asset.small")
    for (year, period), each in classes.items():
        if year == run.year and len({bool(one.no_special) for one in each}) > 1:
            says = f"Whoever elects out does so for all {period}-year property of the year."
            yield found(each[0].address("no_special"), says, code="us.asset.class-election")


@stops("us.asset.179-kind", "Section 179 for what cannot have it", "rule", "IRC 179(d)(1)")
@stops("us.asset.179-rental", "Section 179 for a rental", "unsupported", "IRC 179(b)(3)")
@stops("us.asset.179-above", "More expensed than it cost", "conflict", "IRC 179(a)")
@stops("us.asset.179-use", "Section 179 for what is used half in business or less", "rule", "26 CFR 1.179-1(d)")
@check("us.asset.179-vehicle", "A heavy vehicle expensed above the limit of an SUV", "rule", "IRC 179(b)(5)")
@check("us.asset.179-limited", "Section 179 is limited", "rule", "IRC 179(b)")
@idea("us.asset.could-expense", "It could be expensed", "election", "IRC 179")
def expensed(run):
    limit = run.laws["us"].section_179.large_vehicle
    for one in run.papers("asset"):
        at, kind = one.address("section_179"), run.by_key(ACTIVITIES, str(one.used_in))
        if one.section_179 and one.sort in NOT_EXPENSED:
            yield found(at, "Land, what is built on it, and intangibles have none. Remove it.", code="us.asset.179-kind")
        elif one.section_179 and kind is not None and kind.kind == "rental":
            yield found(at, "Only an active trade can expense. It is not supported for rentals here.", code="us.asset.179-rental")
        elif one.section_179 and (one.business_share or 0) <= 50 and not one.has_fallen:
            yield found(at, "Only what is used in business for more than half has it. Remove it.", code="us.asset.179-use")
        if one.section_179 > one.cost:
            yield found(at, "Check the amount: it is above the cost.", code="us.asset.179-above")
        if one.sort == "truck" and one.section_179 > limit and one.in_service is not None and one.in_service.year == run.year:
            says = f"Of a sport utility vehicle no more than {limit:,} can be expensed; of a long pickup or a van all of it."
            yield found(at, says, code="us.asset.179-vehicle")
        fresh = is_depreciated(one) and one.in_service.year == run.year and one.sort not in (*NOT_EXPENSED, "software", *LISTED)
        trade = kind is not None and kind.kind in TRADES and trade_of(kind).before_section_179 > one.cost
        if fresh and trade and not one.section_179 and one.no_special:
            yield found(at, f"Up to {one.cost:,.0f} could be deducted this year.", code="us.asset.could-expense")
    form = run.form("us.section-179")
    if form.elected + form.carried > form.allowed:
        says = f"{form.allowed:,.0f} are allowed: {form.left:,.0f} wait for next year's income."
        yield found(form.address("allowed"), says, code="us.asset.179-limited")


def _fallen(run, one):
    """What is missing or wrong where business use fell to half or less."""
    form = run.form("us.depreciation", one.key)
    if is_mostly_business(one):
        says = "From that year on the straight line holds, also when it rises again. Check both."
        yield found(one.address("fell_in"), says, code="us.asset.fall-conflict")
    if not form.falls_now:
        return
    if not one.share_before or not one.is_keyed("prior"):
        name = "share_before" if not one.share_before else "prior"
        says = "What is added back follows from them. Enter the business use and depreciation of the years before."
        yield found(one.address(name), says, code="us.asset.fall-incomplete")
    if form.recaptured > 0:
        says = f"{form.recaptured:,.0f} are other income of the activity, and basis again."
        yield found(one.address("fell_in"), says, code="us.asset.added-back")


@check("us.asset.business-use", "How much a vehicle is used in business is not said", "missing", "IRC 274(d), 280F")
@stops("us.asset.recapture", "Vehicle: business use of 50% or less after its first year", "missing", "IRC 280F(b)(2)")
@stops(
    "us.asset.fall-incomplete", "Business use fell to half or less: prior depreciation missing", "missing", "IRC 280F(b)(2)(A)"
)
@check("us.asset.fall-conflict", "Business use marked as fallen, but above 50%", "conflict", "IRC 280F(b)(2)")
@idea("us.asset.added-back", "Depreciation recapture on a vehicle", "missed", "IRC 280F(b)(2)")
@check("us.asset.mileage", "The mileage rate and depreciation of a vehicle", "conflict", "Rev. Proc. 2019-46")
@stops("us.asset.car-limits", "An automobile of a year whose limits are not here", "unsupported", "IRC 280F(a)")
@check("us.asset.car-heavy", "An automobile that may be too heavy for the limits", "rule", "IRC 280F(d)(5)")
@check("us.asset.residential-business", "A residence used in a business", "unlikely", "IRC 168(e)(2)")
@check("us.asset.start-up-going", "Start-up costs of a business that had begun before", "conflict", "IRC 195(c)")
@idea("us.asset.qbi-basis", "Assets count for the limit of the QBI deduction", "missed", "IRC 199A(b)(6)")
def used(run):
    for one in run.papers("asset"):
        activity = run.by_key(ACTIVITIES, str(one.used_in))
        trade = activity if activity is not None and activity.kind == "business" else None
        if one.sort in LISTED and not one.is_keyed("business_share"):
            says = "All of it is taken to be business. Enter the percentage by miles, and keep the log."
            yield found(one.address("business_share"), says, code="us.asset.business-use")
        older = one.in_service is not None and one.in_service.year < run.year
        if older and not is_mostly_business(one) and one.method != "ads" and not one.has_fallen:
            says = "What was deducted above the straight line before is added back. Enter the year in which it fell."
            yield found(one.address("fell_in"), says, code="us.asset.recapture")
        if one.has_fallen:
            yield from _fallen(run, one)
        if one.sort in LISTED and trade is not None and trade.car_method == "miles" and trade.miles:
            says = "The rate contains depreciation. Choose actual expenses, or remove the vehicle."
            yield found(one.address("sort"), says, code="us.asset.mileage")
        if one.sort == "car" and one.in_service is not None and str(one.in_service.year) not in TABLES.automobiles:
            says = (
                f"The yearly limits of automobiles of {one.in_service.year} are not known here: it is written off without them."
            )
            yield found(one.address("in_service"), says, code="us.asset.car-limits")
        if one.sort == "car" and any(word in str(one.description).lower() for word in ("suv", "truck", "6,")):
            says = "Above 6,000 pounds it has no limits of automobiles. Check its weight, and choose the kind."
            yield found(one.address("sort"), says, code="us.asset.car-heavy")
        if one.sort == "residential" and trade is not None:
            says = "Offices and shops are nonresidential: 39 years. Check the kind."
            yield found(one.address("sort"), says, code="us.asset.residential-business")
        fresh = one.in_service is not None and one.in_service.year == run.year
        if one.sort == "start-up" and fresh and trade is not None and not trade.started:
            says = "They come before the business begins. Answer whether it started this year."
            yield found(one.address("sort"), says, code="us.asset.start-up-going")
    for trade in run.papers("business"):
        owned = [one for one in run.papers("asset") if one.used_in == trade.key and one.sort not in ("intangible", "start-up")]
        if owned and not trade.is_keyed("property_basis"):
            says = (
                f"Up to {sum((one.cost for one in owned), ZERO):,.0f}, for ten years or the recovery period. Enter their basis."
            )
            yield found(trade.address("property_basis"), says, code="us.asset.qbi-basis")


@check("us.asset.sold-price", "Sold, and for how much is not said", "missing", "IRC 1001")
@stops("us.asset.sold-before-year", "Sold in an earlier year", "conflict", "IRC 1001")
@stops("us.asset.sold-kind", "Sale of improvements that were expensed", "unsupported", "IRC 1250(a)")
@stops("us.asset.sold-state", "A sale on a return of a state that divides or classes income", "unsupported", "state law")
@check("us.1231.unasked", "A gain, and losses of the five years before are not asked for", "missed", "IRC 1231(c)")
@stops("us.1231.year", "A loss that is not of the five years before", "conflict", "IRC 1231(c)")
def sales(run):
    apart = dividing(run)
    for one in run.papers("asset"):
        if one.sold is not None and one.sold.year < run.year:
            says = "It belongs to that year's return. Remove it here."
            yield found(one.address("sold"), says, code="us.asset.sold-before-year")
    for form in run.every("us.sale-of-property"):
        one = form.asset
        if not one.is_keyed("sold_for"):
            yield found(one.address("sold_for"), "Enter it; 0 if it was scrapped.", code="us.asset.sold-price")
        if form.is_improvement and one.section_179 and form.gain > 0:
            says = "What was expensed is ordinary, the rest by another rule. That is not supported yet: it cannot be e-filed."
            yield found(one.address("sold"), says, code="us.asset.sold-kind")
        for state in apart:
            says = f"What of the gain is {state.name}'s is not worked out yet. Its return waits."
            yield found(one.address("sold"), says, code="us.asset.sold-state")
    form = run.form("us.4797") if not run.is_idle("us.4797") else None
    if form is not None and form.net > 0 and not run.papers("section-1231"):
        says = (
            f"Section 1231 losses of {run.year - 5} to {run.year - 1} make it ordinary. Add the paper, empty if there were none."
        )
        yield found(form.address("earlier"), says, code="us.1231.unasked")
    for paper in run.papers("section-1231"):
        for row in paper.rows:
            if row.from_year is not None and not run.year - 5 <= row.from_year < run.year:
                yield found(row.address("from_year"), "Only five years are counted. Check the year.", code="us.1231.year")


@check("us.rental.disposed-nothing", "Disposed of, and no building was sold", "conflict", "IRC 469(g)")
@check("us.rental.sold-not-disposed", "The building was sold: was the property disposed of?", "missed", "IRC 469(g)")
@stops("us.rental.sale-loss", "A loss of a sale, and losses that wait", "unsupported", "IRC 469")
@check("us.rental.sold-home", "A house was sold: was it ever the owner's home?", "missed", "IRC 121")
def disposals(run):
    for one in run.papers("rental"):
        form = run.form("us.sch-e-part-i", one.key)
        built = [
            thing for thing in run.papers("asset")
            if thing.used_in == one.key and thing.sort in BUILT and thing.sold is not None and thing.sold.year == run.year
        ]  # fmt: skip
        if one.disposed and not built:
            says = "Enter the day and the price on the building, and on its land and furniture."
            yield found(one.address("disposed"), says, code="us.rental.disposed-nothing")
        if built and not one.disposed:
            says = "If all of it was sold to somebody unrelated, losses that waited are deducted. Answer it."
            yield found(one.address("disposed"), says, code="us.rental.sold-not-disposed")
        if form.sold < 0 and form.waits > 0:
            says = "Part of the loss of the sale would wait too. That is not supported yet: it cannot be e-filed."
            yield found(form.address("waits"), says, code="us.rental.sale-loss")
        if any(thing.sort == "residential" for thing in built) and not run.papers("home-sale"):
            says = "If it was, two of the last five years, add “Sale of the main home” and choose this asset there."
            yield found(built[0].address("sold"), says, code="us.rental.sold-home")


@check("us.rental.whole-costs", "Personal use: allocation not answered", "missing", "IRC 280A(e)")
@check("us.rental.asset-days", "Personal use, but the building depreciated in full", "conflict", "IRC 280A(e)")
@idea("us.rental.home-limit", "Vacation home expenses above the limit", "carried", "IRC 280A(c)(5)")
@idea("us.rental.personal-part", "Personal share of interest and taxes", "missed", "IRC 163(h)(4), 164")
def homes(run):
    for one in run.papers("rental"):
        if not one.personal_days:
            continue
        form = run.form("us.sch-e-part-i", one.key)
        if one.whole_costs is None:
            says = "Do the expenses include personal use? Answer it."
            yield found(one.address("whole_costs"), says, code="us.rental.whole-costs")
        built = [thing for thing in run.papers("asset") if thing.used_in == one.key and thing.sort in BUILT]
        for thing in built if one.is_divided else ():
            if thing.business_share == 100:
                says = "Enter the rental share of the days as business use."
                yield found(thing.address("business_share"), says, code="us.rental.asset-days")
        waits = form.costs_left + form.depreciation_left
        if waits > 0:
            says = f"{waits:,.0f} is above the limit and carries over to next year."
            yield found(form.address("costs_left"), says, code="us.rental.home-limit")
        if one.is_divided and (one.mortgage_interest or one.taxes):
            says = "The personal share may be itemized: second home interest, real estate taxes."
            yield found(one.address("taxes"), says, code="us.rental.personal-part")


@stops("us.rental.personal", "Home rented fewer than 15 days", "conflict", "IRC 280A(g)")
@check("us.rental.few-days", "Let for fewer than fifteen days", "rule", "IRC 280A(g)")
@check("us.rental.days", "For how many days it was let is not said", "missing", "Schedule E, line 2")
@stops("us.rental.days-above", "More days than the year has", "conflict", "Schedule E, line 2")
@check("us.rental.short-stays", "Short stays", "rule", "26 CFR 1.469-1T(e)(3)(ii)")
@check("us.rental.land", "Rental income from land", "rule", "26 CFR 1.469-2T(f)(3)")
@check("us.rental.self", "Self-rental", "rule", "26 CFR 1.469-2(f)(6)")
@check("us.rental.kind-royalties", "Royalties that are rents", "conflict", "IRC 61(a)")
@check("us.rental.twice", "Two properties at one address", "conflict", "Schedule E, line 1a")
@check("us.rental.venture", "A qualified joint venture", "rule", "IRC 761(f)")
def lettings(run):
    same = Counter(str(one.address_line).strip().lower() for one in run.papers("rental"))
    for one in run.papers("rental"):
        let, own, royalties = one.rented_days or 0, one.personal_days or 0, one.property_kind == "6"
        if one.is_home and one.is_keyed("rented_days") and let < 15:
            says = "Neither rent nor expenses are reported. Remove the property."
            yield found(one.address("rented_days"), says, code="us.rental.personal")
        elif one.is_keyed("rented_days") and 0 < let < 15:
            says = "A home that is let for so few days brings no income and no costs. Was it one?"
            yield found(one.address("rented_days"), says, code="us.rental.few-days")
        if not one.is_keyed("rented_days") and one.property_kind in ("1", "2", "3"):
            yield found(one.address("rented_days"), "Line 2 asks for it. Enter the days.", code="us.rental.days")
        if let + own > (366 if run.year % 4 == 0 else 365):
            yield found(
                one.address("personal_days"), "Together they are more than the year. Check both.", code="us.rental.days-above"
            )
        if one.property_kind == "3":
            says = "Where guests stay seven days or less on average it is no rental activity. Check the stays."
            yield found(one.address("property_kind"), says, code="us.rental.short-stays")
        if one.property_kind == "7":
            says = "Net income is nonpassive, a loss passive, if the owner materially participates in the tenant. Check it."
            yield found(one.address("property_kind"), says, code="us.rental.self")
        if one.property_kind == "5" and run.form("us.sch-e-part-i", one.key).net > 0:
            says = "Net income is not passive if less than 30% of the basis is depreciable. Check it."
            yield found(one.address("property_kind"), says, code="us.rental.land")
        if royalties and one.rents:
            yield found(
                one.address("rents"),
                "Enter royalties in their own field, or choose a kind of property.",
                code="us.rental.kind-royalties",
            )
        if same[str(one.address_line).strip().lower()] > 1:
            yield found(one.address("address_line"), "Another property has the same address.", code="us.rental.twice")
        if one.qualified_venture:
            says = "Each spouse reports a part of it. Enter a property for each, with their own parts."
            yield found(one.address("qualified_venture"), says, code="us.rental.venture")


@idea("us.rental.no-building", "Rents, and no building that is written off", "missed", "IRC 167, 168")
@check("us.rental.qbi", "Rents may be a trade or business", "election", "IRC 199A; Rev. Proc. 2019-38")
@check("us.rental.loss-not-passive", "A loss of earlier years that does not wait", "conflict", "IRC 469(b)")
@check("us.rental.hours", "A real estate professional", "rule", "IRC 469(c)(7)(B)")
@check("us.rental.no-income", "A property without rents", "missing", "IRC 61(a)(5)")
@idea("us.rental.waits", "Losses wait for passive income, or until the property is sold", "missed", "IRC 469(g)")
@check("us.rental.interest", "Mortgage interest, and no property taxes", "missed", "IRC 164")
@check("us.rental.insurance", "A building that is let, and no insurance", "missed", "IRC 162")
@check("us.rental.repairs-large", "Repairs of half the rents or more", "unlikely", "26 CFR 1.263(a)-3")
def amounts(run):
    for one in run.papers("rental"):
        form = run.form("us.sch-e-part-i", one.key)
        owned = [thing for thing in run.papers("asset") if thing.used_in == one.key]
        let = one.property_kind in ("1", "2", "3", "4")
        if let and form.rents and not any(thing.sort in BUILT for thing in owned):
            yield found(one.address("rents"), "Enter the building as an asset: it is depreciated.", code="us.rental.no-building")
        if form.net > 0 and one.property_kind != "6" and not one.is_keyed("qualified_trade"):
            says = (
                "If it is one, 20% of it may be deducted, and a loss counts too. Answer it; the safe harbor asks for a statement."
            )
            yield found(one.address("qualified_trade"), says, code="us.rental.qbi")
        if one.passive_before and not form.is_passive:
            yield found(
                one.address("passive_before"),
                "It is no passive activity now. Check the amount.",
                code="us.rental.loss-not-passive",
            )
        if one.professional:
            says = "More than half of all work and 750 hours are asked for, and taking part in each property. Keep the record."
            yield found(one.address("professional"), says, code="us.rental.hours")
        if not form.rents and not form.royalties:
            yield found(
                one.address("rents"), "Was it let at all, or held for rent? Enter what came in.", code="us.rental.no-income"
            )
        if form.is_passive and form.waits > 0:
            yield found(form.address("waits"), f"{form.waits:,.0f} wait, and come along next year.", code="us.rental.waits")
        if one.mortgage_interest and not one.taxes and let:
            yield found(one.address("taxes"), "Were none paid, or through the mortgage's escrow?", code="us.rental.interest")
        if any(thing.sort in BUILT for thing in owned) and not one.insurance:
            yield found(one.address("insurance"), "Was it not insured, or paid through escrow?", code="us.rental.insurance")
        if form.rents and one.repairs > form.rents * _LARGE_REPAIR:
            says = "What makes it better or new is an asset, not a repair. Check what was done."
            yield found(one.address("repairs"), says, code="us.rental.repairs-large")


@idea("us.home.depreciation", "A home office of one's own home without its depreciation", "missed", "IRC 280A, 1016(a)(2)")
@stops("us.home.since", "When the home was first used for business is missing", "missing", "IRC 168(d)(4)")
@stops("us.home.land", "More land than home", "conflict", "IRC 167(c)(2)")
@check("us.home.rented", "Rent and depreciation of one home", "conflict", "IRC 280A")
def home_offices(run):
    for books in run.papers("business"):
        if books.home_method != "regular":
            continue
        own = books.home_interest or books.home_taxes
        if own and not books.home_basis and not books.home_rent:
            says = "It lowers the home's basis, deducted or not. Enter basis, land and day."
            yield found(books.address("home_basis"), says, code="us.home.depreciation")
        if books.home_basis and books.home_since is None:
            yield found(books.address("home_since"), "The rate depends on it. Enter the day.", code="us.home.since")
        if books.home_land > books.home_basis:
            yield found(books.address("home_land"), "The land is part of it. Check both.", code="us.home.land")
        if books.home_basis and books.home_rent:
            yield found(books.address("home_rent"), "A home is rented or owned. Check both.", code="us.home.rented")


@check("us.share.active", "A rental loss of a share: active participation?", "missing", "IRC 469(i)(6)")
@idea("us.share.waits", "A share's passive loss waits", "missed", "IRC 469(g)")
@check("us.share.qbi-waits", "QBI of a share whose loss waits", "rule", "26 CFR 1.199A-3(b)(1)(iv)")
def shares(run):
    for form in run.every("us.share"):
        paper = form.paper
        if form.rental < 0 and not paper.is_keyed("active"):
            says = "Without it the loss waits for passive income. A limited partner has none."
            yield found(paper.address("active"), says, code="us.share.active")
        if form.waits > 0:
            yield found(form.address("waits"), f"{form.waits:,.0f} wait, and come along next year.", code="us.share.waits")
        if form.waits > 0 and paper.qualified_income < 0:
            says = "What waits is no qualified business loss yet. Enter what is allowed this year."
            yield found(paper.address("qualified_income"), says, code="us.share.qbi-waits")


@stops("us.rental.elsewhere", "Suspended rental loss in a state that divides income", "unsupported", "state law")
@stops("us.rental.statement", "Rents or royalties of a statement, and no property", "missing", "Schedule E, lines 3, 4")
def where(run):
    made = places.made(run)
    parts = [one.name for one in made if one.kind != places.WHOLE and one.state != "PA"]  # which knows no such limit
    for form in run.every("us.sch-e-part-i"):
        one = form.paper
        if parts and form.is_passive and (form.waits > 0 or one.passive_before):
            says = f"{parts[0]} limits losses by its own part of income. That is not supported yet: its return waits."
            yield found(one.address("state"), says, code="us.rental.elsewhere")
    for paper in run.papers("1099-misc"):
        if (paper.rents or paper.royalties) and not paper.rental:
            says = "Choose the property on which they are reported, or add one."
            yield found(paper.address("rental"), says, code="us.rental.statement")


CHECKS = (things, written_off, expensed, used, sales, disposals, homes, lettings, amounts, home_offices, shares, where)
