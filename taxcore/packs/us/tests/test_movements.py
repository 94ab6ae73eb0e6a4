"""Why a return comes out otherwise than last year's: worked by hand, and causes that add up on any two returns."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from taxcore.engine import PaperValues
from taxcore.engine.movements import against_last_year
from taxcore.engine.result import figures
from taxcore.packs.us.tests.returns import filing, interest, person, result, w2
from taxcore.packs.us.tests.test_any_return import random_result


def business(receipts, **values):
    named = {"owner": "taxpayer", "business_name": "Ferns", "receipts": receipts, "code": "541990", "method": "cash"}
    return PaperValues("b1", "business", named | {"participates": "yes", "service_trade": "no"} | values)


def told(now, before, most=9):
    return {head.kind: head for head in against_last_year(now, figures(before), most)}


class MovementTests(TestCase):
    def test_a_business_more_wages_and_less_interest(self):
        """Wages 6,000 more, a business of 12,000, interest 300 less: 17,700 of income; self-employment tax
        12,000 x 0.9235 x 0.153 = 1,695.55; 100 more withheld. Schedule B is called for by neither year."""
        before = result(person(), filing(), w2("60000", "6000"), interest("500"), year=2024)
        now = result(person(), filing(), w2("66000", "6100"), interest("200"), business("12000"), year=2025)
        heads = told(now, before)
        income = [(one.number, one.change) for one in heads["income"].causes]
        self.assertEqual((heads["income"].change, income), (17700, [("31", 12000), ("1z", 6000), ("2b", -300)]))
        self.assertIn(("12", Decimal(1695)), [(one.number, one.change) for one in heads["tax"].causes])
        paid = [(one.number, one.change) for one in heads["paid"].causes]
        self.assertEqual((heads["paid"].change, paid), (100, [("25a", 100)]))

    def test_a_schedule_that_was_not_called_for_then_is_no_cause_of_all_its_amount(self):
        before = result(person(), filing(), w2("60000", "6000"), interest("1400"), year=2024)
        now = result(person(), filing(), w2("60000", "6000"), interest("1700"), year=2025)
        self.assertEqual([(one.number, one.change) for one in told(now, before)["income"].causes], [("2b", 300)])

    def test_the_largest_come_first_and_no_more_than_asked_for(self):
        before = result(person(), filing(), w2("60000", "6000"), year=2024)
        now = result(person(), filing(), w2("61000", "6000"), interest("200"), business("12000"), year=2025)
        causes = told(now, before, 2)["income"].causes
        self.assertEqual([one.change for one in causes], [12000, 1000])

    def test_without_last_years_lines_nothing_is_said(self):
        self.assertEqual(against_last_year(result(person(), filing(), w2("60000", "6000")), {}), [])

    @settings(max_examples=15, deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(st.randoms(use_true_random=False))
    def test_causes_add_up_on_any_two_returns(self, chance):
        now, before = random_result(chance), random_result(chance)
        for head in against_last_year(now, figures(before), 999):
            if head.causes or (
                head.kind == "income" and head.change
            ):  # nothing is told where a limit, or a penalty, is in between
                self.assertEqual(sum((one.change for one in head.causes), Decimal(0)), head.change, head.kind)
