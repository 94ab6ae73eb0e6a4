"""Jointly and separately: worked by hand, nothing lost on the way, and stopped where the law divides otherwise."""

import random
from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us import both_ways
from taxcore.packs.us.dividing import Division
from taxcore.packs.us.tests.diagnosed.making import paper
from taxcore.packs.us.tests.returns import child, couple, interest, result, w2
from taxcore.whatif.columns import together


class WorkedTests(TestCase):
    def test_two_unequal_wages_by_hand(self):
        """2025, Illinois: wages 150,000 and 30,000, interest of both 1,000.

        Jointly 181,000 - 31,500 = 149,500: 10% to 23,850, 12% to 96,950, 22% above: 2,385 + 8,772 + 11,561 = 22,718.
        First 150,500 - 15,750 = 134,750: 1,192.50 + 4,386 + 12,072.50 + 24% of 31,400 = 25,187. Second 30,500 - 15,750 = 14,750,
        by the table's step 14,775: 1,192.50 + 12% of 2,850 = 1,534.50, so 1,535. Separately the thresholds are 125,000: additional
        Medicare tax 0.9% of 25,000, 3.8% of the 500 of interest. IRC 3101(b)(2)(B), 1411(b)(2). Illinois at 4.95%: jointly 8,677 on
        175,300; alone 7,309 on 147,650 and 1,369 on 27,650.
        """
        found = both_ways.both_ways(
            couple(w2(150_000, 20_000), w2(30_000, 3_000, "w2", "spouse"), interest(1_000, owner="joint")), Division()
        )
        tax = next(row for row in found.rows if row.line.address == "us.1040.16")
        self.assertEqual((tax.joint, tax.each), (22_718, (25_187, 1_535)))
        self.assertEqual(found.saves, (22_718 + 8_677) - (25_187 + 225 + 19 + 1_535) - (7_309 + 1_369))

    def test_a_credit_that_neither_has_alone_is_named(self):
        """Student loan interest is not deducted by who is married and files separately: IRC 221(e)(2)."""
        loan = paper("1098-e", lender="Quarry Bank", interest="1800", owner="taxpayer")
        found = both_ways.both_ways(couple(w2(60_000), w2(40_000, 0, "w2", "spouse"), loan), Division())
        self.assertIn("Student loan interest", " ".join(row.line.label for row in found.lost))
        self.assertLess(found.saves, 0)

    def test_whose_a_paper_is(self):
        found = both_ways.both_ways(
            couple(w2(60_000), w2(40_000, 0, "w2", "spouse"), interest(900, owner="joint"), child()), Division("spouse")
        )
        self.assertEqual([one.whose for one in found.divided], ["spouse", "taxpayer", "spouse", ""])
        credit = next(row for row in found.rows if row.line.address == "us.1040.24")
        self.assertGreater(credit.each[0], credit.each[1])  # the child is with the spouse


class WholeTests(TestCase):
    def test_nothing_is_lost_between_the_two(self):
        """Wages, interest, withholding and total income of both are those of the couple, for twenty couples and either holder."""
        for number in range(20):
            chance = random.Random(number)
            papers = [w2(chance.randrange(200_000), chance.randrange(20_000)),
                      w2(chance.randrange(90_000), chance.randrange(9_000), "w2", "spouse"),
                      interest(chance.randrange(9_999), owner="joint"), *([child()] if chance.random() < 0.5 else [])]  # fmt: skip
            joint = couple(*papers)
            for holder in both_ways.ROLES:
                found = both_ways.both_ways(joint, Division(holder))
                for line in ("1z", "2b", "25d", "9"):
                    address = f"us.1040.{line}"
                    wanted = joint[address].value
                    parts = sum((one[address].value for one in found.each.values()), Decimal(0))
                    self.assertLessEqual(abs(parts - wanted), 1, (number, line))  # a dollar rounded twice
                self.assertEqual(found.saves, sum(together(one) for one in found.each.values()) - together(joint))


class StopTests(TestCase):
    def test_where_there_is_no_comparison(self):
        from taxcore.packs.us.tests.returns import filing, person

        for found, words in (
            (result(w2(50_000)), "filing status"),
            (
                result(person(), person("spouse"), filing("joint", residence="WI"), w2(50_000)),
                "Wisconsin is a community property",
            ),
            (result(person(), person("spouse", death_date="2025-04-01"), filing("joint"), w2(50_000)), "living"),
        ):
            with self.subTest(words):
                self.assertIn(words, both_ways.why_not(found.run))
                with self.assertRaises(ValueError):
                    both_ways.both_ways(found, Division())
