"""Vehicles whose use in business falls to half or less, worked by hand from IRC 280F(b)(2) and 26 CFR 1.280F-3T(d)."""

from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.property.tests.test_worked import A as OF_ASSET
from taxcore.packs.us.property.tests.test_worked import agree, line_of, plain, result, shop, thing

A, C, S = OF_ASSET.format("a1"), "us.sch-c[shop].", "us.4797."


def fallen(placed="2023-05-10", cost=30_000, share="40", before="80", year="2025", **values):
    return plain(cost, "truck", placed, business_share=share, share_before=before, fell_in=year, **values)


CASES = (
    ("above the straight line it comes back: 20% and 32% of 24,000 less 10% and 20%", (shop(), fallen(prior=12_480)), 2025, {
        S + "33": 12_480, S + "34": 7_200, S + "35": 5_280, C + "6": 5_280, A + "11": 2_400, A + "12": 9_600, C + "13": 2_400}),
    ("the special allowance too", (shop(), thing(50_000, "truck", "2024-03-01", business_share="50", share_before="100", fell_in="2025",
                                                 prior=34_000)), 2025, {S + "33": 34_000, S + "34": 5_000, S + "35": 29_000, C + "6": 29_000, A + "11": 5_000}),
    ("and what was expensed", (shop(), fallen("2024-03-01", 40_000, "50", "100", section_179=30_000, prior=2_000)), 2025, {
        S + "33": 32_000, S + "34": 4_000, S + "35": 28_000, A + "11": 4_000, A + "3": 0, A + "12": 8_000}),
    ("a year later nothing comes back again", (shop(), fallen(year="2024", prior=9_600)), 2025, {S + "35": 0, C + "6": 0, A + "11": 2_400, A + "12": 12_000}),
    ("an automobile within its limits in both", (shop(), plain(60_000, "car", "2023-05-10", business_share="50", share_before="100",
                                                               fell_in="2025", prior=31_200)), 2025, {
        S + "33": 31_200, S + "34": 18_000, S + "35": 13_200, A + "11": 5_850}),
    ("of a straight line from the beginning nothing", (shop(), fallen(method="ads", prior=7_200)), 2025, {S + "35": 0, A + "11": 2_400}),
)  # fmt: skip


class ListedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_is_added_back_is_basis_of_a_later_sale(self):
        """30,000, of it 40% business: 12,000; the straight line took 9,600 until 2025, and 1,200 to the sale in 2026."""
        now = result(shop(), fallen(prior=12_480), year=2025)
        asset = next(one for one in roll_forward(now).data.papers if one.kind == "asset")
        self.assertEqual(asset.values["prior"], "9600")
        later = result(shop(), thing(30_000, "truck", "2023-05-10", **{
            **{name: value for name, value in asset.values.items() if name not in ("description", "used_in", "cost", "sort", "in_service")},
            "sold": "2026-03-01", "sold_for": "5000"}), year=2026)  # fmt: skip
        self.assertEqual(line_of(later.run, A + "12"), 10_800)
        self.assertEqual(line_of(later.run, S + "35"), 0)
