"""An S corporation's return worked by hand from the law: page 1, Schedules K, K-1, L, M-1, the accounts of M-2, distributions."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.partnership.tests.test_worked import LET, house
from taxcore.packs.us.property.tests.test_worked import agree
from taxcore.packs.us.s_corporation.tests.making import about, ada, asset, ben, books, entry, holder, paper, result, rows, shop

P, K, L, M, C = "us.1120-s.", "us.sch-k.", "us.sch-l.", "us.sch-m-1.", "us.sch-m-2."
A, B = "us.sch-k-1[ada].", "us.sch-k-1[ben]."


def plain(amount):
    """Books of a business that has only receipts, or only wages; all of it cash."""
    account = ("Sales", "sales", -amount, 0) if amount > 0 else ("Wages", "salaries", -amount, 0)
    return books(("Checking", "cash", amount, 0), account)


def alone(**values):
    return holder("ada", "Ada Heron", 100, **values)


# What it catches; papers; year; {address: amount}
CASES = (
    ("page 1 out of the books", (), 2025, {
        P + "1a": 200_000, P + "2": 60_000, P + "3": 140_000, P + "6": 140_000, P + "7": 10_000, P + "8": 40_000,
        P + "11": 12_000, P + "12": 3_000,
        P + "13": 1_500, P + "14": 5_000, P + "16": 2_500, P + "20": 1_000, P + "21": 75_000, P + "22": 65_000}),
    ("what is passed on", (), 2025, {
        K + "1": 65_000, K + "4": 200, K + "12a": 900, K + "16c": 1_300, K + "16d": 30_000, K + "17a": 200, K + "18": 64_300}),
    ("sixty shares and forty", (), 2025, {
        A + "1": 39_000, A + "4": 120, A + "12A": 540, A + "16C": 780, A + "16D": 18_000, A + "17V1": 39_000,
        A + "17V2": 30_000, B + "1": 26_000,
        B + "16D": 12_000, B + "17V2": 20_000}),
    ("the balance sheet", (), 2025, {
        L + "1-d": 55_000, L + "10a-d": 50_000, L + "10b-d": 20_000, L + "15-b": 73_000, L + "15-d": 101_000,
        L + "20-d": 24_000, L + "22-d": 1_000,
        L + "23-d": 9_000, L + "24-b": 27_000, L + "24-d": 60_000, L + "27-d": 101_000}),
    ("from the books to the return", (), 2025, {M + "1": 63_000, M + "3b": 1_000, M + "3": 1_300, M + "4": 64_300, M + "8": 64_300}),
    ("the accumulated adjustments account in its order", (), 2025, {
        C + "1-a": 27_000, C + "2-a": 65_000, C + "3-a": 200, C + "4-a": 0, C + "5-a": 2_200, C + "6-a": 90_000,
        C + "7-a": 30_000, C + "8-a": 60_000}),
    ("it is no less than nothing by distributions; the rest is basis", (
        plain(5_000), alone(distributed=20_000), about(adjustments_before=10_000)), 2025, {C + "6-a": 15_000, C + "7-a": 15_000,
        C + "8-a": 0, K + "16d": 20_000}),
    ("earnings of its years as a C corporation come next, as dividends", (
        plain(5_000), alone(distributed=20_000), about(adjustments_before=10_000, earnings_before=3_000)), 2025, {
        C + "7-a": 15_000, C + "7-c": 3_000, C + "8-c": 0, K + "17c": 3_000, K + "16d": 17_000, A + "17c": 3_000,
        A + "16D": 17_000}),
    ("a loss makes it less than nothing, after distributions", (
        plain(-4_000), alone(distributed=8_000), about(adjustments_before=10_000)), 2025, {
        C + "4-a": 4_000, C + "6-a": 6_000, C + "7-a": 8_000, C + "8-a": -2_000}),
    ("exempt income has an account of its own", (shop(("City bonds", "exempt_interest", -400, 0)),), 2025, {
        K + "16a": 400, C + "3-d": 400, C + "8-d": 400, C + "8-a": 60_000, M + "5a": 400, M + "8": 64_300, A + "16A": 240}),
    ("shares sold in the middle of the year: 181 and 184 days", (
        plain(36_500), ada(stakes=rows({"shares": "60"}, {"since": "2025-07-01", "shares": "40"})), ben(),
        holder("cleo", "Cleo Wren", 20, stakes=rows({"since": "2025-07-01", "shares": "20"}))), 2025, {
        A + "1": 18_220, B + "1": 14_600, "us.sch-k-1[cleo].1": 3_680}),
    ("the register's depreciation", (asset(10_000),), 2025, {P + "14": 1_429, P + "22": 68_571, M + "3a": 3_571, M + "8": 67_871, K + "15a": 358}),
    ("section 179 is passed on", (asset(10_000, section_179=4_000),), 2025, {
        P + "14": 857, K + "11": 4_000, A + "11": 2_400, K + "18": 64_443, M + "8": 64_443, C + "5-a": 6_200}),
    ("rents apart from the business", (shop(*LET), house(24_000, taxes=9_000)), 2025, {
        K + "2": 15_000, A + "2": 9_000, P + "22": 65_000, K + "18": 79_300, M + "8": 79_300, C + "3-a": 15_200}),
    ("a tax entry", (entry("tax", ("Sales", -500), ("Customers", 500)),), 2025, {P + "22": 65_500, M + "2": 500, M + "8": 64_800, L + "15-d": 101_000}),
    ("officers one by one", (
        paper("officer", "o1", called="Ada Heron", number="900-00-0109", time=100, stock=60, pay=10_000),
        ), 2025, {"us.1125-e.2": 10_000, "us.1125-e.4": 10_000}),
    ("in 2022 other deductions stood a line above", (), 2023, {P + "20": 1_000, P + "22": 65_000}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_every_case_balances(self):
        for catches, papers, year, _ in CASES:
            with self.subTest(catches):
                run = result(*papers, year=year).run
                self.assertEqual((run.form("us.sch-l").difference, run.form("us.sch-l").difference_before), (0, 0))
                self.assertLessEqual(abs(run.form("us.sch-m-1").unreconciled), 1)

    def test_next_year_begins_with_what_this_one_ended_with(self):
        begins = {row["account"]: Decimal(row.get("before", "0")) for row in result().run.form("us.sch-l").rows_next_year()}
        wanted = {
            "Checking": 55_000,
            "Common stock": -1_000,
            "Paid-in capital": -9_000,
            "Retained earnings": -60_000,
            "Sales": 0,
            "Draws": 0,
        }
        self.assertEqual({name: begins[name] for name in wanted}, wanted)

    def test_issued_to_both_shareholders(self):
        from taxcore.packs.us.s_corporation.issuing import issues

        first, basis, *_ = list(issues(result(ada(health_insurance=900), ben()).run))
        self.assertEqual(
            (first.kind, first.values["ordinary"], first.values["entity_number"]), ("k1-1120s", "39000", "00-4455669")
        )
        self.assertEqual(first.values["health_insurance"], "900.00")
        self.assertEqual((basis.kind, basis.values["distributed"], basis.values["nondeductible"]), ("basis-s", "18000", "780"))
