"""Fifteen returns of people who own something: landlords, a tradesman, farmers, sellers of homes, adopting parents; slips in them."""

from taxcore.packs.us.tests.study.families import (
    answers,
    books,
    couple,
    dependant,
    filing,
    from_payer,
    kittiwake,
    letterpress,
    paper,
    somebody,
)
from taxcore.packs.us.tests.study.slips import keyed, left_out, twice


def _house(key="h1", **more):
    base = {"owner": "taxpayer", "address_line": "4 Slipway", "property_kind": "1", "state": "IL", "active": "yes", "rented_days": "365",
            "rents": "16800.00", "insurance": "910.00", "mortgage_interest": "3210.40", "repairs": "1420.10", "taxes": "2610.00",
            "qualified_trade": "no"}  # fmt: skip
    return paper("rental", key, base | more)


def _asset(key, what, sort, used_in, cost, since, **more):
    base = {"description": what, "sort": sort, "used_in": used_in, "cost": cost, "in_service": since}
    return paper("asset", key, base | more)


def _building(key="a1", **more):
    return _asset(key, "House", "residential", "h1", "180000.00", "2019-06-15", **{"land": "30000.00"} | more)


def _farm(**more):
    base = {"owner": "taxpayer", "product": "Sheep", "code": "112410", "method": "cash", "participates": "yes", "must_report": "no",
            "raised": "58210.40", "resale": "4100.00", "resale_cost": "2900.00", "feed": "11870.20", "seeds": "2140.00",
            "veterinary": "1320.55", "repairs": "2210.00", "taxes": "1980.00"}  # fmt: skip
    return paper("farm", "f1", base | more)


def _home(**more):
    base = {"owner": "taxpayer", "address_line": "3 Kelp Row", "state": "IL", "acquired": "2015-05-01", "sold": "2025-05-01", "price": "310000.00",
            "costs": "18000.00", "cost": "190000.00", "improvements": "12000.00", "owned_months": "60", "used_months": "60"}  # fmt: skip
    return paper("home-sale", "hs1", base | more)


def _parts(**more):
    base = {"description": "Meadow", "sort": "capital", "acquired": "2015-04-01", "sold": "2025-06-01", "related": "no", "price": "90000.00",
            "basis": "40000.00", "received": "20000.00"}  # fmt: skip
    return paper("installment", "i1", base | more)


_STOVE = _asset("a2", "Stove", "appliance", "h1", "1800.00", "2023-04-04", no_special="yes")
_SAW = _asset("a1", "Panel saw", "machinery", "b1", "12400.00", "2023-05-05", no_special="yes")
_VAN = _asset("a1", "Van", "truck", "b1", "41000.00", "2024-03-03", no_special="yes", business_share="80")
_TRACTOR = _asset("a1", "Tractor", "farm-machine", "f1", "46800.00", "2024-04-02", no_special="yes")
_FARMER = paper("penalty", "", {"farmer": "no"})
_SAVED = from_payer("1099-int", "i9", "Meadow Buyer", interest="1210.00")
_CARD = {"car_method": "", "miles": "", "commuting_miles": "", "other_miles": "", "car_placed": "", "car_evidence": ""}
_LOSSES = paper("section-1231", "", {})

