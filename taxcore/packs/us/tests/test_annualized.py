"""Form 2210, Schedule AI, worked by hand from IRC 6654(d)(2) for 2024: tax by the table, interest by days, at 8% and then 7%."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, result, shop
from taxcore.packs.us.tests.returns import filing, interest, person

D = Decimal
A, U = "us.2210-ai.", "us.2210."
LAST_YEAR = PaperValues("prior-year", "prior-year", {"adjusted_gross_income": "120000", "tax": "20000", "whole_year": "yes"})


def penalty(**values):
    return PaperValues("penalty", "penalty", {"annualise": "yes"} | values)


def periods(**values):
    return PaperValues("annualized", "annualized", {name: str(value) for name, value in values.items()})


def saved():
    """100,000 of interest: taxable 85,400, tax 13,847; 90% of it is 12,462, a quarter of that 3,116."""
    return (interest(100_000), LAST_YEAR)


LATE = periods(income_a=0, income_b=0, income_c=0)
EVEN = periods(income_a=10_000, income_b=20_000, income_c=40_000)
CASES = (
    ("all of it came in the last months", (*saved(), penalty(), LATE), 2024, {
        U + "4": 13_847, U + "9": 12_462, A + "27-A": 0, A + "27-B": 0, A + "27-C": 0, A + "23-D": 12_462, A + "27-D": 12_462, U + "19": 215}),
    ("without the method", (*saved(),), 2024, {U + "10": 3_116, U + "19": 628}),
    ("more of it late than early", (*saved(), penalty(), EVEN), 2024, {
        A + "3-A": 40_000, A + "13-A": 25_400, A + "14-A": 2_819, A + "21-A": 634, A + "27-A": 634,
        A + "3-B": 48_000, A + "14-B": 3_779, A + "21-B": 1_701, A + "22-B": 634, A + "23-B": 1_067, A + "26-B": 5_598, A + "27-B": 1_067,
        A + "3-C": 60_000, A + "14-C": 5_219, A + "21-C": 3_523, A + "26-C": 7_647, A + "27-C": 1_822,
        A + "21-D": 12_462, A + "26-D": 8_941, A + "27-D": 8_939, U + "19": 350}),
    ("never more than the regular installments", (*saved(), penalty(), periods(income_a=90_000, income_b=95_000, income_c=99_000)), 2024, {
        A + "27-A": 3_116, A + "27-B": 3_116, A + "27-C": 3_116, A + "25-B": 0}),
    ("itemized where they are more, gain at its own rates", (*saved(), penalty(), periods(
        income_a=30_000, itemized_a=5_000, preferred_a=10_000, income_b=0, income_c=0)), 2024, {
        A + "6-A": 20_000, A + "8-A": 20_000, A + "13-A": 100_000, A + "14-A": 14_259}),
    ("self-employment tax of the period, half of it off its income", (shop(receipts=90_000), LAST_YEAR, penalty(), periods(
        income_a=20_000, profit_a=20_000, income_b=20_000, profit_b=20_000, income_c=20_000, profit_c=20_000)), 2024, {
        A + "36-A": 11_304, A + "1-A": 18_587, A + "3-A": 74_348, A + "13-A": 59_748, A + "14-A": 8_193, A + "15-A": 11_304,
        A + "19-A": 19_497, A + "21-A": 4_387}),
    ("credits and other taxes of the period", (*saved(), penalty(), periods(
        income_a=10_000, credits_a=500, other_taxes_a=40, income_b=0, income_c=0)), 2024, {A + "17-A": 2_859, A + "19-A": 2_359, A + "21-A": 531}),
    ("a waiver of a part of it", (*saved(), penalty(annualise="no", waiver="yes", waived=300, waiver_reason="Casualty")), 2024, {U + "19": 328}),
)  # fmt: skip


class AnnualizedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_paid_as_the_income_came_there_is_no_penalty(self):
        rows = [("2024-04-15", 634), ("2024-06-17", 1_067), ("2024-09-16", 1_822), ("2025-01-15", 8_939)]
        paid = PaperValues("estimates", "estimates", {
            "rows": [{"id": str(n), "paid": day, "amount": str(amount)} for n, (day, amount) in enumerate(rows)]})  # fmt: skip
        run = result(*saved(), penalty(), EVEN, paid, year=2024).run
        self.assertEqual((run.form("us.2210").penalty, run.form("us.2210").required()), (0, True))  # Schedule AI goes along
        run = result(*saved(), paid, year=2024).run
        self.assertGreater(run.form("us.2210").penalty, 0)

    def test_spouses_each_have_their_own_limit(self):
        """40,000 each by March: .496 of 36,940, and .116 of it, twice."""
        found = result(person(), person("spouse"), filing("joint", residence="TX", state="TX"), shop(receipts=400_000), LAST_YEAR, penalty(),
                       periods(income_a=80_000, profit_a=40_000, spouse_profit_a=40_000), year=2024)  # fmt: skip
        each = round(D("0.496") * 36_940) + round(D("0.116") * 36_940)
        self.assertEqual(found.run.form("us.2210-ai").own_tax_a, 2 * each)
