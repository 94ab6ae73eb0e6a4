"""Trades and partnerships worked by hand: each case names the mistake that it catches. Whole pounds on pages, what is less left off."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.uk.individual.tests.test_worked import paper, pay, result, trade

D = Decimal


def owning(*assets, turnover=20_000, **values):
    rows = [{"id": str(number), "what": "Thing"} | row for number, row in enumerate(assets, 1)]
    return trade(turnover, assets=rows, **values)


def partner(share, key="p1", **values):
    return paper("partnership", key, description="Weir and Low", partnership="9876543210", share=str(share), **values)


CAR = {"pool": "main", "bought": "2025-06-01", "cost": "20000", "private": "30"}

# What it catches; papers; options; {form.attribute: amount}
CASES = (
    ("plant is deducted whole: 20,000 less 2,500", (owning({"pool": "investment", "bought": "2025-05-01", "cost": "2500"}),), {}, {
        "uk.trading-profit.allowances": "2500", "uk.income.trades": "17500"}),
    ("a car with 30% private use: 18% of 20,000 is 3,600, of which 2,520", (owning(CAR),), {}, {"uk.trading-profit.allowances": "2520"}),
    ("the year after: sold for 14,000 of 16,400, 70% of the 2,400", (owning(
        CAR | {"before": "16400", "bought": "2024-06-01", "sold": "2025-09-01", "proceeds": "14000"}),), {}, {"uk.trading-profit.allowances": "1680"}),
    ("sold for more than its value: 70% of 1,600 is charged", (owning(
        CAR | {"before": "16400", "bought": "2024-06-01", "sold": "2025-09-01", "proceeds": "18000"}),), {}, {
        "uk.trading-profit.allowances": "0", "uk.trading-profit.charge": "1120", "uk.income.trades": "21120"}),
    ("never more than the cost is brought to account: 70% of 3,600", (owning(
        CAR | {"before": "16400", "bought": "2024-06-01", "sold": "2025-09-01", "proceeds": "26000"}),), {}, {"uk.trading-profit.charge": "2520"}),
    ("the main pool at 18%", (owning(main_before="6000"),), {}, {"uk.trading-profit.allowances": "1080", "uk.trading-profit.main_after": "4920"}),
    ("a small pool is written off", (owning(main_before="900"),), {}, {"uk.trading-profit.allowances": "900", "uk.trading-profit.main_after": "0"}),
    ("the special pool at 6%", (owning(special_before="10000"),), {}, {"uk.trading-profit.allowances": "600", "uk.trading-profit.special_after": "9400"}),
    ("more than the pool is received: charged", (owning({"pool": "main", "bought": "2020-01-01", "cost": "5000", "sold": "2025-08-01",
        "proceeds": "2600"}, main_before="2000"),), {}, {"uk.trading-profit.charge": "600", "uk.trading-profit.main_after": "0"}),
    ("a car above 50 g is special: 6% of 30,000", (owning({"pool": "special", "bought": "2025-06-01", "cost": "30000"}),), {}, {
        "uk.trading-profit.allowances": "1800", "uk.trading-profit.special_after": "28200"}),
    ("an electric car: all of it, less a fifth of private use", (owning(
        {"pool": "electric", "bought": "2025-06-01", "cost": "30000", "private": "20"}, turnover=50_000),), {}, {"uk.trading-profit.allowances": "24000"}),
    ("ended: no writing down, what is left is allowed", (owning(main_before="6000", ended="2025-12-31"),), {}, {
        "uk.trading-profit.allowances": "6000", "uk.trading-profit.main_after": "0"}),
    ("with the trading allowance there are none", (owning(main_before="6000", use_allowance="yes"),), {}, {
        "uk.trading-profit.allowances": "0", "uk.income.trades": "19000"}),
    ("12,000 miles: 45p to 10,000, 25p beyond", (trade(20_000, miles="12000"),), {}, {"uk.trading-profit.mileage": "5000", "uk.income.trades": "15000"}),
    ("a motor cycle at 24p", (trade(20_000, motorcycle_miles="1000"),), {}, {"uk.trading-profit.mileage": "240"}),
    ("the home: 18 a month from 51 hours, 10 from 25, 26 from 101", (
        trade(20_000, home_51="10", home_25="1", home_101="1"),), {}, {"uk.trading-profit.use_of_home": "216"}),
    ("what is disallowed is added back: 800 of the 1,000", (trade(20_000, travel="1000", disallowed=[
        {"id": "1", "of": "travel", "amount": "800"}]),), {}, {"uk.income.trades": "19800"}),
    ("depreciation is no expense", (trade(20_000, depreciation="3000", goods="1000"),), {}, {"uk.income.trades": "19000"}),
    ("2023-24: a fifth of 15,000 less 5,000 of overlap; 40,000 and 2,000 for class 4", (
        trade(40_000, transition_part="15000", overlap="5000"),), {"year": 2023}, {
        "uk.trading-profit.transition": "2000", "uk.trading-profit.transition_left": "8000", "uk.income-tax.tax_on_transition": "400.00",
        "uk.income-tax.tax": "5886.00", "uk.national-insurance.class_4": "2648.70"}),
    ("transition profit takes nothing of the allowance: 10,070 are left at 105,000", (
        trade(105_000, transition_part="10000"),), {"year": 2023}, {"uk.allowances.personal": "10070", "uk.income-tax.tax": "31232.00"}),
    ("more of it by choice", (trade(40_000, transition_part="10000", transition_more="3000"),), {"year": 2023}, {
        "uk.trading-profit.transition": "5000", "uk.trading-profit.transition_left": "5000"}),
    ("a year on: a quarter of what is left", (trade(40_000, transition_before="8000"),), {"year": 2024}, {"uk.trading-profit.transition": "2000"}),
    ("and a third", (trade(40_000, transition_before="6000"),), {"year": 2025}, {"uk.trading-profit.transition": "2000"}),
    ("the trade ends: all of it", (trade(40_000, transition_before="6000", ended="2025-10-01"),), {"year": 2025}, {
        "uk.trading-profit.transition": "6000", "uk.trading-profit.transition_left": "0"}),
    ("overlap above the transition part lowers the year's profit", (trade(40_000, transition_part="2000", overlap="5000"),), {"year": 2023}, {
        "uk.trading-profit.transition": "0", "uk.income.trades": "37000"}),
    ("a loss of the twelve months first takes from the transition profit", (
        trade(0, goods="4000", transition_part="14000"),), {"year": 2023}, {"uk.trading-profit.transition": "2000", "uk.income.trades": "0"}),
    ("a partner's share and class 4 on it", (partner(30_000),), {}, {
        "uk.income.trades": "30000", "uk.national-insurance.class_4": "1045.80"}),
    ("two sources of profit share one band of class 4", (trade(20_000), partner(20_000)), {}, {"uk.national-insurance.class_4": "1645.80"}),
    ("interest of the partnership is savings", (pay(60_000), partner(0, interest="1500")), {}, {"uk.income-tax.tax_on_savings": "400.00"}),
    ("a partner's loss against other income", (pay(60_000), partner(-8_000, loss_use="income")), {}, {"uk.income.net": "52000"}),
    ("and brought forward against the same share", (partner(9_000, loss_before="4000"),), {}, {"uk.income.trades": "5000"}),
    ("tax taken off in the partnership is credited", (partner(30_000, deducted="500"),), {}, {"uk.sa110.deducted": "500.00"}),
    ("90,000 of turnover makes the full pages", (trade(90_000, goods="1000"),), {}, {"uk.sa103f.profit": "89000"}),
)  # fmt: skip


class TradeTests(TestCase):
    def test_by_hand(self):
        for catches, papers, options, wanted in CASES:
            found = result(*papers, **options)
            for name, amount in wanted.items():
                form, _, attribute = name.rpartition(".")
                kind = next((one.id for one in papers if one.kind == "trade"), None)
                key = kind if form in ("uk.trading-profit", "uk.sa103f") else None
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(found.run.form(form, key), attribute), D(amount))

    def test_what_a_year_closes_opens_the_next(self):
        """A car of 20,000 less 3,600, a pool of 4,920, and 8,000 of transition profit."""
        here = result(
            owning(CAR | {"bought": "2024-06-01"}, main_before="6000", transition_before="10666"),
            partner(-100, loss_use="forward"),
            year=2024,
        )
        rolled = {one.kind: one.values for one in roll_forward(here).data.papers}
        row = rolled["trade"]["assets"][0]
        self.assertEqual((row["before"], row["private"], row["what"]), ("16400.00", "30", "Thing"))
        self.assertEqual(D(rolled["trade"]["main_before"]), 4_920)
        self.assertEqual(D(rolled["trade"]["transition_before"]), 8_000)
        self.assertEqual(D(rolled["partnership"]["loss_before"]), 100)

    def test_the_short_pages_or_the_full_ones_never_both(self):
        for turnover, wanted in ((20_000, "uk.sa103s"), (95_000, "uk.sa103f")):
            run = result(trade(turnover)).run
            self.assertEqual([form.code() for form in (*run.every("uk.sa103s"), *run.every("uk.sa103f"))], [wanted])

    def test_what_stops(self):
        for papers, options, code in (
            ((partner(-100),), {}, "uk.loss-unsaid"),
            ((owning({"pool": "main", "bought": "2027-01-01", "cost": "9"}),), {}, "uk.asset-day"),
            ((owning({"pool": "main", "bought": "2025-06-01", "cost": "900", "private": "100"}),), {}, "uk.asset-private"),
            ((trade(9_000, miles="100", assets=[{"id": "1", "what": "Van"} | CAR]),), {}, "uk.mileage-and-allowances"),
            ((trade(9_000, home_25="9", home_51="9"),), {}, "uk.home-months"),
            ((trade(9_000, travel="10", disallowed=[{"id": "1", "of": "travel", "amount": "20"}]),), {}, "uk.disallowed-above"),
            ((trade(0, goods="9000", transition_part="2000", loss_use="forward"),), {"year": 2023}, "uk.transition-loss"),
            ((trade(9_000, transition_part="2000", transition_more="9000"),), {"year": 2023}, "uk.transition-more"),
        ):
            with self.subTest(code):
                self.assertIn(code, {one.code for one in result(*papers, **options).findings if one.weight == "stops"})
