"""Homes that are also let, worked by hand from IRC 280A: division by days, the order of costs, what waits."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, house, paper, result, wage

D = Decimal
E = "us.sch-e-part-i[house]."
COSTS = {"mortgage_interest": 8_000, "taxes": 2_000, "utilities": 2_000, "repairs": 1_200, "insurance": 800, "whole_costs": "yes"}
CHALET = paper("asset", "a1", description="Chalet", used_in="house", sort="residential", cost="120000", land="20000", business_share="75",
               in_service="2020-01-15")  # fmt: skip


def chalet(rents, rented, own, **values):
    return house(rents=rents, rented_days=rented, personal_days=own, **COSTS | values)


CASES = (
    # 90 of 120 days: three quarters
    ("interest and taxes first, then costs up to the rents, no depreciation", (chalet(10_000, 90, 30), CHALET), 2025, {
        E + "12": 6_000, E + "16": 1_500, E + "9": 600, E + "14": 900, E + "17": 1_000, E + "18": 0, E + "20": 10_000, E + "21": 0, "us.sch-e.26": 0}),
    ("depreciation with what is left", (chalet(12_000, 90, 30), CHALET), 2025, {E + "17": 1_500, E + "18": 1_500, E + "21": 0}),
    ("all of it where the rents are enough", (chalet(20_000, 90, 30), CHALET), 2025, {E + "18": 2_727, E + "21": 20_000 - 7_500 - 3_000 - 2_727}),
    ("what agents and advertisements cost is not divided, and comes first", (chalet(10_000, 90, 30, commissions=1_000, advertising=500),), 2025, {
        E + "5": 500, E + "8": 1_000, E + "9": 600, E + "14": 400, E + "17": 0, E + "21": 0}),
    ("interest and taxes above the rents are a loss", (wage(60_000), chalet(5_000, 90, 30)), 2025, {E + "12": 6_000, E + "9": 0, E + "21": -2_500, "us.sch-e.26": -2_500}),
    ("costs that waited", (chalet(20_000, 90, 30, operating_before=700, home_depreciation_before=900),), 2025, {E + "19": 700, E + "18": 900}),
    ("fourteen days are no home: the costs are divided, a loss is passive", (wage(60_000), chalet(5_000, 186, 14)), 2025, {
        E + "12": 7_440, E + "17": 1_860, E + "21": 5_000 - 7_440 - 1_860 - 1_860 - 1_116 - 744, "us.8582.1b": 8_020}),
    ("nor is a tenth of the days", (chalet(5_000, 300, 30),), 2025, {"us.8582.1b": 7_727}),
    ("costs of the rental alone are entered as they are", (chalet(30_000, 90, 30, whole_costs="no"),), 2025, {E + "12": 8_000, E + "20": 14_000}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_waits(self):
        """500 of the costs, all of the depreciation of 2025: 75% of 100,000 at 3.636%."""
        rolled = roll_forward(result(chalet(10_000, 90, 30), CHALET)).data.papers
        let = next(one for one in rolled if one.kind == "rental").values
        self.assertEqual((let["operating_before"], let["home_depreciation_before"]), ("500", "2727"))
