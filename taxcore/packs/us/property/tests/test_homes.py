"""Homes that were sold, worked by hand from IRC 121: the tests, half of the exclusion, depreciation, a part that was let."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.property.tests.test_worked import agree, house, paper, result
from taxcore.packs.us.tests import returns

D = Decimal
H, F, DD = "us.home-sale[h1].", "us.8949[F].", "us.sch-d."
COUPLE = (returns.person(), returns.person("spouse"), returns.filing("joint", residence="TX", state="TX"))


def home(**values):
    """A gain of 294,000 above what it had cost."""
    given = {"owner": "taxpayer", "address_line": "3 Kelp Row", "state": "TX", "acquired": "2015-05-01", "sold": "2025-05-01", "price": "600000",
             "costs": "36000", "cost": "250000", "improvements": "20000", "owned_months": "60", "used_months": "60"}  # fmt: skip
    return paper("home-sale", "h1", **given | values)


CASES = (
    ("one person: 250,000 are left out", (home(),), 2025, {
        H + "3": 294_000, H + "8": 250_000, H + "10": 44_000, F + "d": 600_000, F + "e": 306_000, F + "g": -250_000, F + "h": 44_000,
        DD + "10-h": 44_000, DD + "19": 0, "us.1040.7a": 44_000}),
    ("a couple: all of it, and nothing is reported", (*COUPLE, home(spouse_months="60")), 2025, {H + "8": 500_000, H + "10": 0, "us.1040.7a": 0}),
    ("unless a statement says so", (*COUPLE, home(spouse_months="60", statement="yes")), 2025, {F + "d": 600_000, F + "g": -294_000, F + "h": 0}),
    ("only one of them lived there for two years", (*COUPLE, home(spouse_months="23")), 2025, {H + "8": 250_000, H + "10": 44_000}),
    ("depreciation of an office in it is taxed", (*COUPLE, home(spouse_months="60", depreciation="10000")), 2025, {
        H + "3": 304_000, H + "4": 10_000, H + "10": 10_000, F + "h": 10_000, DD + "19": 10_000}),
    ("sold after a year for work: half", (home(acquired="2024-05-01", owned_months="12", used_months="12", reason="work"),), 2025, {H + "8": 125_000, H + "10": 169_000}),
    ("without a reason nothing", (home(acquired="2024-04-01", owned_months="13", used_months="13"),), 2025, {H + "8": 0, H + "10": 294_000}),
    ("a year after another home", (home(excluded_months="18"),), 2025, {H + "8": 0}),
    ("a fifth of the time it was let before anybody lived there", (
        home(acquired="2015-05-04", sold="2025-05-01", price="406000", costs="36000", other_days="730"),), 2025, {
        H + "5": D("0.2"), H + "6": 20_000, H + "9": 80_000, H + "10": 20_000}),
    ("a loss is nobody's", (home(price="200000", statement="yes"),), 2025, {H + "3": -106_000, H + "10": 0, F + "g": 106_000, F + "h": 0, "us.1040.7a": 0}),
    ("moved out, let for two years, then sold: all but the depreciation", (
        home(price="", costs="", cost="", improvements="", asset="a1", used_months="36"), house(disposed="yes"),
        paper("asset", "a1", description="House", used_in="house", sort="residential", cost="200000", land="40000",
              in_service="2023-05-15", prior="9455", sold="2025-05-01", sold_for="400000")), 2025, {
        H + "3": 200_000 + 9_455 + 2_182, H + "4": 11_637, H + "9": 200_000, F + "h": 0, "us.4797.6": 11_637, "us.4797.7": 11_637,
        "us.sch-d.11": 11_637, "us.sch-d.19": 11_637}),
    ("half of a house, the other half was let", (
        home(price="500000", costs="", improvements="", cost="200000", part="50"), house(disposed="yes"),
        paper("asset", "a1", description="House", used_in="house", sort="residential", cost="200000", land="40000", business_share="50",
              in_service="2015-05-15", prior="28000", sold="2025-05-01", sold_for="500000")), 2025, {
        H + "1": 250_000, H + "2": 100_000, H + "9": 150_000, H + "10": 0,
        "us.sale-of-property[a1].20": 250_000, "us.sale-of-property[a1].23": 100_000 - 28_000 - 1_091, "us.sch-d.19": 29_091, "us.4797.7": 179_091}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_figures_of_an_asset_stand_on_the_paper_only_where_there_is_one(self):
        run = result(home()).run
        alone = run.by_key(("home-sale",), "h1").cell("depreciation")
        self.assertEqual((alone.how, alone.value), ("empty", 0))

    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)
