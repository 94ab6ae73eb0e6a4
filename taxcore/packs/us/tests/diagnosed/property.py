"""Assets, rents and losses that wait."""

from taxcore.packs.us.tests.diagnosed.making import books, one, paper, rows, share, single, wage
from taxcore.packs.us.tests.returns import filing, person


def shop(**values):
    return books(**{"receipts": "900000"} | values)


def thing(key="a1", **values):
    given = {"description": "Lathe", "used_in": "b1", "sort": "machinery", "in_service": "2025-05-05", "cost": "9000"}
    return paper("asset", key, **given | {"no_special": "yes"} | values)


def gone(**values):
    return thing(**{"in_service": "2023-05-05", "sold": "2025-03-03", "sold_for": "5000"} | values)


SOLD = {"in_service": "2020-05-05", "sold": "2025-03-03", "sold_for": "400000"}


def built(key="a1", **values):
    return thing(
        key, **{"description": "House", "sort": "residential", "used_in": "h1", "cost": "300000", "land": "50000"} | values
    )


def house(key="h1", **values):
    given = {
        "address_line": "4 Slipway",
        "property_kind": "1",
        "state": "IL",
        "active": "yes",
        "rents": "9000",
        "rented_days": "365",
    }
    return paper("rental", key, **given | values)


def office(**values):
    return shop(home_method="regular", home_area="100", home_total="1000", **values)


def car(**values):
    return thing(**{"description": "Van", "sort": "car", "business_share": "80"} | values)


def fell(**values):
    return car(
        **{"in_service": "2024-05-05", "business_share": "50", "fell_in": "2025", "share_before": "90", "prior": "1800"} | values
    )


def misc(**values):
    return paper("1099-misc", "m1", **values)


def late(cost):
    return one(shop(), thing(), thing("a2", description="Press", in_service="2025-11-05", cost=cost))


def parts(**values):
    given = {"description": "Meadow", "sort": "capital", "acquired": "2015-04-01", "sold": "2025-06-01", "related": "no", "price": "9000",
             "basis": "4000", "received": "900"}  # fmt: skip
    return paper("installment", "i1", **given | values)


def home(**values):
    given = {"owner": "taxpayer", "address_line": "3 Row", "state": "IL", "acquired": "2015-05-01", "sold": "2025-05-01", "price": "400000",
             "cost": "100000", "improvements": "100", "owned_months": "60", "used_months": "60"}  # fmt: skip
    return paper("home-sale", "hs1", **given | values)


