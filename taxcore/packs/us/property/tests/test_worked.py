"""Depreciation, section 179, rents and passive losses worked by hand from the law and its published tables."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests import returns

D = Decimal


def paper(kind, key="", **values):
    return PaperValues(key or kind, kind, {name: str(value) for name, value in values.items()})


def shop(receipts=200_000, key="shop", **values):
    return paper(
        "business", key, owner="taxpayer", activity="Joinery", code="321000", participates="yes", receipts=receipts, **values
    )


def thing(cost, sort, placed, key="a1", **values):
    return paper("asset", key, description="Thing", used_in="shop", cost=cost, sort=sort, in_service=placed, **values)


def plain(cost, sort, placed, key="a1", **values):
    """Without the special allowance."""
    return thing(cost, sort, placed, key, no_special="yes", **values)


def wage(wages):
    return returns.w2(wages, state="TX")


def house(key="house", rents=0, **values):
    given = {"address_line": "4 Slipway", "property_kind": "1", "state": "TX", "active": "yes", "owner": "taxpayer"}
    return paper("rental", key, rents=rents, **given | values)


def stake(key="k1", **values):
    given = {"entity": "Quay", "entity_number": "00-4455668", "participates": "yes", "all_at_risk": "yes"}
    return paper("k1-1065", key, owner="taxpayer", **given | values)


def result(*papers, year=2025, **filing):
    """In a state that taxes no income, unless a filing says otherwise."""
    at_home = () if any(one.kind == "filing" for one in papers) else (returns.filing(residence="TX", state="TX"),)
    return compute(PACK, returns.data(*at_home, *papers, year=year, **filing))


A, F, E, H, P, S = "us.depreciation[{}].", "us.4562[{}].", "us.sch-e-part-i[{}].", "us.8829[shop].", "us.8582.", "us.section-179."
# What it catches; papers; year; {address: amount}
CASES = (
    ("seven years, half-year: 14.29%", (shop(), plain(10_000, "machinery", "2025-05-10")), 2025, {A + "11": 1_429, F + "19c": 1_429, "us.sch-c[shop].13": 1_429}),
    ("its second year: 24.49%", (shop(), plain(10_000, "machinery", "2024-05-10")), 2025, {A + "6": 1_429, A + "11": 2_449, F + "17": 2_449, F + "19c": 0}),
    ("its last year: the rest", (shop(), plain(10_000, "machinery", "2018-05-10")), 2025, {A + "6": 9_554, A + "11": 446, A + "13": 0}),
    ("and then nothing", (shop(), plain(10_000, "machinery", "2017-05-10")), 2025, {A + "6": 10_000, A + "11": 0}),
    ("acquired after 19 January 2025: all at once", (shop(), thing(2_000, "computer", "2025-02-10")), 2025, {A + "10": 2_000, A + "11": 0, F + "14": 2_000}),
    ("under a contract of before: 40%, then 20%", (shop(), thing(2_000, "computer", "2025-02-10", acquired="2025-01-19")), 2025, {
        A + "10": 800, A + "5": 1_200, A + "11": 240, F + "22": 1_040}),
    ("60% in 2024, then 32% of 4,000", (shop(), thing(10_000, "computer", "2024-03-01")), 2025, {A + "4": 6_000, A + "6": 6_800, A + "11": 1_280}),
    ("80% in 2023", (shop(), thing(10_000, "furniture", "2023-03-01")), 2023, {A + "10": 8_000, A + "11": 286}),
    ("too much in the last quarter: 35% and 3.57%", (
        shop(), plain(10_000, "computer", "2025-03-01"), plain(30_000, "machinery", "2025-11-01", "a2")), 2025, {
        A + "11": 3_500, "us.depreciation[a2].11": 1_071}),
    ("40% of it is not too much", (
        shop(), plain(18_000, "computer", "2025-03-01"), plain(12_000, "machinery", "2025-11-01", "a2")), 2025, {A + "11": 3_600}),
    ("what is expensed does not count for it", (
        shop(), plain(10_000, "computer", "2025-03-01"), plain(30_000, "machinery", "2025-11-01", "a2", section_179="25000")), 2025, {
        A + "11": 2_000, "us.depreciation[a2].11": D("714.5").quantize(D(1)) + 1}),
    ("nor a building", (shop(), plain(10_000, "computer", "2025-03-01"), plain(300_000, "nonresidential", "2025-11-01", "a2")), 2025, {
        A + "11": 2_000, "us.depreciation[a2].11": 963}),
    ("the quarter stays in later years", (shop(), plain(10_000, "machinery", "2024-11-01", quarter="4")), 2025, {A + "11": 2_755}),
    ("a building let from July: 1.667%", (house(), paper("asset", "a1", description="House", used_in="house", sort="residential", cost="325000", land="50000", in_service="2025-07-15")),
     2025, {A + "11": 4_584, E.format("house") + "18": 4_584}),
    ("and a year later 3.636%", (house(), paper("asset", "a1", description="House", used_in="house", sort="residential", cost="325000", land="50000", in_service="2024-07-15")),
     2025, {A + "11": 9_999}),
    ("ADS of one let since 2020: a thirtieth", (house(), paper("asset", "a1", description="House", used_in="house", sort="residential", cost="300000", in_service="2020-01-15", method="ads")),
     2025, {A + "11": 10_000}),
    ("land never", (house(), paper("asset", "a1", description="Lot", used_in="house", sort="land", cost="90000", in_service="2025-01-15")), 2025, {A + "11": 0}),
    ("qualified improvement: straight line of fifteen years", (shop(), plain(15_000, "interior", "2025-06-01")), 2025, {A + "11": 500}),
    ("straight line by election", (shop(), plain(7_000, "machinery", "2025-06-01", method="straight")), 2025, {A + "11": 500}),
    ("150%: 10.71%", (shop(), plain(10_000, "machinery", "2025-06-01", method="150")), 2025, {A + "11": 1_071}),
    ("the minimum tax counts 10.71%", (shop(), plain(10_000, "machinery", "2025-06-01")), 2025, {A + "14": 1_071, "us.6251.2l": 358}),
    ("not of what had the special allowance", (shop(), thing(10_000, "machinery", "2024-06-01")), 2025, {"us.6251.2l": 0}),
    ("half of it in business", (shop(), plain(10_000, "machinery", "2025-06-01", business_share="50")), 2025, {A + "2": 5_000, A + "11": D("714.5").quantize(D(1)) + 1}),
    ("expensed: 10,000 of 12,000", (shop(), plain(12_000, "machinery", "2025-06-01", section_179="10000")), 2025, {
        S + "12": 10_000, F + "12": 10_000, A + "11": 286, F + "22": 10_286}),
    ("income limits it; the rest waits", (shop(8_000), plain(12_000, "machinery", "2025-06-01", section_179="10000")), 2025, {
        S + "11": 7_714, S + "12": 7_714, S + "13": 2_286, "us.sch-c[shop].31": 0}),
    ("wages count as income", (shop(8_000), wage(50_000), plain(12_000, "machinery", "2025-06-01", section_179="10000")), 2025, {
        S + "12": 10_000, "us.sch-c[shop].31": -2_286}),
    ("the pay of a statutory employee counts once, as receipts", (
        returns.w2(8_000, state="TX", statutory_employee="yes", business="shop"), shop(0),
        plain(10_000, "machinery", "2025-06-01", section_179="10000")), 2025, {S + "11": 8_000, S + "12": 8_000, S + "13": 2_000}),
    ("a fence has none: IRC 1245(a)(3)", (shop(), plain(12_000, "improvement", "2025-06-01", section_179="10000")), 2025, {S + "2": 0, S + "8": 0, S + "12": 0}),
    ("a car, all of it special, sold in its third year: half of 19.2% of what the first year's limit left", (
        shop(), thing(50_000, "car", "2022-03-01", sold="2024-06-01", sold_for="9000")), 2024, {
        A.format("a1") + "6": 29_056, A.format("a1") + "11": 2_957, A.format("a1") + "12": 32_013}),
    ("rent of one's own business takes no passive losses", (wage(300_000), house("own", rents=10_000, property_kind="7"), house("second", taxes=8_000)), 2025, {
        P + "1a": 0, P + "1b": 8_000, "us.sch-e-part-i[second].22": 0, "us.sch-e.26": 10_000, "us.8960.4a": 10_000, "us.8960.4b": -10_000}),
    ("but a loss of it is passive", (wage(300_000), house("own", taxes=8_000, property_kind="7"), house("second", rents=3_000)), 2025, {
        P + "1a": 3_000, P + "1b": 8_000, "us.sch-e-part-i[own].22": 3_000}),
    ("its own earlier losses come first", (wage(300_000), house("own", rents=10_000, property_kind="7", passive_before=4_000), house("second", taxes=8_000)), 2025, {
        P + "1a": 4_000, P + "1c": 4_000, "us.sch-e-part-i[own].22": 4_000, "us.sch-e.26": 6_000, "us.8960.4b": -6_000}),
    ("nor does rent of land", (wage(300_000), house("lot", rents=10_000, property_kind="5"), house("second", taxes=8_000)), 2025, {
        P + "1a": 0, "us.sch-e.26": 10_000, "us.8960.4b": 0}),
    ("of a share, within what it gives", (stake(ordinary=30_000, self_employment=30_000, section_179=8_000),), 2025, {
        S + "8": 8_000, S + "11": 30_000, S + "12": 8_000, "us.sch-e.32": 22_000, "us.sch-se[taxpayer].2": 22_000}),
    ("no more than it gives: the rest waits", (stake(ordinary=3_000, section_179=8_000),), 2025, {S + "12": 3_000, S + "13": 5_000, "us.sch-e.32": 0}),
    ("what waited with a share", (stake(ordinary=9_000, section_179_before=5_000),), 2025, {S + "10": 5_000, "us.sch-e.32": 4_000}),
    ("a share and a shop, as they want it", (
        stake(section_179=10_000), shop(8_000), plain(10_000, "machinery", "2025-06-01", section_179="10000")), 2025, {
        S + "12": 8_000, F.format("shop") + "12": 4_000, "us.sch-e.32": -4_000, "us.sch-c[shop].31": 4_000}),
    ("the carryover of before", (shop(8_000, section_179_before="5000"),), 2025, {S + "10": 5_000, F.format("shop") + "12": 5_000}),
    ("in 2024 more than 3,050,000 reduce the maximum", (
        shop(9_000_000), plain(3_100_000, "machinery", "2024-06-01", section_179="1220000")), 2024, {S + "4": 50_000, S + "5": 1_170_000, S + "12": 1_170_000}),
    ("divided between two shops as they want it", (
        shop(20_000), shop(4_000, "other"), plain(10_000, "machinery", "2025-06-01", section_179="10000"),
        paper("asset", "a2", description="Saw", used_in="other", sort="machinery", cost="30000", in_service="2025-06-01", no_special="yes", section_179="30000")), 2025, {
        S + "12": 24_000, F.format("shop") + "12": 6_000, F.format("other") + "12": 18_000}),
    ("a car: no more than 20,200 in its first year", (shop(), thing(60_000, "car", "2025-03-01")), 2025, {A + "9": 20_200, A + "10": 20_200, A + "11": 0, F + "21": 20_200}),
    ("80% of it in business", (shop(), thing(60_000, "car", "2025-03-01", business_share="80")), 2025, {A + "9": 16_160, A + "10": 16_160}),
    ("without the special allowance 12,200", (shop(), plain(70_000, "car", "2025-03-01")), 2025, {A + "11": 12_200}),
    ("its second year, 32% below the limit of 19,800", (shop(), plain(60_000, "car", "2024-03-01")), 2025, {A + "6": 12_000, A + "11": 19_200}),
    ("60% of 2024 above the limit; 32% of the rest later", (shop(), thing(60_000, "car", "2024-03-01")), 2025, {A + "6": 20_400, A + "11": 7_680}),
    ("all of it in 2022: the tables go on with what the first year left", (shop(), thing(60_000, "car", "2022-03-01")), 2023, {A + "6": 19_200, A + "11": 13_056}),
    ("after the recovery period what the limits kept back", (shop(), plain(60_000, "car", "2019-03-01")), 2025, {A + "6": 50_876, A + "11": 5_760}),
    ("half in business or less: straight line, nothing at once", (shop(), thing(30_000, "car", "2025-03-01", business_share="50")), 2025, {
        A + "10": 0, A + "11": 1_500, F + "27": 1_500}),
    ("a heavy van has no limit", (shop(), thing(60_000, "truck", "2025-03-01")), 2025, {A + "10": 60_000, F + "25": 60_000, F + "21": 60_000}),
    ("goodwill from October: three of 180 months", (shop(), thing(18_000, "intangible", "2025-10-01")), 2025, {A + "11": 300, F + "42": 300, "us.sch-c[shop].27b": 300}),
    ("its next year: twelve", (shop(), thing(18_000, "intangible", "2024-10-01")), 2025, {A + "11": 1_200, F + "43": 1_200}),
    ("start-up costs: 5,000, and six months of 1,000", (shop(), thing(6_000, "start-up", "2025-07-01")), 2025, {A + "11": 5_033}),
    ("of 53,000 only 2,000 at once", (shop(), thing(53_000, "start-up", "2025-07-01")), 2025, {A + "11": 2_000 + 1_700}),
    ("software over 36 months where it is not written off at once", (shop(), plain(3_600, "software", "2025-04-01")), 2025, {A + "11": 900, F + "16": 900}),
    ("sold in its third year: half of 17.49%", (shop(), plain(10_000, "machinery", "2023-05-10", sold="2025-03-01", sold_for="5000")), 2025, {A + "11": 875}),
    ("sold in its first year: nothing", (shop(), plain(10_000, "machinery", "2025-05-10", sold="2025-09-01")), 2025, {A + "11": 0}),
    ("what was deducted elsewhere before is believed", (shop(), plain(10_000, "machinery", "2018-05-10", prior="9000")), 2025, {A + "11": 1_000}),
    # Rents
    ("rents less costs", (house(rents=18_000, taxes=3_000, repairs=1_000),), 2025, {E.format("house") + "21": 14_000, "us.sch-e.26": 14_000, "us.sch-1.5": 14_000}),
    ("a loss under 100,000 of income: allowed", (wage(80_000), house(rents=5_000, taxes=15_000)), 2025, {P + "9": 10_000, "us.sch-e.26": -10_000, "us.1040.9": 70_000}),
    ("at 130,000: half of 20,000", (wage(130_000), house(rents=5_000, taxes=25_000)), 2025, {P + "8": 10_000, P + "9": 10_000, "us.sch-e.25": -10_000}),
    ("above 150,000: only what other rents take", (wage(160_000), house(rents=5_000, taxes=25_000), house("second", rents=9_000)), 2025, {
        P + "9": 0, E.format("house") + "22": 9_000, "us.sch-e.26": 0}),
    ("losses of before come with this year's", (wage(80_000), house(rents=9_000, passive_before="4000")), 2025, {"us.sch-e.26": 5_000}),
    ("and wait again where nothing takes them", (wage(160_000), house(rents=1_000, passive_before="4000")), 2025, {"us.sch-e.26": 0, E.format("house") + "22": 1_000}),
    ("without active participation no allowance", (wage(80_000), house(rents=5_000, taxes=15_000, active="no") if False else
        paper("rental", "house", address_line="4 Slipway", state="TX", property_kind="1", active="no", rents=5_000, taxes=15_000, owner="taxpayer")), 2025, {
        P + "2b": 10_000, P + "9": 0, "us.sch-e.26": 0}),
    ("a professional's losses are not passive", (wage(160_000), house(rents=5_000, taxes=25_000, professional="yes")), 2025, {"us.sch-e.26": -20_000}),
    ("the allowance is divided by the losses: 8,000 and 2,000 of 10,000", (
        wage(130_000), house(taxes=32_000), house("second", taxes=8_000)), 2025, {
        P + "9": 10_000, E.format("house") + "22": 8_000, E.format("second") + "22": 2_000}),
    ("royalties are no passive activity", (wage(160_000), paper("rental", "r", address_line="Well", state="TX", property_kind="6", active="no", royalties=9_000, legal=1_000, owner="taxpayer")),
     2025, {"us.sch-e.26": 8_000}),
    ("rental real estate of a share: allowed", (wage(80_000), stake(rental=-8_000, active="yes")), 2025, {P + "1b": 8_000, P + "9": 8_000, "us.sch-e.32": -8_000}),
    ("a limited partner's has no allowance", (wage(80_000), stake(rental=-8_000)), 2025, {P + "2b": 8_000, "us.sch-e.32": 0, "us.1040.9": 80_000}),
    ("one share's passive loss against another's income", (wage(80_000), stake(ordinary=-5_000, participates="no"), stake("k2", ordinary=3_000, participates="no")), 2025, {
        P + "11": 3_000, "us.share[k1].5": -3_000, "us.sch-e.32": 0}),
    ("what waited comes with income", (stake(ordinary=3_000, participates="no", passive_before="2000"),), 2025, {"us.share[k1].5": 1_000, "us.sch-e.32": 1_000}),
    ("guaranteed payments are not passive", (stake(ordinary=-4_000, guaranteed=10_000, participates="no"),), 2025, {"us.share[k1].1": 10_000, "us.sch-e.32": 10_000}),
    ("whoever takes part has no passive loss", (stake(ordinary=-4_000),), 2025, {"us.sch-e.32": -4_000, P + "3": 0}),
    ("income of a share takes a house's loss", (wage(200_000), stake(rental=9_000), house(taxes=7_000)), 2025, {E.format("house") + "22": 7_000, "us.sch-e.41": 2_000}),
    ("and it enters the tax on investment income", (wage(300_000), stake(rental=9_000)), 2025, {"us.8960.4c": 9_000}),
    ("a home office of a tenth: 2.564% of 25,000", (shop(home_method="regular", home_area="200", home_total="2000", home_basis="300000", home_land="50000", home_since="2020-07-01"),),
     2025, {H + "40": 25_000, H + "41": D("2.564"), H + "42": 641, H + "30": 641, H + "36": 641}),
    ("its first year from July", (shop(home_method="regular", home_area="200", home_total="2000", home_basis="300000", home_land="50000", home_since="2025-07-01"),),
     2025, {H + "42": 294}),
    ("no more than the profit leaves, the rest waits", (
        shop(1_000, home_method="regular", home_area="200", home_total="2000", home_basis="300000", home_land="50000", home_since="2020-07-01", home_direct="700",
             home_depreciation_before="100"),), 2025, {H + "27": 700, H + "28": 300, H + "32": 741, H + "33": 300, H + "36": 1_000, H + "44": 441}),
    ("a statement of rents", (house(), paper("1099-misc", "m1", owner="taxpayer", payer="Quay", rents="7200", rental="house")), 2025, {E.format("house") + "3": 7_200}),
)  # fmt: skip


def line_of(run, address):
    """The amount of a line by its address, whether anything reads it or not."""
    name, _, number = address.rpartition(".")
    code, _, key = name.partition("[")
    form = run.form(code, key.rstrip("]") or None)
    return next(cell.value for cell in form.lines() if cell.number == number)


def agree(test, catches, run, wanted):
    """Every line of a case is what somebody worked out by hand. `wanted`: {address: amount}."""
    for address, amount in wanted.items():
        with test.subTest(catches, address=address):
            test.assertEqual(line_of(run, address), amount)


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            found = result(*papers, year=year)
            for address, amount in wanted.items():
                key = "shop" if address.startswith("us.4562[{}]") else "a1"
                with self.subTest(catches, address=address):
                    self.assertEqual(line_of(found.run, address.format(key)), D(amount))