OWNERS = {
    "landlord": [somebody(), filing(), kittiwake(), _house(), _building(), _STOVE, *answers()],
    "landlord with a loss": [somebody(), filing(), kittiwake(), _house(rents="8400.00", repairs="3120.00"), _building(), *answers()],
    "landlord who sold": [somebody(), filing(), kittiwake("81480.00", "15900.00"), _house(rented_days="120", rents="5600.00", disposed="yes"),
                          _building(sold="2025-05-01", sold_for="231000.00", costs="13800.00"), _LOSSES, *answers()],
    "home that is also let": [somebody(), filing(), kittiwake(), _house(rented_days="90", personal_days="30", rents="9800.00", whole_costs="yes"),
                              _building(business_share="75"), *answers()],
    "joiner with a saw": [somebody(), filing(), books(), _SAW, kittiwake("41480.00", "9400.00"), *answers()],
    "joiner with a van": [somebody(), filing(), books(**_CARD), _VAN, kittiwake("41480.00", "9400.00"), *answers()],
    "joiner who sold the van": [somebody(), filing(), books(**_CARD), _asset("a1", "Van", "truck", "b1", "41000.00", "2022-03-03", no_special="yes", business_share="80", sold="2025-08-08", sold_for="9000.00"), kittiwake("41480.00", "9400.00"), *answers()],
    "farmer": [somebody(), filing(), _farm(), _TRACTOR, _FARMER, kittiwake("41480.00", "9400.00"), *answers()],
    "farmer with ewes": [somebody(), filing(), _farm(), _asset("a1", "Ewes", "sheep", "f1", "0", "2021-03-03", sold="2025-09-09", sold_for="2210.00"),
                         _LOSSES, _FARMER, kittiwake("41480.00", "9400.00"), *answers()],
    "farmer with labor": [somebody(), filing(), _farm(wages="9200.00", number="00-4433221", custom_hire="900.00"), _FARMER,
                          kittiwake("41480.00", "9400.00"), *answers()],
    "home sold": [*couple(), filing("joint"), kittiwake(), letterpress(), _home(spouse_months="60"), *answers()],
    "meadow sold in parts": [somebody(), filing(), kittiwake("71480.00", "14100.00"), _parts(), _SAVED, *answers()],
    "adopting": [*couple(dependant("d1", "Wren", "2018-04-01")), filing("joint"), kittiwake(), letterpress(), paper("adoption", "ad1", {
        "first_name": "Wren", "last_name": "Quist", "birth_year": "2018", "number": "914-33-0001", "number_kind": "ssn", "final_in": "2025",
        "paid": "6210.00"}), *answers(checklist=("d1",))],
    "certificate": [somebody(), filing(), kittiwake(), paper("1098", "m1", {"owner": "taxpayer", "lender": "Lock Street Bank", "interest": "6210.18",
                    "principal": "141000.00", "origin": "2019-06-01", "property_tax": "2120.40", "use": "main"}),
                    paper("mortgage-certificate", "", {"issuer": "Harbor Agency", "number": "17", "issued": "2019-06-01", "rate": "20", "interest": "6210.18"}),
                    *answers()],
    "disabled": [somebody(born="1972-02-02", occupation="Retired"), filing(), from_payer("1099-r", "r1", "River Pilots Pension", number="00-8833221",
                 gross="9110.00", taxable="9110.00", code="3", ira="no", disability_pension="yes"),
                 paper("disability", "x9", {"owner": "taxpayer", "disabled": "yes", "statement": "yes"}), *answers(asked=("eitc_eligible",))],
}  # fmt: skip

