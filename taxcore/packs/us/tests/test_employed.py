"""Tips, household employees, statutory employees, moves, contracts marked to market: worked by hand from the law."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.property.tests.test_worked import agree, paper, result, shop
from taxcore.packs.us.tests import returns

D = Decimal


def wage(wages, key="w1", **values):
    return returns.w2(wages, key=key, state="TX", **values)


def nanny(*paid, quarter="yes", **values):
    from taxcore.engine import PaperValues

    rows = [{"id": str(n), "name": f"Employee {n}", "wages": str(one)} for n, one in enumerate(paid, 1)]
    return PaperValues(
        "household", "household", {"employees": rows, "thousand": quarter, "one_state": "yes", "number": "00-1234567"} | values
    )


def soldier(paid):
    rows = [{"id": "p", "code": "P", "amount": str(paid)}] if paid else []
    return wage(40_000, codes=rows)


def move(goods, travel, ordered="yes"):
    given = {"moving": str(goods), "moving_travel": str(travel), "moving_ordered": ordered}
    return paper("adjustments", "a1", owner="taxpayer", **given)


H, T, X, M = "us.sch-h.", "us.4137[taxpayer].", "us.6781.", "us.3903[taxpayer]."
CASES = (
    # IRC 3101, 3111, 3301, 3121(x)
    ("a nanny of 20,000: 12.4%, 2.9%, and 0.6% of 7,000", (nanny(20_000),), 2025, {
        H + "1": 20_000, H + "2": 2_480, H + "4": 580, H + "8": 3_060, H + "16": 42, H + "26": 3_102, "us.sch-2.9": 3_102, "us.1040.23": 3_102}),
    ("below 2,800 a year nothing for Social Security", (nanny(2_799),), 2025, {H + "8": 0, H + "16": 17, "us.sch-2.9": 17}),
    ("nor for each of two who are", (nanny(2_000, 2_000),), 2025, {H + "8": 0, H + "16": 24}),
    ("in 2022 it began with 2,400", (nanny(2_400),), 2022, {H + "2": 298}),
    ("no unemployment tax below 1,000 a quarter", (nanny(3_000, quarter="no"),), 2025, {H + "8": 459, H + "26": 459}),
    ("income tax that was withheld", (nanny(20_000, withheld="900"),), 2025, {H + "7": 900, H + "8": 3_960, "us.sch-2.9": 4_002}),
    ("up to the wage base, and 0.9% above 200,000", (nanny(210_000),), 2025, {H + "1": 176_100, H + "2": 21_836, H + "4": 6_090, H + "6": 90}),
    # IRC 3121(q)
    ("allocated tips: income, 6.2% and 1.45%", (wage(30_000, allocated_tips="1000"),), 2025, {
        "us.1040.1c": 1_000, "us.1040.1z": 31_000, T + "11": 62, T + "12": 15, T + "13": 77, "us.sch-2.5": 77}),
    ("tips that were not reported", (wage(30_000), paper("other-income", "o1", owner="taxpayer", tips="500")), 2025, {T + "6": 500, T + "13": 38, "us.1040.1c": 500}),
    ("what is left of the wage base", (wage(176_000, allocated_tips="1000"),), 2025, {T + "10": 100, T + "11": 6, T + "12": 15}),
    ("they count for the tax of 0.9%", (wage(199_500, allocated_tips="1000"),), 2025, {"us.8959.2": 1_000, "us.8959.18": 5}),
    # IRC 217(g), 132(g)(2)
    ("a move on orders, in part paid for", (soldier(2_000), move(3_000, 800)), 2025, {
        M + "3": 3_800, M + "4": 2_000, M + "5": 1_800, "us.sch-1.14": 1_800, "us.1040.11a": 38_200}),
    ("paid above its cost: the rest is pay", (soldier(4_500), move(3_000, 800)), 2025, {
        M + "5": 0, "us.sch-1.14": 0, "us.1040.1h": 700, "us.1040.1z": 40_700, "us.earned-income[taxpayer].1": 40_700}),
    ("a move of one's own choice", (soldier(0), move(3_000, 800, ordered="")), 2024, {M + "3": 3_800, M + "5": 0, "us.sch-1.14": 0}),
    # IRC 1256(a)(3)
    ("contracts: 60% long, 40% short", (paper("1099-b", "b1", owner="taxpayer", payer="Heron", contracts="10000"),), 2025, {
        X + "8": 4_000, X + "9": 6_000, "us.sch-d.4": 4_000, "us.sch-d.11": 6_000}),
    ("a loss alike", (paper("1099-b", "b1", owner="taxpayer", payer="Heron", contracts="-5000"),), 2025, {"us.sch-d.4": -2_000, "us.sch-d.11": -3_000, "us.sch-d.21": -3_000}),
    # IRC 3121(d)(3)
    ("a statutory employee's pay is a business's receipts, without the self-employment tax", (
        wage(40_000, statutory_employee="yes", business="shop"), shop(0, supplies=5_000)), 2025, {
        "us.1040.1a": 0, "us.sch-c[shop].1": 40_000, "us.sch-c[shop].31": 35_000, "us.sch-se[taxpayer].2": 0, "us.earned-income[taxpayer].5": 35_000}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)
