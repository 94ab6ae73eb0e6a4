"""One business as four kinds of entity: worked by hand, and everything that goes in comes out as taxes or is left."""

import random
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK, entity_choice
from taxcore.packs.us.entity_choice import Asked
from taxcore.packs.us.tests.diagnosed.making import paper
from taxcore.packs.us.tests.returns import couple, data, filing, person, result, w2
from taxcore.whatif.columns import total_tax

TEXAS = filing(residence="TX", state="TX")
BOOKS = paper("business", "b1", activity="Repair", code="811490", participates="yes", receipts="100000")


def business(run, key="b1"):
    return next((one for one in entity_choice.businesses(run) if one.key == key), None)


def kinds(found, profit, pay, **asked):
    rest = entity_choice.without(found.run, business(found.run))
    return {one.kind: one for one in entity_choice.compared(found, rest, Asked(Decimal(profit), Decimal(pay), **asked))}


class WorkedTests(TestCase):
    """2025, single, Texas, profit 100,000 and pay of 50,000; standard deduction 15,750."""

    @classmethod
    def setUpClass(cls):
        cls.found = kinds(result(person(), TEXAS, BOOKS), 100_000, 50_000)

    def test_sole_proprietorship(self):
        """Self-employment tax on 92,350: 11,451 and 2,678; half is 7,065. Income 92,935; a fifth of it less the standard deduction is
        15,437. Of 61,748 by the table's 61,725: 5,578.50 and 22% of 13,250."""
        one = self.found["sole"]
        self.assertEqual((one.self_employment, one.deduction), (14_129, 15_437))
        self.assertEqual((one.owner_tax, one.payroll, one.entity_tax), (14_129 + 8_494, 0, 0))
        self.assertEqual(one.left, 100_000 - 22_623)
        self.assertEqual(one.room, Decimal("18587.00"))  # a fifth of 92,935

    def test_s_corporation(self):
        """7.65% of 50,000 twice, and 42 of unemployment tax: 7,692. Income 50,000 and 46,133; a fifth of the latter, 9,227. Of 71,156
        by the table's 71,175: 5,578.50 and 22% of 22,700."""
        one = self.found["s-corp"]
        self.assertEqual((one.payroll, one.self_employment, one.deduction), (7_692, 0, 9_227))
        self.assertEqual((one.owner_tax, one.taxes), (10_573, 10_573 + 7_692))
        self.assertEqual(one.room, 12_500)  # a quarter of the pay

    def test_corporation(self):
        """21% of 46,133 is 9,687.93; dividends of 36,445.07. Ordinary income of 34,250, by the table's 34,275, is taxed 3,875; of the
        dividends 14,100 at nothing, 22,345 at 15%: 3,351.75."""
        one = self.found["c-corp"]
        self.assertEqual((one.entity_tax, one.dividends), (Decimal("9687.93"), Decimal("36445.07")))
        self.assertEqual(one.owner_tax, 3_875 + 3_352)
        self.assertEqual(one.left, 100_000 - one.taxes)

    def test_half_of_a_partnership(self):
        """Somebody else has the other half. Of 50,000: self-employment tax on 46,175, 7,065."""
        one = self.found["partnership"]
        self.assertEqual((one.profit, one.self_employment), (50_000, 7_065))

    def test_with_the_spouse_both_halves_are_on_the_return(self):
        found = kinds(couple(BOOKS, w2(30_000, owner="spouse", state="TX"), status="joint"), 100_000, 50_000, partner="spouse")
        one = found["partnership"]
        self.assertEqual(one.profit, 100_000)
        self.assertEqual(one.result.run.form("us.sch-1").entities, 100_000 - 1_485)  # Illinois takes 1.5% of 99,000 first
        self.assertEqual(one.entity_tax, 1_485)

    def test_illinois_takes_its_part_of_a_corporation(self):
        found = kinds(result(person(), BOOKS), 100_000, 50_000)["c-corp"]
        state = Decimal(100_000 - 50_000 - 3_867) * Decimal("0.095")
        self.assertEqual(found.entity_tax, round(state, 2) + round((46_133 - round(state, 2)) * Decimal("0.21"), 2))