SLIPS = [
    ("the building left out", "landlord", left_out("a1"), ("us.rental[h1]", "us.asset")),
    ("the land left out", "landlord", keyed("a1", land=""), ("us.asset[a1]",)),
    ("more land than cost", "landlord", keyed("a1", land="300000.00"), ("us.asset[a1]",)),
    ("the rents left out", "landlord", keyed("h1", rents=""), ("us.rental[h1]",)),
    ("placed in service in a year to come", "landlord", keyed("a2", in_service="2032-04-04"), ("us.asset[a2]",)),
    ("days in the wrong box", "landlord", keyed("h1", personal_days="365"), ("us.rental[h1]",)),
    ("the day of the stove left out", "landlord", keyed("a2", in_service=""), ("us.asset[a2]",)),
    ("depreciation of earlier years mistyped", "landlord", keyed("a2", prior="1410"), ("us.asset[a2]",)),
    ("property tax left out", "landlord", keyed("h1", taxes=""), ("us.rental[h1]",)),
    ("insurance left out", "landlord", keyed("h1", insurance=""), ("us.rental[h1]",)),
    ("repairs with a digit too many", "landlord", keyed("h1", repairs="14201.00"), ("us.rental[h1]", "us.sch-e-part-i[h1]")),
    ("a house entered twice", "landlord", twice("h1"), ("us.rental[again]", "us.rental[h1]")),
    ("the stove entered twice", "landlord", twice("a2"), ("us.asset[again]", "us.asset[a2]")),
    ("participation not answered", "landlord with a loss", keyed("h1", active=""), ("us.rental[h1]",)),
    ("the whole house left out", "landlord with a loss", left_out("h1"), ("us.rental", "us.asset[a1]")),
    ("disposed not answered", "landlord who sold", keyed("h1", disposed=""), ("us.rental[h1]",)),
    ("the price left out", "landlord who sold", keyed("a1", sold_for=""), ("us.asset[a1]",)),
    ("sold in another year", "landlord who sold", keyed("a1", sold="2024-05-01"), ("us.asset[a1]",)),
    ("losses of five years not asked for", "landlord who sold", left_out("section-1231"), ("us.4797", "us.section-1231")),
    ("whose costs they are not answered", "home that is also let", keyed("h1", whole_costs=""), ("us.rental[h1]",)),
    ("the building written off in full", "home that is also let", keyed("a1", business_share="100"), ("us.asset[a1]",)),
    ("more expensed than it cost", "joiner with a saw", keyed("a1", section_179="124000.00", in_service="2025-05-05"), ("us.asset[a1]",)),
    ("acquired after it was in service", "joiner with a saw", keyed("a1", acquired="2024-05-05"), ("us.asset[a1]",)),
    ("the cost left out", "joiner with a saw", keyed("a1", cost=""), ("us.asset[a1]",)),
    ("business use left out", "joiner with a van", keyed("a1", business_share=""), ("us.asset[a1]",)),
    ("business use mistyped", "joiner with a van", keyed("a1", business_share="8"), ("us.asset[a1]",)),
    ("miles and depreciation", "joiner who sold the van", keyed("b1", car_method="miles", miles="4210"), ("us.business[b1]", "us.asset[a1]")),
    ("a code of another trade", "farmer", keyed("f1", code="811490"), ("us.farm[f1]",)),
    ("the cost of what was sold left out", "farmer", keyed("f1", resale_cost=""), ("us.farm[f1]",)),
    ("the farm left out", "farmer", left_out("f1"), ("us.farm", "us.asset[a1]")),
    ("put off, and nothing received", "farmer", keyed("f1", crop_deferred="yes"), ("us.farm[f1]",)),
    ("the cost of ewes not entered", "farmer with ewes", keyed("a1", cost=""), ("us.asset[a1]",)),
    ("ewes of last autumn", "farmer with ewes", keyed("a1", in_service="2024-11-03"), ("us.asset[a1]",)),
    ("the EIN left out", "farmer with labor", keyed("f1", number=""), ("us.farm[f1]",)),
    ("custom hire, and Forms 1099 not answered", "farmer with labor", keyed("f1", must_report=""), ("us.farm[f1]",)),
    ("months of another box", "home sold", keyed("hs1", used_months="6", spouse_months="6"), ("us.home-sale[hs1]",)),
    ("the price of the home left out", "home sold", keyed("hs1", price=""), ("us.home-sale[hs1]",)),
    ("what the home had cost left out", "home sold", keyed("hs1", cost=""), ("us.home-sale[hs1]",)),
    ("sold in the year before", "home sold", keyed("hs1", sold="2024-05-01"), ("us.home-sale[hs1]",)),
    ("what was received left out", "meadow sold in parts", keyed("i1", received=""), ("us.installment[i1]",)),
    ("the buyer's interest left out", "meadow sold in parts", left_out("i9"), ("us.installment[i1]", "us.1099-int")),
    ("price and basis exchanged", "meadow sold in parts", keyed("i1", price="40000.00", basis="90000.00"), ("us.installment[i1]", "us.6252[i1]")),
    ("final next year", "adopting", keyed("ad1", final_in="2026"), ("us.adoption[ad1]",)),
    ("the child's number, digits swapped", "adopting", keyed("ad1", number="914-33-0010"), ("us.adoption[ad1]",)),
    ("the rate as a fraction", "certificate", keyed("mortgage-certificate", rate="0.2"), ("us.mortgage-certificate",)),
    ("certified interest, digits swapped", "certificate", keyed("mortgage-certificate", interest="6310.18"), ("us.mortgage-certificate",)),
    ("no physician's statement", "disabled", keyed("x9", statement=""), ("us.disability[x9]",)),
    ("the pension not marked", "disabled", keyed("r1", disability_pension=""), ("us.disability[x9]",)),
]  # fmt: skip
