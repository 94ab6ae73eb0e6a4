"""A capital loss of a later year carried back, by hand. IRC 1212(a)(1), 170(b)(2)(D)(v), 172(d)(5)."""

from unittest import TestCase

from taxcore.packs.us.corporation.tests.making import carried, dividends, paper, result
from taxcore.packs.us.corporation.tests.test_amended import corrected, stops
from taxcore.packs.us.corporation.tests.test_worked import profit

GAIN = ("Gain on stock", "long_gain", -30_000, 0)


def back(amount, **more):
    """What is carried back, beside what waits from earlier years: (year, amount) by table."""
    return paper("carryovers", capital_back=str(amount), **carried(**more).values)


# Called; papers; lines of Form 1120 by number
CASES = (
    ("against the gain", (profit(50_000, GAIN), back(20_000)), {"8": 10_000, "30": 60_000, "31": 12_600}),
    ("no further than the gain", (profit(50_000, GAIN), back(40_000)), {"8": 0, "30": 50_000, "31": 10_500}),
    ("what was carried forward counts first", (
        profit(50_000, GAIN), back(40_000, capital=((2022, 12_000),))),
        {"8": 0, "30": 50_000}),
    # A business loss of 10,000 beside the gain: 20,000 of income at most
    ("it makes no operating loss", (profit(-10_000, GAIN), back(30_000)), {"8": 10_000, "28": 0, "30": 0}),
    ("nor a larger one", (profit(-40_000, GAIN), back(30_000)), {"8": 30_000, "28": -10_000, "30": -10_000}),
    # Of 10,000 of dividends half is deducted: 5,000 of the room of 15,000 is gone
    ("the deduction for dividends comes first", (
        profit(-25_000, GAIN, ("Dividends", "dividends", -10_000, 0)), dividends(("Wharf Co", "10", 10_000)), back(30_000)),
        {"8": 20_000, "28": 5_000, "29b": 5_000, "30": 0}),
    # A tenth of 80,000, not of 60,000
    ("gifts are limited as if there was none", (profit(50_000, GAIN, ("Donations", "contributions", 9_000, 0)), back(20_000)),
     {"8": 10_000, "19": 8_000, "30": 52_000}),
    # 80% of 60,000
    ("operating losses are limited with it", (
        profit(50_000, GAIN), back(20_000, losses=((2022, 90_000),))),
        {"8": 10_000, "29a": 48_000, "30": 12_000}),
)  # fmt: skip


class CarriedBackTests(TestCase):
    def test_worked_by_hand(self):
        for called, papers, wanted in CASES:
            with self.subTest(called):
                lines = {one.number: one.value for one in result(*papers).run.form("us.1120").lines()}
                self.assertEqual({number: lines[number] for number in wanted}, wanted)

    def test_what_waited_is_used_before_it_and_the_rest_says_so(self):
        found = result(profit(50_000, GAIN), back(40_000, capital=((2022, 12_000),)))
        self.assertEqual((found.run.form("us.carryovers").capital_used, found.run.form("us.1120").back_used), (12_000, 18_000))
        says = next(one.says for one in found.findings if one.code == "us.1120.back-unused")
        self.assertIn("22,000", says)

    def test_by_amendment_the_tax_comes_back(self):
        again = corrected(result(profit(50_000, GAIN)), back(20_000), settled={"paid": "16800"})
        lines = {one.number: one.value for one in again.run.form("us.1120-x").lines()}
        self.assertEqual([lines[number] for number in ("1-B", "4-A", "4-C", "11", "12")], [-20_000, 16_800, 12_600, 4_200, 4_200])
        self.assertEqual(stops(again), set())
        self.assertNotIn("us.1120.back-first", [one.code for one in again.findings])

    def test_on_a_first_return_it_is_doubted(self):
        self.assertIn("us.1120.back-first", [one.code for one in result(profit(50_000, GAIN), back(20_000)).findings])

    def test_the_year_of_the_loss_keeps_what_was_not_used_earlier(self):
        loss = profit(50_000, ("Loss on stock", "long_gain", 25_000, 0))
        left = result(loss, paper("carryovers", capital_taken="20000")).run.form("us.carryovers")
        self.assertEqual((left.capital, left.capital_left()), (5_000, [{"from_year": "2025", "amount": "5000"}]))
        self.assertEqual(result(loss).run.form("us.carryovers").capital, 25_000)
        found = result(loss, paper("carryovers", capital_taken="26000"))
        self.assertIn("us.1120.taken-above", [one.code for one in found.findings])
        self.assertEqual(found.run.form("us.carryovers").capital, 0)
        self.assertNotIn(
            "us.1120.taken-above", [one.code for one in result(loss, paper("carryovers", capital_taken="20000")).findings]
        )


CODES = {"us.1120.back-unused", "us.1120.back-first", "us.1120.taken-above"}