class WholeTests(TestCase):
    def test_the_sole_proprietor_is_the_return_with_that_business(self):
        found = result(person(), TEXAS, w2(40_000, state="TX"), BOOKS)
        sole = kinds(found, 100_000, 0)["sole"]
        self.assertEqual(sole.result["us.1040.24"].value, found["us.1040.24"].value)

    def test_profit_is_taxes_and_what_is_left_and_order_never_matters(self):
        chance = random.Random(18)
        for _ in range(12):
            profit = chance.randrange(20_000, 400_000)
            pay = chance.randrange(profit // 2)
            papers = [w2(chance.randrange(1, 200_000), state="TX"), BOOKS]
            chance.shuffle(papers)
            for one in kinds(result(person(), TEXAS, *papers), profit, pay).values():
                self.assertEqual(one.left + one.taxes, one.profit)
                self.assertGreaterEqual(one.taxes, 0)

    def test_what_was_paid_to_the_business_goes_with_it(self):
        nec = paper("1099-nec", "n1", payer="Quay", amount="100000", business="b1")
        found = compute(PACK, data(person(), TEXAS, BOOKS, nec))
        self.assertEqual({one.kind for one in entity_choice.without(found.run, business(found.run)).papers}, {"person", "filing"})

    def test_a_share_of_an_s_corporation_with_its_wages(self):
        """50,000 of wages cost 3,825 and 42 more; with the share of 40,000 that is 93,867, and as an S corporation the return as it is."""
        share = paper("k1-1120s", "k1", entity="Quay Inc", entity_number="00-4455669", ordinary="40000", qualified_income="40000",
                      qualified_wages="50000", participates="yes", all_at_risk="yes")  # fmt: skip
        basis = paper("basis-s", "b", share="k1", begun="90000")
        paid = w2(50_000, state="TX", employer_number="00-4455669")
        found = result(person(), TEXAS, share, basis, paid, w2(9_000, key="other", state="TX"))
        (one,) = entity_choice.businesses(found.run)
        self.assertEqual((one.profit, one.pay), (93_867, 50_000))
        rest = entity_choice.without(found.run, one)
        self.assertEqual({(left.kind, left.id) for left in rest.papers} & one.papers, set())
        self.assertIn("other", {left.id for left in rest.papers})
        as_now = entity_choice.compared(found, rest, Asked(one.profit, one.pay))[2]
        self.assertEqual((as_now.kind, as_now.owner_tax), ("s-corp", total_tax(found)))

    def test_a_share_of_a_partnership_with_what_is_guaranteed(self):
        share = paper("k1-1065", "k1", entity="Quay LLC", entity_number="00-4455668", ordinary="40000", guaranteed="10000",
                      self_employment="50000", qualified_income="40000", participates="yes", all_at_risk="yes")  # fmt: skip
        found = result(person(), TEXAS, share, paper("business", "b1", receipts="9000", activity="Repair", code="811490"))
        self.assertEqual([(one.key, one.profit, one.pay) for one in entity_choice.businesses(found.run)],
                         [("b1", 9_000, 0), ("k1", 50_000, 0)])  # fmt: skip

    def test_pay_that_is_not_there(self):
        found = result(person(), TEXAS, BOOKS)
        for profit, pay in ((50_000, 49_000), (-1, 0), (10, -1)):
            with self.assertRaises(ValueError):
                kinds(found, profit, pay)

    def test_what_is_left_out_is_said(self):
        self.assertIn("Georgia", " ".join(entity_choice.notes(result(person(), filing(residence="GA", state="GA"), BOOKS).run)))
        self.assertEqual(len(list(entity_choice.notes(result(person(), TEXAS, BOOKS).run))), 1)
