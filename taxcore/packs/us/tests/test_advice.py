"""Advice is computed: room, what using it saves, how far the next band is, together or apart; ratios against the table."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.advice import advice
from taxcore.packs.us.peers import comparisons, table
from taxcore.packs.us.tests.diagnosed.making import cover, paper, wage
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import couple, interest, person, result, w2


def items(found):
    return {one.key: one for one in advice(found)}


class AdviceTests(TestCase):
    def test_an_ira_saves_its_tax_of_both_authorities(self):
        """7,000 less income: 12% of it federal by the table, 4.95% of it in Illinois."""
        one = items(result(wage(60_000, 5_000)))["ira-taxpayer"]
        self.assertEqual(dict(one.facts)["Room"], 7_000)
        federal = Decimal(840)  # 12% of 7,000, table to table
        illinois = Decimal("346.5")  # 4.95% of 7,000, in whole dollars
        self.assertAlmostEqual(one.saves, federal + illinois, delta=4)

    def test_room_falls_with_what_was_paid_and_with_pay(self):
        self.assertEqual(dict(items(result(wage(), paper("ira", roth="3000")))["ira-taxpayer"].facts)["Room"], 4_000)
        self.assertEqual(dict(items(result(w2(2_000)))["ira-taxpayer"].facts)["Room"], 2_000)
        self.assertNotIn("ira-taxpayer", items(result(interest("9000"))))
        self.assertEqual(dict(items(result(person(born="1975-12-31"), wage()))["ira-taxpayer"].facts)["Room"], 8_000)

    def test_an_ira_that_saves_nothing_is_not_shown_unasked(self):
        one = items(result(wage(200_000, retirement_plan="yes")))["ira-taxpayer"]
        self.assertEqual((one.saves, one.shown), (0, False))

    def test_health_savings_and_own_plans(self):
        found = items(result(wage(), cover(paid_in="1000")))["hsa-taxpayer"]
        self.assertEqual(dict(found.facts)["Contribution limit"], 4_300)
        self.assertIn("3,300", found.says)
        self.assertGreater(items(result(shop()))["sep-taxpayer"].saves, 0)

    def test_the_distance_to_the_next_band(self):
        facts = dict(items(result(wage(60_000)))["bands"].facts)
        self.assertEqual(facts["Taxable income"], 44_250)
        self.assertEqual(facts["Room to the next bracket"], 48_475 - 44_250)
        self.assertEqual((facts["Highest marginal rate"], facts["Next bracket rate"]), ("12%", "22%"))
        self.assertNotIn("Room to the next bracket", dict(items(result(wage(900_000)))["bands"].facts))

    def test_together_or_apart_is_computed_both_ways(self):
        one = items(couple(w2(200_000, 30_000), w2(20_000, 1_000, "w2", "spouse")))["apart"]
        facts = dict(one.facts)
        self.assertGreater(facts["Joint"], facts["Two returns"])
        self.assertIsNone(one.saves)
        self.assertNotIn("apart", items(result(wage())))

    def test_nothing_is_advised_on_an_empty_return(self):
        self.assertEqual(advice(result()), [])

    def test_ideas_of_the_diagnostics_are_offered_and_off(self):
        found = [
            one
            for one in advice(result(wage(), paper("gift", charity="L", gift_kind="cash", amount="90")))
            if one.key.startswith("idea-")
        ]
        self.assertTrue(found)
        self.assertFalse(any(one.shown for one in found))


class PeerTests(TestCase):
    def test_shares_of_receipts_against_the_sector(self):
        one = comparisons(result(shop(receipts="10000", supplies="1", rent_property="2000", code="541330")))[0]
        rent = next(ratio for ratio in one.ratios if ratio.label == "Rent")
        self.assertEqual((rent.percent, rent.low, rent.high, rent.stands), (Decimal("20.0"), 0, 10, "above"))
        self.assertTrue(one.made_up)
        self.assertIn("not statistics", one.source)

    def test_no_business_no_comparison(self):
        self.assertEqual(comparisons(result(wage())), [])

    def test_every_sector_has_every_ratio_within_bounds(self):
        known = table()
        for name, sector in known["sectors"].items():
            with self.subTest(name):
                self.assertEqual(set(sector), set(known["labels"]))
                self.assertTrue(all(0 <= low < high <= 100 for low, high in sector.values()))
