"""Like-kind exchanges worked by hand from IRC 1031(a) to (d) and 26 CFR 1.1031(d)-2."""

from unittest import TestCase

from taxcore.packs.us.property.tests.test_sales import let
from taxcore.packs.us.property.tests.test_worked import agree, house, paper, result

E, F, DD = "us.8824[e1].", "us.4797.", "us.sch-d."


def swapped(**values):
    given = {"given": "Meadow", "got": "Copse", "sort": "capital", "acquired": "2015-04-01", "transferred": "2025-03-01",
             "identified": "2025-04-10", "received": "2025-05-20", "related": "no"}  # fmt: skip
    return paper("exchange", "e1", **given | values)


CASES = (
    ("money besides is taxed, less the expenses", (swapped(basis=100_000, value=250_000, cash=30_000, expenses=5_000),), 2025, {
        E + "15": 25_000, E + "16": 250_000, E + "17": 275_000, E + "18": 100_000, E + "19": 175_000, E + "20": 25_000, E + "21": 0, E + "22": 25_000,
        E + "23": 25_000, E + "24": 150_000, E + "25": 100_000, DD + "11": 25_000, "us.1040.7a": 25_000}),
    ("money paid is basis", (swapped(basis=100_000, value=300_000, paid=40_000, expenses=2_000),), 2025, {
        E + "15": 0, E + "18": 142_000, E + "19": 158_000, E + "20": 0, E + "24": 158_000, E + "25": 142_000, DD + "11": 0}),
    ("a debt that went, above one that came", (swapped(basis=100_000, value=220_000, relieved=80_000, assumed=60_000),), 2025, {
        E + "15": 20_000, E + "17": 240_000, E + "19": 140_000, E + "23": 20_000, E + "25": 100_000}),
    ("a larger debt that came", (swapped(basis=100_000, value=300_000, relieved=60_000, assumed=80_000),), 2025, {
        E + "15": 0, E + "18": 120_000, E + "19": 180_000, E + "25": 120_000}),
    ("money got is taxed though a larger debt came", (swapped(basis=100_000, value=300_000, relieved=60_000, assumed=80_000, cash=10_000),), 2025, {
        E + "15": 10_000, E + "18": 120_000, E + "20": 10_000, E + "25": 120_000}),
    ("a loss is not deducted", (swapped(basis=300_000, value=250_000, cash=10_000),), 2025, {
        E + "19": -40_000, E + "20": 0, E + "23": 0, E + "24": -40_000, E + "25": 290_000, DD + "11": 0}),
    ("no more than the gain", (swapped(basis=240_000, value=230_000, cash=20_000),), 2025, {E + "19": 10_000, E + "20": 10_000, E + "24": 0, E + "25": 230_000}),
    ("held a year or less", (swapped(acquired="2024-06-01", basis=10_000, value=20_000, cash=4_000),), 2025, {DD + "4": 4_000, DD + "11": 0}),
    ("a house that was let: what was written off at 25%", (house(), let(), swapped(
        given="House", sort="rental", asset="a1", acquired="2015-01-15", transferred="2025-06-10", identified="2025-07-01", received="2025-08-01",
        value=350_000, cash=50_000, expenses=20_000)), 2025, {
        E + "15": 30_000, E + "17": 380_000, E + "18": 220_419, E + "19": 159_581, E + "20": 30_000, E + "25": 220_419,
        F + "5": 30_000, F + "7": 30_000, F + "6": 0, F + "2": 0, DD + "11": 30_000, DD + "19": 30_000}),
    ("nothing received besides: nothing taxed, the house is written off to the day", (house(), let(), swapped(
        given="House", sort="rental", asset="a1", acquired="2015-01-15", transferred="2025-06-10", identified="2025-07-01", received="2025-08-01",
        value=380_000)), 2025, {E + "19": 159_581, E + "23": 0, F + "7": 0, "us.sch-e-part-i[house].18": 4_583}),
    ("of land used in a trade, held short", (swapped(sort="trade", acquired="2024-06-01", basis=10_000, value=20_000, cash=4_000),), 2025, {
        F + "16": 4_000, F + "18b": 4_000, DD + "11": 0}),
)  # fmt: skip


class ExchangeTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_is_not_taxed_now_is_in_the_basis(self):
        """Value less deferred gain is the basis of what was received, whatever was paid and got besides."""
        for values in (
            {"cash": 12_000},
            {"paid": 9_000},
            {"relieved": 30_000},
            {"assumed": 30_000, "cash": 5_000},
            {"expenses": 3_000},
        ):
            with self.subTest(values):
                form = result(swapped(basis=70_000, value=200_000, **values)).run.form("us.8824", "e1")
                self.assertEqual(form.basis_received, 200_000 - form.deferred)
