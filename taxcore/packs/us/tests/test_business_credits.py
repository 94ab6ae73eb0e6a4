"""General business credits worked by hand from IRC 38, 39, 44, 45B, 45E and 51 for 2025.

Wages of 100,000, single: taxable 84,250, tax by the table 13,455; tentative minimum tax 26% of 100,000 less 88,100: 3,094.
"""

from unittest import TestCase

from taxcore.engine import PaperValues, roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, result, wage
from taxcore.packs.us.tests.returns import child, filing, person

G, W, T, A, P = "us.3800.", "us.5884.", "us.8846.", "us.8826.", "us.8881."


def credits(*rows, carried=(), **values):
    made = {name: str(value) for name, value in values.items()}
    if rows:
        made["rows"] = [
            {"id": str(n), "form": "K-1, box 15", "kind": kind, "amount": str(amount)} for n, (kind, amount) in enumerate(rows, 1)
        ]
    if carried:
        made["carried"] = [
            {"id": str(n), "from_year": str(y), "kind": kind, "amount": str(amount)}
            for n, (y, kind, amount) in enumerate(carried, 1)
        ]
    return PaperValues("business-credits", "business-credits", made)


PAY = wage(100_000)
CASES = (
    ("within both limits", (PAY, credits(("other", 2_000))), 2025, {
        G + "2": 2_000, G + "6": 2_000, G + "7": 13_455, G + "11": 13_455, G + "13": 0, G + "14": 3_094, G + "15": 3_094, G + "16": 10_361, G + "17": 2_000,
        G + "38": 2_000, "us.sch-3.6a": 2_000, "us.sch-3.8": 2_000, "us.1040.22": 11_455}),
    ("not below the tentative minimum tax", (PAY, credits(("other", 12_000))), 2025, {G + "17": 10_361, G + "38": 10_361}),
    ("specified credits do not know it", (PAY, credits(("specified", 12_000))), 2025, {G + "6": 0, G + "17": 0, G + "27": 13_455, G + "29": 13_455, G + "37": 12_000}),
    ("one after the other", (PAY, credits(("other", 12_000), ("specified", 5_000))), 2025, {
        G + "17": 10_361, G + "28": 10_361, G + "29": 3_094, G + "36": 5_000, G + "37": 3_094, G + "38": 13_455, "us.1040.22": 0}),
    ("a quarter of the tax above 25,000 remains", (wage(300_000), credits(("specified", 90_000))), 2025, {
        G + "7": 69_035, G + "13": 11_009, G + "37": 58_026}),
    ("carried ones first", (PAY, credits(("other", 500), carried=((2022, "other", 400), (2023, "specified", 300)))), 2025, {
        G + "4": 400, G + "6": 900, G + "34": 300, G + "36": 300, G + "38": 1_200}),
    ("twenty years and no more", (PAY, credits(carried=((2004, "other", 400), (2005, "other", 300)))), 2025, {G + "4": 300}),
    ("work opportunity: 40% and 25% of wages", (PAY, credits(wages_long=10_000, wages_short=4_000)), 2025, {
        W + "1a": 1_000, W + "1b": 4_000, W + "2": 5_000, W + "6": 5_000, G + "30": 5_000, G + "38": 5_000}),
    ("social security tax on tips", (PAY, credits(tips=20_000, tips_to_minimum=5_000)), 2025, {T + "3": 15_000, T + "4": 1_148, T + "6": 1_148, G + "30": 1_148}),
    ("access for the disabled: half of what is above 250", (PAY, credits(access_costs=6_250)), 2025, {A + "3": 6_000, A + "6": 3_000, A + "8": 3_000, G + "2": 3_000}),
    ("up to 10,250", (PAY, credits(access_costs=40_000)), 2025, {A + "5": 10_000, A + "8": 5_000}),
    ("a plan's first years, all of it with fifty employees", (PAY, credits(plan_costs=4_000, plan_members=8, employees=20)), 2025, {P + "credit": 2_000}),
    ("half of it with more", (PAY, credits(plan_costs=3_000, plan_members=8, employees=60)), 2025, {P + "credit": 1_500}),
    ("at least 500, and 500 for joining by itself", (PAY, credits(plan_costs=4_000, plan_members=1, employees=20, joins_itself="yes")), 2025, {P + "credit": 1_000}),
)  # fmt: skip


class BusinessCreditTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            named = {at: amount for at, amount in wanted.items() if not at.endswith(".credit")}
            found = result(*papers, year=year)
            agree(self, catches, found.run, named)
            for at, amount in wanted.items():
                if at.endswith(".credit"):
                    self.assertEqual(found.run.form(at.removesuffix(".credit")).credit, amount, catches)

    def test_after_the_credit_for_a_child(self):
        """60,000, head of household: taxable 36,375, tax by the table 4,025; 2,200 for the child come first."""
        home = filing("head_of_household", residence="TX", state="TX", kept_home="yes")
        found = result(person(), child(), home, wage(60_000), credits(("specified", 5_000)))
        agree(self, "a child", found.run, {G + "7": 4_025, G + "10b": 2_200, G + "11": 1_825, G + "38": 1_825, "us.1040.22": 0})

    def test_what_the_limit_leaves_is_carried_by_kind_and_year(self):
        found = result(PAY, credits(("other", 12_000), ("specified", 5_000), carried=((2023, "other", 500),)), year=2025)
        paper = next(one for one in roll_forward(found).data.papers if one.kind == "business-credits")
        rows = [(row["from_year"], row["kind"], row["amount"]) for row in paper.values["carried"]]
        self.assertEqual(rows, [("2025", "other", "2139"), ("2025", "specified", "1906")])

    def test_before_2023_half_of_a_plans_costs(self):
        self.assertEqual(
            result(PAY, credits(plan_costs=3_000, plan_members=8, employees=20), year=2022).run.form("us.8881").credit, 1_500
        )