TWO = (filing("joint"), person(), person("spouse"))
MACHINE = parts(sort="trade", asset="a1", price="", basis="", acquired="2023-05-05", sold="2025-03-03")
WAITS = (wage("300000"), house(taxes="90000"))
CASES = [
    ("us.home.sold-day", one(home(sold="2024-05-01")), one(home())),
    ("us.home.state", one(filing(residence="PA", state="PA"), home()), one(filing(residence="PA", state="PA"), home(price="300000"))),
    ("us.home.price", one(home(price="")), one(home())),
    ("us.home.cost", one(home(cost="")), one(home())),
    ("us.home.other-days", one(home(other_days="3654")), one(home(other_days="3653"))),
    ("us.home.spouse-months", one(*TWO, home()), one(*TWO, home(spouse_months="0"))),
    ("us.home.part", one(home(part="50")), one(home())),
    ("us.home.part-open", one(house(disposed="yes"), built(**SOLD), home()), one(house(disposed="yes"), built(**SOLD), home(part="50"))),
    ("us.home.tests", one(home(used_months="23")), one(home(used_months="24"))),
    ("us.home.reason", one(home(used_months="23", reason="work")), one(home(reason="work"))),
    ("us.home.depreciation", one(office(), home()), one(office(), home(depreciation="5"))),
    ("us.home.loss", one(home(price="90000")), one(home())),
    ("us.home.more-basis", one(home(improvements="")), one(home())),
    ("us.installment.state", one(filing(residence="PA", state="PA"), parts()), one(parts())),
    ("us.installment.related", one(parts(related="yes")), one(parts())),
    ("us.installment.large", one(parts(price="9000000")), one(parts(price="5000000"))),
    ("us.installment.passive", one(*WAITS, parts(sort="rental")), one(*WAITS, parts())),
    ("us.installment.other-gain", one(shop(), gone(sold_for="12000"), MACHINE), one(shop(), gone(sold_for="12000", method="150"), MACHINE)),
    ("us.installment.no-gain", one(parts(basis="9000")), one(parts(basis="8999"))),
    ("us.installment.percentage", one(parts(sold="2023-06-01", percentage="40")), one(parts(sold="2023-06-01", percentage="0.4"))),
    ("us.installment.percentage-missing", one(parts(sold="2023-06-01")), one(parts(sold="2023-06-01", percentage="0.4"))),
    ("us.installment.nothing-received", one(parts(received="")), one(parts(received="0"))),
    ("us.installment.interest", one(parts()), one(parts(received="0"))),
    ("us.installment.after-year", one(parts(sold="2026-01-02")), one(parts())),
    ("us.installment.asset-sort", one(shop(), gone(sold_for="12000"), parts(asset="a1")), one(shop(), gone(sold_for="12000"), MACHINE)),
    ("us.asset.day", one(shop(), thing(in_service="2026-01-01")), one(shop(), thing(in_service="2025-12-31"))),
    ("us.asset.acquired", one(shop(), thing(acquired="2025-05-06")), one(shop(), thing(acquired="2025-05-05"))),
    ("us.asset.sold-before", one(shop(), thing(sold="2025-05-04")), one(shop(), thing(sold="2025-05-05"))),
    ("us.asset.period", one(shop(), thing(sort="other")), one(shop(), thing(sort="other", period="7"))),
    ("us.asset.land-above", one(shop(), thing(land="9001")), one(shop(), thing(land="9000"))),
    ("us.asset.land-missing", one(house(), built(land="")), one(house(), built())),
    ("us.asset.old-special", one(shop(), thing(in_service="2017-05-05")), one(shop(), thing(in_service="2017-05-05", prior="9000"))),
    ("us.asset.prior-differs", one(shop(), thing(in_service="2024-05-05", prior="1400")), one(shop(), thing(in_service="2024-05-05", prior="1286"))),
    ("us.asset.prior-above", one(shop(), thing(in_service="2024-05-05", prior="9001")), one(shop(), thing(in_service="2024-05-05", prior="1286"))),
    ("us.asset.class-election", one(shop(), thing(), thing("a2", description="Press", no_special="")), one(shop(), thing(), thing("a2", description="Press"))),
    ("us.asset.179-kind", one(house(), built(section_179="5", used_in="b1"), shop()), one(shop(), thing(section_179="5"))),
    ("us.asset.179-kind", one(shop(), thing(sort="improvement", section_179="5")), one(shop(), thing(sort="interior", section_179="5"))),
    ("us.asset.179-use", one(shop(), thing(section_179="5", business_share="50")), one(shop(), thing(section_179="5", business_share="51"))),
    ("us.asset.car-limits", one(shop(), car(in_service="2017-05-05")), one(shop(), car(in_service="2018-05-05"))),
    ("us.asset.179-rental", one(house(), thing(used_in="h1", section_179="5")), one(house(), thing(used_in="h1"))),
    ("us.asset.179-above", one(shop(), thing(section_179="9001")), one(shop(), thing(section_179="9000"))),
    ("us.asset.179-vehicle", one(shop(), thing(sort="truck", business_share="100", cost="60000", section_179="31301")),
     one(shop(), thing(sort="truck", business_share="100", cost="60000", section_179="31300"))),
    ("us.asset.179-limited", one(shop(receipts="100"), thing(section_179="9000")), one(shop(), thing(section_179="9000"))),
    ("us.asset.business-use", one(shop(), car(business_share="")), one(shop(), car())),
    ("us.asset.no-business-use", one(shop(), thing(business_share="0")), one(shop(), thing(business_share="1"))),
    ("us.asset.recapture", one(shop(), car(in_service="2024-05-05", business_share="50")), one(shop(), car(in_service="2024-05-05", business_share="51"))),
    ("us.asset.recapture", one(shop(), car(in_service="2024-05-05", business_share="50")), one(shop(), fell())),
    ("us.asset.fall-incomplete", one(shop(), fell(prior="")), one(shop(), fell())),
    ("us.asset.fall-conflict", one(shop(), fell(business_share="51")), one(shop(), fell())),
    ("us.asset.added-back", one(shop(), fell()), one(shop(), fell(prior="800"))),
    ("us.asset.mileage", one(shop(car_method="miles", miles="5"), car()), one(shop(car_method="actual"), car())),
    ("us.asset.sold-price", one(shop(), gone(sold_for="")), one(shop(), gone(sold_for="0"))),
    ("us.asset.sold-before-year", one(shop(), gone(sold="2024-12-31")), one(shop(), gone(sold="2025-01-01"))),
    ("us.asset.sold-kind", one(shop(), gone(sort="interior", section_179="500", sold_for="9500")), one(shop(), gone(sort="interior", sold_for="9500"))),
    ("us.asset.sold-state", one(filing(residence="PA", state="PA"), shop(), gone()), one(shop(), gone())),
    ("us.1231.unasked", one(shop(), gone(sold_for="12000")), one(shop(), gone(sold_for="12000"), single("section-1231"))),
    ("us.1231.year", one(shop(), single("section-1231", rows=rows({"from_year": "2019", "amount": "5"}))),
     one(shop(), single("section-1231", rows=rows({"from_year": "2020", "amount": "5"})))),
    ("us.rental.disposed-nothing", one(house(disposed="yes")), one(house(disposed="yes"), built(**SOLD))),
    ("us.rental.sold-not-disposed", one(house(), built(**SOLD)), one(house(disposed="yes"), built(**SOLD))),
    ("us.rental.sale-loss", one(wage("200000"), house(taxes="30000"), built(**SOLD | {"sold_for": "5"})),
     one(wage("200000"), house(taxes="30000", disposed="yes"), built(**SOLD | {"sold_for": "5"}))),
    ("us.rental.sold-home", one(house(disposed="yes"), built(**SOLD)), one(house(disposed="yes"), built(**SOLD | {"sort": "nonresidential"}))),
    ("us.asset.ads-years", one(shop(), thing(method="ads")), one(shop(), thing(method="ads", ads_years="10"))),
    ("us.asset.mid-quarter", late("9000"), late("6000")),
    ("us.asset.residential-business", one(shop(), built(used_in="b1")), one(shop(), built(sort="nonresidential", used_in="b1"))),
    ("us.asset.twice", one(shop(), thing(), thing("a2")), one(shop(), thing(), thing("a2", cost="9001"))),
    ("us.asset.small", one(shop(), thing(cost="2500")), one(shop(), thing(cost="2501"))),
    ("us.asset.could-expense", one(shop(), thing()), one(shop(), thing(section_179="9000"))),
    ("us.asset.start-up-going", one(shop(), thing(sort="start-up")), one(shop(started="yes"), thing(sort="start-up"))),
    ("us.asset.cost", one(shop(), thing(cost="")), one(shop(), thing())),
    ("us.asset.car-heavy", one(shop(), car(description="SUV 6,500 lb")), one(shop(), car(description="Saloon"))),
    ("us.asset.qbi-basis", one(shop(), thing()), one(shop(property_basis="9000"), thing())),
    ("us.asset.state", one(filing(residence="WI", state="WI"), shop(), car()), one(filing(residence="WI", state="WI"), shop(), thing(no_special=""))),
    ("us.asset.state-passive", one(wage("300000"), house(taxes="90000"), thing(used_in="h1", no_special="")), one(wage("300000"), house(taxes="90000"), thing(used_in="h1"))),
    ("us.asset.state", one(filing(residence="CA", state="CA"), shop(), thing(section_179="9000", cost="30000"), thing("a2", section_179="20000", cost="30000", description="Press")),
     one(filing(residence="CA", state="CA"), shop(), thing(section_179="9000"))),
    ("us.rental.personal", one(house(rented_days="14", personal_days="15")), one(house(rented_days="15", personal_days="15"))),
    ("us.rental.whole-costs", one(house(personal_days="5")), one(house(personal_days="5", whole_costs="no"))),
    ("us.rental.asset-days", one(house(personal_days="5", whole_costs="yes"), built()), one(house(personal_days="5", whole_costs="yes"), built(business_share="99"))),
    ("us.rental.home-limit", one(house(rented_days="90", personal_days="30", utilities="9001")), one(house(rented_days="90", personal_days="30", utilities="9000"))),
    ("us.rental.personal-part", one(house(personal_days="5", whole_costs="yes", taxes="9")), one(house(personal_days="5", whole_costs="no", taxes="9"))),
    ("us.rental.few-days", one(house(rented_days="14")), one(house(rented_days="15"))),
    ("us.rental.days", one(house(rented_days="")), one(house())),
    ("us.rental.days-above", one(house(rented_days="360", personal_days="6")), one(house(rented_days="360", personal_days="5"))),
    ("us.rental.short-stays", one(house(property_kind="3")), one(house())),
    ("us.rental.land", one(house(property_kind="5"), house("h2", address_line="6 Slipway", taxes="12000")),
     one(house(property_kind="4"), house("h2", address_line="6 Slipway", taxes="12000"))),
    ("us.rental.self", one(house(property_kind="7")), one(house())),
    ("us.rental.no-building", one(house()), one(house(), built())),
    ("us.rental.kind-royalties", one(house(property_kind="6")), one(house(property_kind="6", rents="", royalties="5"))),
    ("us.rental.qbi", one(house()), one(house(qualified_trade="no"))),
    ("us.rental.loss-not-passive", one(house(property_kind="6", rents="", royalties="5", passive_before="5")), one(house(passive_before="5"))),
    ("us.rental.hours", one(house(professional="yes")), one(house())),
    ("us.rental.no-income", one(house(rents="")), one(house())),
    ("us.rental.waits", one(wage("200000"), house(taxes="10000")), one(wage("200000"), house(taxes="9000"))),
    ("us.rental.venture", one(house(qualified_venture="yes")), one(house())),
    ("us.rental.interest", one(house(mortgage_interest="100", taxes="")), one(house(mortgage_interest="100", taxes="50"))),
    ("us.rental.insurance", one(house(), built()), one(house(insurance="50"), built())),
    ("us.rental.repairs-large", one(house(repairs="4501")), one(house(repairs="4500"))),
    ("us.home.depreciation", one(office(home_interest="900")), one(office(home_interest="900", home_basis="9", home_since="2020-01-01"))),
    ("us.home.since", one(office(home_basis="9")), one(office(home_basis="9", home_since="2020-01-01"))),
    ("us.home.land", one(office(home_basis="9", home_land="10")), one(office(home_basis="9", home_land="9"))),
    ("us.home.rented", one(office(home_basis="9", home_rent="5")), one(office(home_rent="5"))),
    ("us.share.active", one(share(rental="-5", all_at_risk="yes")), one(share(rental="-5", all_at_risk="yes", active="no"))),
    ("us.share.waits", one(wage("200000"), share(rental="-5", all_at_risk="yes")), one(wage(), share(rental="-5", all_at_risk="yes", active="yes"))),
    ("us.share.qbi-waits", one(share(ordinary="-5", participates="no", all_at_risk="yes", qualified_income="-5")),
     one(share(ordinary="-5", participates="no", all_at_risk="yes"))),
    ("us.rental.elsewhere", one(house(state="WI", passive_before="5")), one(house(state="WI"))),
    ("us-pa.vacation-home", one(filing(residence="PA", state="PA"), house(state="PA", personal_days="40", rented_days="100")),
     one(filing(residence="PA", state="PA"), house(state="PA"))),
    ("us.rental.statement", one(misc(rents="50")), one(misc(rents="50", rental="h1"), house())),
    ("us.rental.twice", one(house(), house("h2")), one(house(), house("h2", address_line="6 Slipway"))),
]  # fmt: skip
