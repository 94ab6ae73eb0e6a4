"""A state's own depreciation worked by hand: what it adds back in the first year, gives in later ones, and in the year of a sale."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.property.tests.test_worked import agree, house, line_of, paper, plain, result, shop, thing
from taxcore.packs.us.tests import returns

D = Decimal
SAW = {"cost": 10_000, "sort": "computer", "placed": "2024-03-01"}  # five years: 20, 32, 19.2, 11.52, 11.52, 5.76
STOVE = paper("asset", "a2", description="Stove", used_in="house", sort="appliance", cost="2000", in_service="2025-03-01")
ADDED = {"CA": "us-ca.540.16", "GA": "us-ga.500.9", "IA": "us-ia.ia-1040.2", "IL": "us-il.il-1040.3", "IN": "us-in.it-40.2",
         "SC": "us-sc.sc1040.2", "VA": "us-va.760.2", "WI": "us-wi.form-1.2"}  # fmt: skip
TAKEN = {"CA": "us-ca.540.14", "IL": "us-il.il-1040.7", "IN": "us-in.it-40.4", "VA": "us-va.760.7", "WI": "us-wi.form-1.4"}
O = "us-il.own-depreciation[a1]."  # noqa: E741


def filed(state, *papers, year):
    return result(returns.filing(residence=state, state=state), shop(), *papers, year=year)


def at(state, *papers, year):
    return filed(state, *papers, year=year).run


def first(**values):
    return thing(**{**SAW, **values})


# What it catches; state; papers; year; {address: amount}
CASES = (
    ("federal 6,000 and 20% of 4,000; Illinois 20% of 10,000", "IL", (first(),), 2024, {
        "us.depreciation[a1].10": 6_000, "us.depreciation[a1].11": 800, O + "11": 2_000, ADDED["IL"]: 4_800, TAKEN["IL"]: 0}),
    ("a year later 1,280 and 3,200", "IL", (first(),), 2025, {O + "6": 2_000, O + "11": 3_200, ADDED["IL"]: 0, TAKEN["IL"]: 1_920}),
    ("sold: half a year each, and another basis: all that was added comes back", "IL", (first(sold="2025-09-01", sold_for="3000"),), 2025, {
        O + "11": 1_600, O + "12": 3_600, TAKEN["IL"]: 960 + 3_840}),
    ("Illinois took what was written off at once in 2020", "IL", (first(placed="2020-03-01"),), 2025, {TAKEN["IL"]: 0}),
    ("and no more in 2021: 11.52%", "IL", (first(placed="2021-03-01"),), 2025, {TAKEN["IL"]: 1_152}),
    ("Iowa takes it since 2021", "IA", (first(),), 2024, {ADDED["IA"]: 0}),
    ("of 2020 its own last year: 5.76%", "IA", (first(placed="2020-03-01"),), 2025, {"us-ia.own-depreciation[a1].11": 576, ADDED["IA"]: -576}),
    ("California", "CA", (first(),), 2024, {ADDED["CA"]: 4_800}),
    ("and the year after", "CA", (first(),), 2025, {TAKEN["CA"]: 1_920}),
    ("South Carolina", "SC", (first(),), 2024, {ADDED["SC"]: 4_800}),
    ("Georgia", "GA", (first(),), 2024, {ADDED["GA"]: 4_800}),
    ("Indiana", "IN", (first(),), 2024, {ADDED["IN"]: 4_800}),
    ("Virginia", "VA", (first(),), 2024, {ADDED["VA"]: 4_800}),
    ("Wisconsin", "WI", (first(),), 2024, {ADDED["WI"]: 4_800}),
    ("Pennsylvania: less of the profit", "PA", (first(),), 2024, {"us-pa.pa-40.4": 200_000 - 2_000}),
    ("a car: 12,000 against the 20,400 that the limit leaves", "GA", (thing(60_000, "car", "2024-03-01"),), 2024, {
        "us-ga.own-depreciation[a1].11": 12_000, "us-ga.own-depreciation[a1].14": 8_400}),
    ("its second year: 19,200; federal 32% of 24,000", "GA", (thing(60_000, "car", "2024-03-01"),), 2025, {
        "us-ga.own-depreciation[a1].14": 7_680 - 19_200}),
    ("what has no special allowance is alike everywhere", "IL", (plain(10_000, "machinery", "2024-03-01"),), 2024, {ADDED["IL"]: 0}),
    ("a stove of a house that is let", "IL", (house(rents=9_000), STOVE), 2025, {ADDED["IL"]: 1_600}),
)  # fmt: skip


class OwnDepreciationTests(TestCase):
    def test_by_hand(self):
        for catches, state, papers, year, wanted in CASES:
            agree(self, catches, at(state, *papers, year=year), wanted)

    def test_what_is_added_comes_back_over_the_years(self):
        """Of a thing that is kept: the sum of all differences is nothing."""
        found = None
        for placed in ("2022-03-01", "2023-11-20", "2024-06-01"):
            differences = []
            for year in (2022, 2023, 2024, 2025):
                if year >= int(placed[:4]):
                    found = at("VA", first(placed=placed), year=year)
                    differences.append(line_of(found, "us-va.own-depreciation[a1].14"))
            taken = line_of(found, "us.depreciation[a1].12") - line_of(found, "us-va.own-depreciation[a1].12")
            with self.subTest(placed):
                self.assertEqual(sum(differences), taken)

    def test_what_stops(self):
        def codes(state, *papers, year=2025):
            return returns.codes(filed(state, *papers, year=year))

        sold = first(sold="2025-09-01", sold_for="14000")
        for catches, state, papers, stops in (
            ("a gain above its cost where long-term gains are excluded", "WI", (sold,), True),
            ("not elsewhere", "IL", (sold,), False),
            ("a car where the limits are others", "CA", (thing(60_000, "car", "2024-03-01"),), True),
            ("more expensed than California does", "CA", (plain(40_000, "machinery", "2025-03-01", section_179="30000"),), True),
            ("up to 25,000", "CA", (plain(40_000, "machinery", "2025-03-01", section_179="25000"),), False),
            ("Pennsylvania too, before 2023", "PA", (plain(40_000, "machinery", "2022-03-01", section_179="30000"),), True),
            ("not since", "PA", (plain(40_000, "machinery", "2025-03-01", section_179="30000"),), False),
        ):
            with self.subTest(catches):
                self.assertEqual("us.asset.state" in codes(state, *papers), stops)
        waits = (
            returns.w2(300_000, state="TX"),
            house(taxes=9_000),
            STOVE,
        )
        self.assertIn("us.asset.state-passive", codes("IL", *waits))
        self.assertNotIn("us.asset.state-passive", codes("IL", house(rents=9_000), *waits[2:]))


class MinimumTaxTests(TestCase):
    """IRC 56(a)(6): 10,000 of seven years in service in May 2023: 1,429, 2,449 and half of 1,749; at 150% 1,071, 1,913 and half of
    1,503."""

    def test_a_sale_has_another_gain(self):
        lathe = plain(10_000, "machinery", "2023-05-10", sold="2025-03-01", sold_for="8000")
        found = result(shop(), lathe).run
        self.assertEqual(line_of(found, "us.6251.2k"), (1_071 + 1_913 + 752) - (1_429 + 2_449 + 875))
        self.assertEqual(line_of(found, "us.6251.2l"), 875 - 752)

    def test_none_where_it_is_written_off_alike(self):
        house_sold = paper("asset", "a1", description="House", used_in="house", sort="residential", cost="325000", land="50000",
                           in_service="2015-01-15", prior="99998", sold="2025-06-10", sold_for="400000")  # fmt: skip
        self.assertEqual(line_of(result(house(disposed="yes"), house_sold).run, "us.6251.2k"), 0)
