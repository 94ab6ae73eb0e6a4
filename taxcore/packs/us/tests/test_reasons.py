"""What a line says of itself: why it is zero names the real cause, and a line that only carries another says which."""

from unittest import TestCase

from taxcore.engine import words
from taxcore.packs.us.tests.diagnosed.making import paper, rows
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import child, filing, person, result, w2


class ReasonTests(TestCase):
    def test_a_spouse_without_a_wage_statement_is_the_cause(self):
        cared = paper("care", "c1", rows=rows({"provider": "Reed House", "amount": "3000"}))
        found = result(
            person(), person("spouse", first_name="Wren"), filing("joint"), child("d1", born="2019-03-03"), w2(50_000), cared
        )
        self.assertEqual(words.why_zero(found.run.form("us.earned-income", "spouse").cell("earned")), "Wren has no W-2")
        self.assertEqual(words.why_zero(found.run.form("us.2441").cell("spouses_earned")), "Wren has no W-2")

    def test_a_carried_line_says_where_from(self):
        found = result(w2(50_000), shop(receipts="40000"))
        said = words.plain(found["us.1040.13a"])
        self.assertRegex(said, r"^From Form 8995, line 15 = [\d,]+$")
        self.assertNotIn("Sum of", words.plain(found["us.1040.8"]))

    def test_an_owner_with_a_plan_of_the_business_is_an_active_participant(self):
        """IRC 219(g)(5)(A)(v): the same return with and without a SEP."""
        without, with_plan = (
            result(
                person(),
                filing("single"),
                w2(108_200),
                shop(receipts="40000", **more),
                paper("ira", "i1", owner="taxpayer", traditional="7000"),
            )
            for more in ({}, {"sep": "5000"})
        )
        self.assertFalse(without.run.form("us.ira-deduction", "taxpayer").covered)
        self.assertTrue(with_plan.run.form("us.ira-deduction", "taxpayer").covered)
        self.assertEqual((without["us.sch-1.20"].value > 0, with_plan["us.sch-1.20"].value), (True, 0))
