"""Business losses above the limit, worked by hand from IRC 461(l) for 2024: 305,000, or 610,000 on a joint return."""

from unittest import TestCase

from taxcore.engine import PaperValues, roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, house, line_of, result, shop, stake, thing, wage
from taxcore.packs.us.tests.returns import filing, person

E, S, N = "us.461.", "us.sch-1.", "us.net-operating-loss."


def lost(amount, **values):
    return shop(receipts=0, supplies=amount, service_trade="no", **values)


def royalties(amount):
    return house("oil", property_kind="6", royalties=amount, active="no")


CASES = (
    ("above the threshold it waits as an operating loss", (lost(400_000), wage(500_000)), 2024, {
        E + "2": -400_000, E + "9": -400_000, E + "15": 305_000, E + "16": 95_000, S + "8p": 95_000, "us.1040.11": 195_000, N + "11": 95_000}),
    ("profits of other trades come first", (lost(400_000), wage(500_000), stake(ordinary=50_000)), 2024, {E + "5": 50_000, E + "16": 45_000}),
    ("wages are no business", (lost(305_000), wage(900_000)), 2024, {E + "16": 0, S + "8p": 0}),
    ("royalties are none either", (lost(400_000), royalties(100_000)), 2024, {
        E + "5": 100_000, E + "10": 100_000, E + "12": -100_000, E + "14": -400_000, E + "16": 95_000}),
    ("rents of a professional are one", (house(taxes=310_000, professional="yes"), wage(500_000)), 2024, {E + "5": -310_000, E + "16": 5_000}),
    ("gain of business property, up to all capital gain", (
        lost(400_000), thing(40_000, "land", "2020-02-01", sold="2024-09-01", sold_for="60000"), wage(500_000)), 2024, {
        E + "3": 20_000, E + "9": -380_000, E + "16": 75_000}),
    ("what somebody entered stands", (lost(400_000), PaperValues("o1", "other-income", {"owner": "taxpayer", "excess_business_loss": "1000"})), 2024, {
        E + "16": 95_000, S + "8p": 1_000}),
)  # fmt: skip


class ExcessLossTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_a_couple_has_twice_the_threshold(self):
        home = filing("joint", residence="TX", state="TX")
        found = result(person(), person("spouse"), home, lost(700_000), wage(900_000), year=2024)
        self.assertEqual((line_of(found.run, E + "15"), line_of(found.run, S + "8p")), (610_000, 90_000))

    def test_next_year_it_is_an_operating_loss_of_this_one(self):
        rolled = roll_forward(result(lost(400_000), wage(500_000), year=2024)).data
        losses = next(one for one in rolled.papers if one.kind == "operating-losses")
        self.assertEqual([(row["from_year"], row["amount"]) for row in losses.values["rows"]], [("2024", "95000")])
