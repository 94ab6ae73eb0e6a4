"""Share matching by hand, and what must hold of any list of deals."""

import random
from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from taxcore.packs.uk.individual.pool import Deal, NotMatched, matched
from taxcore.packs.uk.individual.tests.test_worked import paper, pay, result
from taxcore.packs.uk.individual.tests.test_worked import sold as single_sale

D = Decimal


def bought(day, number, amount):
    return Deal(date.fromisoformat(day), True, D(number), D(amount))


def sold(day, number, amount):
    return Deal(date.fromisoformat(day), False, D(number), D(amount))


# What it catches; deals; [(proceeds, cost, [how])]; what is left in the pool (number, cost)
CASES = (
    ("from the pool, at its average: 1,000 at 4 and 500 at 5", (
        bought("2015-04-01", 1_000, 4_000), bought("2018-09-01", 500, 2_500), sold("2024-05-01", 700, 3_360)),
     [(3_360, D("6500") * 700 / 1500, ["pool"])], (800, D("6500") - D("6500") * 700 / 1500)),
    ("same day before the pool", (bought("2020-01-01", 100, 100), bought("2024-06-03", 50, 300), sold("2024-06-03", 80, 500)),
     [(500, 300 + 30, ["same day", "pool"])], (70, 70)),
    ("bought back within thirty days", (bought("2020-01-01", 100, 100), sold("2024-06-03", 80, 500), bought("2024-07-03", 80, 520)),
     [(500, 520, ["thirty days"])], (100, 100)),
    ("on the thirty-first day it joins the pool", (
        bought("2020-01-01", 100, 100), sold("2024-06-03", 80, 500), bought("2024-07-04", 80, 520)), [(500, 80, ["pool"])], (100, 540)),
    ("the earlier of two purchases first", (
        bought("2020-01-01", 100, 100), sold("2024-06-03", 60, 500), bought("2024-06-10", 40, 280), bought("2024-06-20", 40, 320)),
     [(500, 280 + 160, ["thirty days", "thirty days"])], (120, 260)),
    ("sold twice, bought back once: the earlier sale has it", (
        bought("2020-01-01", 100, 100), sold("2024-06-03", 30, 90), sold("2024-06-05", 30, 90), bought("2024-06-10", 30, 75)),
     [(90, 75, ["thirty days"]), (90, 30, ["pool"])], (70, 70)),
    ("two sales of a day are one", (bought("2020-01-01", 100, 100), sold("2024-06-03", 10, 50), sold("2024-06-03", 20, 110)),
     [(160, 30, ["pool"])], (70, 70)),
)  # fmt: skip


class InTheReturnTests(TestCase):
    def shares(self, *deals):
        rows = [{"id": str(place), "day": one.day.isoformat(), "what": "bought" if one.bought else "sold", "number": f"{one.number:f}",
                 "amount": f"{one.amount:f}"} for place, one in enumerate(deals, 1)]  # fmt: skip
        return paper("shares", company="Loch plc", deals=rows)

    def test_only_disposals_of_the_year_and_beside_single_ones(self):
        """2024-25: 1,000 bought for 4,000, 300 sold in March 2024 for 3,000, 500 in June for 9,000: a gain of 7,000; and one of 2,000.
        Of 9,000 less the exempt 3,000, 20%."""
        held = self.shares(bought("2015-04-01", 1_000, 4_000), sold("2024-03-01", 300, 3_000), sold("2024-06-03", 500, 9_000))
        other = single_sale({"day": "2024-07-01", "proceeds": "5000", "costs": "3000"})
        found = result(pay(60_000), held, other, year=2024).run
        self.assertEqual((found.form("uk.sa108").gains, found.form("uk.sa108").disposals), (9_000, 2))
        self.assertEqual(found.form("uk.gains-tax").tax, 1_200)

    def test_more_sold_than_bought_stops(self):
        found = result(pay(60_000), self.shares(bought("2015-04-01", 10, 40), sold("2025-06-01", 20, 90)))
        self.assertIn("uk.shares-unmatched", {one.code for one in found.findings})


class MatchingTests(TestCase):
    def test_by_hand(self):
        for catches, deals, wanted, left in CASES:
            with self.subTest(catches):
                disposals, balances = matched(deals)
                self.assertEqual([(one.proceeds, one.cost, [match.how for match in one.matches]) for one in disposals], wanted)
                self.assertEqual((balances[-1].number, balances[-1].cost), left)

    def test_more_than_there_was(self):
        with self.assertRaisesRegex(NotMatched, "20 more shares were sold by 3 June 2024"):
            matched([bought("2020-01-01", 100, 100), sold("2024-06-03", 120, 500)])
        with self.assertRaises(NotMatched):
            matched([bought("2020-01-01", 0, 100)])

    def test_nothing_is_lost_and_order_of_entry_never_matters(self):
        """Every share and every pound that came in went out with a disposal or is in the pool."""
        for number in range(150):
            chance = random.Random(f"pool {number}")
            day, held, deals = date(2023, 4, 6), 0, []
            for _ in range(chance.randrange(2, 14)):
                day += timedelta(days=chance.choice((0, 1, 9, 29, 30, 31, 80)))
                if held and chance.random() < 0.5:
                    count = chance.randrange(1, held + 1)
                    held -= count
                    deals.append(Deal(day, False, D(count), D(chance.randrange(1, 9_000))))
                else:
                    count = chance.randrange(1, 500)
                    held += count
                    deals.append(Deal(day, True, D(count), D(chance.randrange(1, 9_000))))
            disposals, balances = matched(deals)
            with self.subTest(number):
                self.assertEqual(balances[-1].number, held)
                spent = sum(one.amount for one in deals if one.bought)
                self.assertAlmostEqual(sum(one.cost for one in disposals) + balances[-1].cost, spent, 6)
                self.assertTrue(all(sum(match.number for match in one.matches) == one.number for one in disposals))
                self.assertTrue(all(one.number >= 0 and one.cost >= D("-0.000001") for one in balances))
                chance.shuffle(deals)
                self.assertEqual(matched(deals), (disposals, balances))
