"""Installment sales worked by hand from IRC 453: the year of the sale, the years after it, debts, recapture, gain of buildings."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.property.tests.test_sales import LATHE, let, lost
from taxcore.packs.us.property.tests.test_worked import agree, house, line_of, paper, plain, result, shop

D = Decimal
I, F, DD = "us.6252[i1].", "us.4797.", "us.sch-d."  # noqa: E741


def sold(**values):
    given = {"description": "Meadow", "sort": "capital", "acquired": "2015-04-01", "sold": "2025-06-01", "related": "no"}
    return paper("installment", "i1", **given | values)


def later(**values):
    return sold(sold="2023-06-01", **values)


CASES = (
    ("six tenths of what is paid", (sold(price=100_000, basis=40_000, received=30_000),), 2025, {
        I + "16": 60_000, I + "18": 100_000, I + "19": D("0.6"), I + "24": 18_000, DD + "11": 18_000, "us.1040.7a": 18_000}),
    ("two years later", (later(percentage="0.6", before=30_000, received=10_000),), 2025, {I + "19": D("0.6"), I + "24": 6_000, DD + "11": 6_000}),
    ("a debt that the buyer takes is no payment", (sold(price=100_000, basis=40_000, assumed=20_000, received=30_000),), 2025, {
        I + "18": 80_000, I + "19": D("0.75"), I + "24": 22_500}),
    ("but above the basis it is", (sold(price=100_000, basis=40_000, assumed=50_000, received=5_000),), 2025, {
        I + "17": 10_000, I + "18": 60_000, I + "19": 1, I + "22": 15_000, I + "24": 15_000}),
    ("costs of the sale, and the gain of a home", (sold(price=100_000, basis=40_000, costs=5_000, home=30_000, received=10_000),), 2025, {
        I + "16": 25_000, I + "19": D("0.25"), I + "24": 2_500}),
    ("held a year or less", (sold(acquired="2025-01-10", price=10_000, basis=4_000, received=5_000),), 2025, {I + "24": 3_000, DD + "4": 3_000, DD + "11": 0}),
    ("what was written off of a lathe is taxed at once", (shop(), plain(**{**LATHE, "sold_for": 12_000}), sold(
        description="Lathe", sort="trade", acquired="2023-05-10", sold="2025-03-01", asset="a1", received=3_000)), 2025, {
        I + "5": 12_000, I + "10": 5_247, I + "12": 4_753, I + "16": 2_000, I + "19": D("0.1667"), I + "24": 500,
        F + "13": 4_753, F + "4": 500, F + "6": 0, F + "7": 500, DD + "11": 500, "us.sch-1.4": 4_753}),
    ("of a house the gain at 25% comes first", (house(), let(sold_for="400000", costs="20000"), sold(
        description="House", sort="rental", acquired="2015-01-15", sold="2025-06-10", asset="a1", received=50_000)), 2025, {
        I + "16": 159_581, I + "19": D("0.399"), I + "24": 19_950, F + "4": 19_950, F + "6": 0, DD + "11": 19_950, DD + "19": 19_950}),
    ("earlier losses make it ordinary too", (later(sort="trade", percentage="0.5", before=100, received=4_000), lost((2022, 500))), 2025, {
        F + "4": 2_000, F + "7": 2_000, F + "12": 500, DD + "11": 1_500, "us.sch-1.4": 500}),
    ("a loss of a lathe is deducted at once, whatever is said of its price", (shop(), plain(**{**LATHE, "sold_for": 5_000}), sold(
        description="Lathe", sort="trade", acquired="2023-05-10", sold="2025-03-01", asset="a1", received=3_000)), 2025, {
        I + "24": 0, F + "2": -247, "us.sch-1.4": -247}),
    ("a loss waits for nothing: there is no such sale", (sold(price=10_000, basis=40_000, received=1_000),), 2025, {I + "16": 0, I + "24": 0}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_all_of_the_gain_comes_over_the_years(self):
        """100,000 for what had cost 40,000, in four parts: 60,000; of it 25,000 at 25% first."""
        income, at_25 = D(0), D(0)
        now = result(sold(sold="2022-06-01", price=100_000, basis=40_000, property_gain=25_000, received=30_000), year=2022)
        for received in (10_000, 40_000, 20_000, 0):
            income += line_of(now.run, I + "24")
            at_25 += now.run.form("us.6252", "i1").unrecaptured
            rolled = roll_forward(now).data
            kept = [one for one in rolled.papers if one.kind == "installment"]
            self.assertEqual(len(kept), 1)
            now = result(*(paper("installment", "i1", **{**one.values, "received": received}) for one in kept), year=rolled.year)
        self.assertEqual((income, at_25), (60_000, 25_000))
