"""Rents and royalties on a Pennsylvania return, by hand from 72 P.S. 7303(a)(4): a class alone, each spouse alone, no passive limit."""

from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, house, paper, result, stake
from taxcore.packs.us.tests.returns import codes, filing, person, w2

P = "us-pa.pa-40."
HOME = filing(residence="PA", state="PA")
LET = {"rents": 20_000, "taxes": 8_000, "state": "PA", "rented_days": "365"}


def let(key="house", **values):
    return house(key, **{**LET, **values})


def pay(amount=60_000):
    return w2(amount, state="PA")


def couple(*papers):
    return (person(), person("spouse"), filing("joint", residence="PA", state="PA"), *papers)


def stays():
    """In Pennsylvania until the end of June, 181 days, then in Texas."""
    rows = [{"id": "1", "person": "taxpayer", "state": "PA", "last": "2025-06-30"},
            {"id": "2", "person": "taxpayer", "state": "TX", "first": "2025-07-01"}]  # fmt: skip
    return filing(residence="", state="TX"), PaperValues("residency", "residency", {"rows": rows})


RANGE = paper("asset", "a1", description="Range", used_in="house", sort="appliance", cost=10_000, in_service="2024-03-01")
CASES = (
    ("12,000 at 3.07%, with the wages", (HOME, pay(), let()), 2025, {P + "6": 12_000, P + "9": 72_000, P + "12": 2_210}),
    ("a loss is alone", (HOME, pay(), let(taxes=25_000)), 2025, {P + "6": -5_000, P + "9": 60_000}),
    ("also where the federal one waits", (HOME, pay(300_000), let(taxes=25_000), let("b", rents=9_000, taxes=0)), 2025, {P + "6": 4_000, P + "9": 304_000}),
    ("each of a couple alone", couple(pay(), let(), let("b", taxes=25_000, owner="spouse")), 2025, {P + "6": 12_000, P + "9": 72_000}),
    ("a house of both", couple(pay(), let(owner="joint"), let("b", taxes=25_000, owner="spouse")), 2025, {P + "6": 7_000}),
    ("without the special allowance: 3,200 instead of 1,280", (HOME, pay(), let(), RANGE), 2025, {"us.sch-e.26": 10_720, P + "6": 8_800, P + "4": 0}),
    ("a nonresident's house", (filing(residence="TX", state="TX"), let()), 2025, {P + "6": 12_000, P + "4": 0, P + "12": 368}),
    ("a mover's house there, all year", (*stays(), let()), 2025, {P + "6": 12_000}),
    ("a mover's house elsewhere, by days", (*stays(), let(state="TX")), 2025, {P + "6": 5_951}),
    ("shares of partnerships, and royalties", (HOME, pay(), stake(rental=3_000, royalties=500)), 2025, {P + "6": 3_500, P + "4": 0}),
)  # fmt: skip


class RentTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_a_home_that_is_also_let_waits(self):
        home = let(personal_days="40", rented_days="100")
        self.assertIn("us-pa.vacation-home", codes(result(HOME, pay(), home)))
        self.assertNotIn("us-pa.vacation-home", codes(result(HOME, pay(), let())))
