"""Curves and goals, against law and against single computations."""

import random
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import child, data, filing, interest, person, w2
from taxcore.whatif.columns import together, total_tax
from taxcore.whatif.curves import curve
from taxcore.whatif.differences import Difference, Place, with_differences
from taxcore.whatif.seeking import seek
from taxcore.whatif.trials import Trials

HERE = data(person(), filing(), w2(60000, 8000), interest(500))
PAPER = next(paper.id for paper in HERE.papers if paper.kind == "w2")
WAGES, WITHHELD = Place("w2", PAPER, "wages"), Place("w2", PAPER, "federal_withheld")


def single(place, amount, of=total_tax, there=HERE):
    return of(compute(PACK, with_differences(PACK, there, [Difference(place, f"{amount:f}")])))


class CurveTests(TestCase):
    def drawn(self, low, high, there=HERE):
        return curve(compute(PACK, there), Trials(PACK), WAGES, Decimal(low), Decimal(high))

    def test_points_are_what_single_computations_give(self):
        points, chance = self.drawn(0, 300_000).points, random.Random(3)
        self.assertLessEqual(len(points), 201)
        for amount, tax in chance.sample(points, 50):
            self.assertEqual(tax, single(WAGES, amount))

    def test_bends_are_where_the_law_has_them_and_carry_its_name(self):
        """Single, 2025, with 500 of interest and 15,750 of standard deduction: the rates of 22, 24 and 32 percent begin above taxable
        income of 48,475, 103,350 and 197,300; Illinois drops its exemption above 250,000 of income."""
        drawn = self.drawn(0, 300_000)
        for where, rise in ((63_725, ".10"), (118_600, ".02"), (212_550, ".08")):
            near = [bend for bend in drawn.bends if abs(bend.at - where) <= drawn.step]
            self.assertEqual([bend.names for bend in near], [("Tax (1040, line 16)",)], where)
            self.assertAlmostEqual(near[0].rates[1] - near[0].rates[0], Decimal(rise), 2)
        near = [name for bend in drawn.bends if abs(bend.at - 200_000) <= 2 * drawn.step for name in bend.names]
        self.assertTrue(any("8959" in name for name in near), near)  # additional Medicare tax
        (cliff,) = [bend for bend in drawn.bends if bend.jump]
        self.assertEqual((cliff.at, round(cliff.jump)), (249_501, 141 + 1))  # 2,850 at 4.95 percent is 141.08, and its rounding
        self.assertIn("IL-1040, line 10a", cliff.names[0])
        before, after = single(WAGES, 249_500), single(WAGES, 249_501)
        self.assertGreater(after - before, 140)

    def test_a_stair_is_said_once(self):
        """The child tax credit falls by 50 for each 1,000 above 200,000."""
        there = data(person(), filing(), w2(60000, 8000), child())
        drawn = self.drawn(199_000, 239_000, there)
        stair = max(drawn.bends, key=lambda bend: bend.times)
        self.assertEqual((stair.names, stair.cites), (("Excess income, next 1,000 (Schedule 8812, line 10)",), "IRC 24(b)(1)"))
        self.assertEqual((round(stair.jump), stair.times + len(drawn.bends) - 1, stair.until), (50, 39, 238_001))

    def test_a_range_that_is_none_is_refused(self):
        with self.assertRaises(ValueError):
            self.drawn(1000, 1300)


class SeekTests(TestCase):
    def sought(self, place, of, wanted, low, high, near):
        trials = Trials(PACK)
        return seek(compute(PACK, HERE), trials, place, of, *(Decimal(one) for one in (wanted, low, high, near)))

    def test_the_answer_keyed_gives_what_was_wanted(self):
        found = self.sought(WITHHELD, together, 0, 0, 50_000, 8000)
        self.assertTrue(found.exact)
        self.assertEqual(single(WITHHELD, found.entered, together), 0)
        for wanted in random.Random(4).sample(range(-3000, 9000), 12):
            found = self.sought(WITHHELD, together, wanted, 0, 50_000, 8000)
            self.assertEqual((found.exact, single(WITHHELD, found.entered, together)), (True, wanted))

    def test_where_no_unit_hits_it_the_two_next_to_it_are_said(self):
        found = self.sought(WAGES, total_tax, 10_001, 0, 200_000, 60_000)
        self.assertFalse(found.exact)
        low, high = single(WAGES, found.entered - 1), single(WAGES, found.entered + 1)
        self.assertTrue(low <= 10_001 <= high)
        self.assertIn("No whole amount", found.says)

    def test_why_there_is_no_answer(self):
        self.assertIn("does not move", self.sought(WITHHELD, total_tax, 1, 0, 50_000, 8000).says)
        found = self.sought(WAGES, total_tax, -900_000, 0, 100_000, 60_000)
        self.assertIsNone(found.entered)
        self.assertIn("no further", found.says)
