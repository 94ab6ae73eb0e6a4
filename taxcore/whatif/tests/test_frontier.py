"""An amount divided over two years: by hand, never dearer than on one side, and equal to columns worked out one by one."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import CannotRoll, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.diagnosed.making import paper
from taxcore.packs.us.tests.returns import data, filing, person, w2
from taxcore.whatif.columns import RETURN, Column, total_tax, worked_out
from taxcore.whatif.differences import ADDED, REMOVED, Difference, Place
from taxcore.whatif.frontier import Side, frontier

CONVERTED = Place("1099-r", "r1", "taxable")
HERE = compute(PACK, data(
    person(born="1960-05-05"), filing(residence="TX", state="TX"), w2(60_000, state="TX"),
    paper("1099-r", "r1", payer="Tern", gross="200000", taxable="0", code="7", ira="no"),
))  # fmt: skip
RETIRED = Column("b", RETURN, 1, (Difference(Place("w2", "w1"), REMOVED),))


class FrontierTests(TestCase):
    def test_convert_when_retired(self):
        """Wages of 60,000 this year, none the next: there 16,100 and 2,050 and the senior deduction of 6,000 stand free, then 10%
        to 12,400: the first 24,000 cost nothing next year, and 12% and more this year. Texas has no income tax."""
        found = frontier(HERE, [RETIRED], Side(RETURN, CONVERTED), Side("b", CONVERTED), Decimal(24_000))
        self.assertEqual([one.first for one in found.best], [0] * 13)
        self.assertLessEqual(found.best[-1].tax, found.best[0].tax + 4)
        self.assertGreater(found.all_first[-1].tax - found.best[-1].tax, 2_000)

    def test_more_than_a_year_holds_goes_to_both(self):
        """Of 240,000 no side alone is best, and what is found costs least of all divisions by columns worked out one by one."""
        first, second = Side(RETURN, CONVERTED), Side("b", CONVERTED)
        found = frontier(HERE, [RETIRED], first, second, Decimal(240_000), steps=6)
        last = found.best[-1]
        self.assertTrue(0 < last.first < 240_000)
        self.assertLess(last.tax, min(found.all_first[-1].tax, found.all_second[-1].tax))
        taxes = {}
        for step in range(7):
            now = Column("a", differences=(Difference(CONVERTED, f"{step * 40_000}"),))
            later = Column("b", "a", 1, (*RETIRED.differences, Difference(CONVERTED, f"{240_000 - step * 40_000}")))
            out = worked_out(HERE, [now, later])
            taxes[step * 40_000] = sum(total_tax(one.result) for one in out.values())
        self.assertLessEqual(last.tax, min(taxes.values()) + 4)  # rounded lines
        self.assertEqual(taxes[int(last.first)], last.tax)

    def test_never_dearer_than_one_side_alone(self):
        found = frontier(HERE, [RETIRED], Side(RETURN, CONVERTED), Side("b", CONVERTED), Decimal(90_000))
        for best, one, other in zip(found.best, found.all_first, found.all_second, strict=True):
            self.assertLessEqual(best.tax, min(one.tax, other.tax) + 4)
            self.assertEqual({best.total, one.total, other.total}, {best.total})
        self.assertEqual((len(found.rates()), found.best[-1].total), (12, 90_000))
        rounded = frontier(HERE, [RETIRED], Side(RETURN, CONVERTED), Side("b", CONVERTED), Decimal(50_000), steps=3)
        self.assertEqual(rounded.best[-1].total, 50_100)  # up to whole steps of fifty

    def test_what_is_no_question(self):
        one, other = Side(RETURN, CONVERTED), Side("b", CONVERTED)
        for sides, most in (((one, one), 9_000), ((one, other), 0)):
            with self.assertRaises(ValueError):
                frontier(HERE, [RETIRED], *sides, Decimal(most))
        gone = Column("b", "x", 1, (Difference(Place("w2", "n"), ADDED),))
        with self.assertRaises(CannotRoll):
            frontier(HERE, [gone], one, other, Decimal(9_000))
