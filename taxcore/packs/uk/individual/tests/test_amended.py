"""Amended returns by hand: what is to be paid or repaid besides, and that one which changes nothing does not go out."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import Amends, AsFiled, compute
from taxcore.packs.uk.individual import PACK
from taxcore.packs.uk.individual.tests.test_worked import paper, pay, result, savings

D = Decimal


class AmendedTests(TestCase):
    def amended(self, first, *papers):
        """The return of these papers after that of `first` was accepted."""
        lines = {cell.address: cell.value for cell in first.lines() if cell.is_amount}
        filed = Amends(filed={"uk": AsFiled(date(2026, 11, 2), "R-1", lines)})
        explained = paper("amendment", explanation="Interest that was forgotten.")
        return compute(PACK, replace(result(*papers, explained).run.everything, amends=filed))

    def test_interest_of_1500_that_was_forgotten_costs_400(self):
        """Paid with the first return: 432. 500 of the interest are free, 1,000 at 40%."""
        made = self.amended(result(pay(60_000, "11000")), pay(60_000, "11000"), savings(1_500))
        summary = made.run.form("uk.sa110")
        self.assertEqual((summary.due, summary.owed, summary.repaid), (D("832.00"), D("400.00"), 0))
        self.assertEqual([one.code for one in made.findings if one.weight == "stops"], [])

    def test_less_pay_is_repaid_besides_what_was_repaid(self):
        """The first return repaid 568; 1,000 of pay less is 400 more."""
        made = self.amended(result(pay(60_000, "12000")), pay(59_000, "12000"))
        summary = made.run.form("uk.sa110")
        self.assertEqual((summary.overpaid, summary.repaid, summary.owed), (D("968.00"), D("400.00"), 0))

    def test_one_that_changes_nothing_stops_unless_it_is_sent_all_the_same(self):
        first = result(pay(60_000, "11000"))
        self.assertIn("uk.amendment-nothing", {one.code for one in self.amended(first, pay(60_000, "11000")).findings})
        self.assertNotIn("uk.amendment-nothing", {one.code for one in self.amended(first, pay(60_001, "11000")).findings})

    def test_until_the_31st_of_january_after_the_next(self):
        run = result(pay(60_000)).run
        self.assertEqual(PACK.correcting.claimable_until(run, PACK.authority("uk")), date(2028, 1, 31))
