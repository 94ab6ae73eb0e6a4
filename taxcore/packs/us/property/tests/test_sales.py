"""Sales of business property worked by hand: Form 4797 with recapture, five years of earlier losses, losses that end with the sale."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, house, paper, plain, result, shop, thing, wage

D = Decimal
LATHE = {"cost": 10_000, "sort": "machinery", "placed": "2023-05-10", "sold": "2025-03-01"}  # 4,753 were written off
F, S, DD = "us.4797.", "us.sale-of-property[a1].", "us.sch-d."


def lathe(price, **values):
    return plain(**{**LATHE, "sold_for": price} | values)


def lost(*rows):
    made = [{"id": str(n), "from_year": str(year), "amount": str(amount)} for n, (year, amount) in enumerate(rows, 1)]
    return paper("section-1231", rows="") if not made else _rows("section-1231", made)


def _rows(kind, made):
    from taxcore.engine import PaperValues

    return PaperValues(kind, kind, {"rows": made})


def let(**values):
    given = {"description": "House", "used_in": "house", "sort": "residential", "cost": "325000", "land": "50000",
             "in_service": "2015-01-15", "prior": "99998", "sold": "2025-06-10"}  # fmt: skip
    return paper("asset", "a1", **given | values)


CASES = (
    ("sold for less than is left: an ordinary loss", (shop(), lathe(5_000)), 2025, {
        S + "22": 4_753, S + "23": 5_247, S + "24": -247, F + "2": -247, F + "7": -247, F + "11": -247, F + "18b": -247, "us.sch-1.4": -247}),
    ("for more, up to what was written off: ordinary", (shop(), lathe(8_000)), 2025, {S + "24": 2_753, S + "25b": 2_753, F + "13": 2_753, F + "7": 0, "us.sch-1.4": 2_753}),
    ("above its cost: the rest is a long-term gain", (shop(), lathe(12_000)), 2025, {
        S + "25b": 4_753, F + "6": 2_000, F + "7": 2_000, F + "13": 4_753, DD + "11": 2_000, "us.1040.7a": 2_000, "us.sch-1.4": 4_753}),
    ("costs of the sale", (shop(), lathe(12_000, costs="500")), 2025, {F + "6": 1_500}),
    ("losses of the five years before make it ordinary", (shop(), lathe(12_000), lost((2022, 1_500))), 2025, {
        F + "8": 1_500, F + "9": 500, F + "12": 1_500, DD + "11": 500, "us.sch-1.4": 6_253}),
    ("all of it where they were larger", (shop(), lathe(12_000), lost((2022, 5_000))), 2025, {F + "9": 0, F + "12": 2_000, DD + "11": 0}),
    ("not those of six years before", (shop(), lathe(12_000), lost((2019, 5_000))), 2025, {F + "8": 0, DD + "11": 2_000}),
    ("held for a year or less", (shop(), plain(3_000, "computer", "2025-02-01", sold="2025-09-01", sold_for="2000")), 2025, {
        S + "22": 0, F + "10": -1_000, F + "7": 0, "us.sch-1.4": -1_000}),
    ("land", (shop(), thing(40_000, "land", "2020-02-01", sold="2025-09-01", sold_for="60000")), 2025, {F + "2": 20_000, DD + "11": 20_000, DD + "19": 0}),
    ("what was expensed comes back", (shop(), plain(10_000, "machinery", "2024-05-01", section_179="10000", sold="2025-09-01", sold_for="4000")), 2025, {
        S + "22": 10_000, F + "13": 4_000, "us.sch-1.4": 4_000}),
    ("a car, four fifths of it", (shop(), plain(30_000, "car", "2023-03-01", business_share="80", sold="2025-09-01", sold_for="12000")), 2025, {
        S + "20": 9_600, S + "22": 4_800 + 7_680 + 2_304, S + "24": 9_600 - (24_000 - 14_784)}),
    ("a house: what was written off is taxed at 25% at most", (house(disposed="yes"), let(sold_for="400000", costs="20000")), 2025, {
        S + "22": 104_581, S + "24": 159_581, S + "26g": 0, F + "6": 159_581, DD + "11": 159_581, DD + "19": 104_581}),
    ("no more than the gain", (house(disposed="yes"), let(sold_for="260419")), 2025, {S + "24": 40_000, DD + "19": 40_000}),
    ("nor than what earlier losses left", (house(disposed="yes"), let(sold_for="260419"), lost((2023, 15_000))), 2025, {F + "9": 25_000, DD + "11": 25_000, DD + "19": 25_000}),
    ("losses that waited end with the sale", (wage(300_000), house(disposed="yes", rents=0, taxes=1_000, passive_before="12000"), let(sold_for="220419")), 2025, {
        "us.sch-e-part-i[house].22": 17_583, "us.sch-e.26": -17_583, "us.8582.3": 0, F + "6": 0}),
    ("a gain takes losses of other houses", (
        wage(300_000), house(disposed="yes", rents=0), let(sold_for="260419"), house("second", taxes=9_000)), 2025, {
        "us.8582.1a": 35_417, "us.sch-e-part-i[second].22": 9_000}),
    ("a sale of one thing of a house that goes on", (wage(300_000), house(taxes=9_000), paper(
        "asset", "a1", description="Stove", used_in="house", sort="appliance", cost="3000", in_service="2023-05-01", no_special="yes", sold="2025-05-01", sold_for="2500")), 2025, {
        S + "22": 600 + 960 + 288, F + "13": 1_348, "us.sch-e-part-i[house].22": 1_348}),
    ("a fence: what is above the straight line (1,334) is ordinary", (shop(), plain(10_000, "improvement", "2023-05-10", sold="2025-03-01", sold_for="9500")), 2025, {
        S + "22": 1_878, S + "24": 1_378, S + "26a": 544, S + "26g": 544, F + "13": 544, F + "6": 834, DD + "11": 834, DD + "19": 834, "us.sch-1.4": 544}),
    ("a fitted floor with the special allowance: all but six tenths of it", (shop(), thing(15_000, "interior", "2023-05-10", sold="2025-03-01", sold_for="9000")), 2025, {
        S + "22": 12_000 + 100 + 200 + 100, S + "26a": 12_400 - 2_000, S + "24": 6_400, S + "26g": 6_400, DD + "11": 0}),
    ("a share's section 1231 gain", (paper("k1-1065", "k1", owner="taxpayer", entity="Quay", entity_number="00-4455668", participates="yes", section_1231="900"),), 2025, {
        F + "2": 900, DD + "11": 900}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_losses_are_kept_for_five_years_and_used_oldest_first(self):
        """2,000 of gain use 1,500 of 2021 and 500 of 2022; what is of 2020 ends with 2025."""
        rolled = roll_forward(result(shop(), lathe(12_000), lost((2021, 1_500), (2022, 700))))
        rows = next(one.values["rows"] for one in rolled.data.papers if one.kind == "section-1231")
        self.assertEqual([(row["from_year"], row["amount"]) for row in rows], [("2022", "200")])
        rolled = roll_forward(result(shop(), lathe(5_000), lost((2022, 700), (2020, 300))))
        rows = next(one.values["rows"] for one in rolled.data.papers if one.kind == "section-1231")
        self.assertEqual([(row["from_year"], row["amount"]) for row in rows], [("2022", "700"), ("2025", "247")])
        self.assertNotIn("asset", {one.kind for one in rolled.data.papers})
