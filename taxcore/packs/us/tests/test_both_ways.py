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


SIXTY, FORTY = w2(60_000, 6_000), w2(40_000, 3_000, "w2", "spouse")
LOAN = paper("1098-e", lender="Quarry Bank", interest="1800", owner="taxpayer")
CAR = paper("car-loan", "car", interest="900", lender="Lock Motors", vin="1HGCM82633A004352", loan_date="2025-03-01", new_for_owner="yes",
            assembled_here="yes", personal="yes")  # fmt: skip
STUDENT = paper("1098-t", "t1", payer="Galena College", payer_number="00-1122335", student="taxpayer", paid="4000", half_time="yes",
                degree="yes", four_years_done="no", convicted="no", graduate="no", years_claimed="0")  # fmt: skip
CARE = paper("care", "c1", provider="Wren Nursery", provider_address="3 Dock Road", number="00-1122334",
             costs=[{"id": "1", "person": "d1", "amount": "3000"}])  # fmt: skip

# What the law does to a couple; papers of 2025, Illinois; {attribute: (jointly, taxpayer alone, spouse alone)}
COUPLES = (
    ("the standard deduction is halved", (SIXTY, FORTY), {"us.1040.standard_deduction": (31_500, 15_750, 15_750)}),
    ("equal wages cost nothing: 88,500 by the table's 88,525, and twice 44,250 by 44,275", (SIXTY, w2(60_000, 0, "w2", "spouse")),
     {"us.1040.tax": (10_146, 5_075, 5_075)}),
    ("student loan interest: none apart, IRC 221(e)(2)", (SIXTY, FORTY, LOAN), {"us.sch-1.student_loans": (1_800, 0, 0)}),
    ("care: none apart, IRC 21(e)(2); 20% of 3,000", (SIXTY, FORTY, child(born="2018-05-05"), CARE), {"us.sch-3.care": (600, 0, 0)}),
    ("education: none apart, IRC 25A(g)(6)", (SIXTY, FORTY, STUDENT), {"us.1040.education_paid": (1_000, 0, 0)}),
    ("earned income credit: none apart, IRC 32(d); the most with one child", (
        w2(15_000), w2(5_000, 0, "w2", "spouse"), child()), {"us.1040.earned_income_credit": (4_328, 0, 0)}),
    ("benefits are taxed from the first dollar apart, IRC 86(c)(1)(C): 85% of half of 10,000", (
        paper("ssa-1099", "s1", net="10000"), w2(20_000, 0, "w2", "spouse")), {"us.1040.taxable_benefits": (0, 4_250, 0)}),
    ("a capital loss: 3,000, or 1,500, IRC 1211(b)", (SIXTY, FORTY, paper(
        "1099-b", "b1", payer="Sandbar", sales=[{"id": "1", "box": "A", "proceeds": "1000", "basis": "9000", "sold": "2025-05-05"}])),
     {"us.1040.capital_gain": (-3_000, -1_500, 0)}),
    ("the child credit falls from 200,000 apart, IRC 24(b)(2)", (w2(350_000), FORTY, child()), {"us.1040.child_credit": (2_200, 0, 0)}),
    ("investment tax: from 250,000, or 125,000, IRC 1411(b); 3.8% of half of 10,000", (
        w2(180_000), w2(60_000, 0, "w2", "spouse"), interest(10_000, owner="joint")), {"us.8960.tax": (0, 190, 0)}),
    ("additional Medicare tax: 0.9% above 125,000 apart", (w2(180_000), w2(60_000, 0, "w2", "spouse")), {"us.8959.tax": (0, 495, 0)}),
    ("an IRA beside a plan: 10,000 ends it apart, IRC 219(g)(3)(B)(iii)", (
        w2(60_000, retirement_plan="yes"), FORTY, paper("ira", "r1", traditional="7000")), {"us.sch-1.ira": (7_000, 0, 0)}),
    ("tips: only jointly, IRC 224(f)", (w2(60_000, others=[{"id": "1", "kind": "tips", "amount": "5000"}]), FORTY),
     {"us.1040.additional_deductions": (5_000, 0, 0)}),
    ("interest on a car: either way", (SIXTY, FORTY, CAR), {"us.1040.additional_deductions": (900, 900, 0)}),
    ("the cap of state taxes: 40,000, or 20,000 each, IRC 164(b)(6)", (
        w2(200_000), w2(200_000, 0, "w2", "spouse"), paper("itemized", state_income_tax="50000")),
     {"us.sch-a.taxes_capped": (40_000, 20_000, 20_000)}),
    ("withholding stays with whoever was withheld from", (SIXTY, FORTY), {"us.1040.withheld": (9_000, 6_000, 3_000)}),
    ("the exemption of Illinois: one each", (SIXTY, FORTY), {"us-il.il-1040.exemptions": (5_700, 2_850, 2_850)}),
)  # fmt: skip


class CouplesTests(TestCase):
    def test_what_the_law_does_by_hand(self):
        for catches, papers, wanted in COUPLES:
            found = both_ways.both_ways(couple(*papers), Division())
            for name, amounts in wanted.items():
                form, _, attribute = name.rpartition(".")
                with self.subTest(catches, name=name):
                    results = (found.joint, *(found.each[role] for role in both_ways.ROLES))
                    self.assertEqual(tuple(getattr(one.run.form(form), attribute) for one in results), amounts)


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
