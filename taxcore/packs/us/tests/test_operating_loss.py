"""Net operating losses worked by hand from IRC 172: the limit of 80%, the order, what a year's loss is."""

from unittest import TestCase

from taxcore.engine import PaperValues, roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, result, shop, wage
from taxcore.packs.us.tests.returns import interest
from taxcore.packs.us.tests.test_more_credits import carried

N, S1 = "us.net-operating-loss.", "us.sch-1."
SOLD = PaperValues("b", "1099-b", {"owner": "taxpayer", "payer": "Heron", "summaries": [
    {"id": "1", "box": "A", "proceeds": "1000", "basis": "6000"}]})  # fmt: skip
LOSING = shop(10_000, supplies=50_000)


def before(*rows):
    return carried("operating-losses", *rows)


CASES = (
    ("within 80% of 44,250", (wage(60_000), before((2023, 5_000))), 2025, {N + "3": 44_250, N + "5": 5_000, S1 + "8a": -5_000, "us.1040.11a": 55_000}),
    ("no more than 80% of 4,250", (wage(20_000), before((2023, 10_000))), 2025, {N + "4": 3_400, N + "5": 3_400, "us.1040.15": 850}),
    ("one of 2015 takes all of it", (wage(20_000), before((2015, 10_000))), 2025, {N + "5": 4_250, "us.1040.15": 0}),
    ("older ones first, then 80% of what they leave", (wage(20_000), before((2015, 3_000), (2020, 10_000))), 2025, {N + "4": 1_000, N + "5": 4_000}),
    ("after twenty years it is gone", (wage(20_000), before((2004, 3_000))), 2025, {N + "1": 0, N + "5": 0}),
    ("a loss of a shop, beside interest below the standard deduction", (LOSING, interest(1_000)), 2025, {
        N + "6": -54_750, N + "7": 15_750, N + "8": 1_000, N + "9": 14_750, N + "11": 40_000}),
    ("interest above it takes some of the loss", (LOSING, interest(20_000)), 2025, {N + "9": 0, N + "11": 35_750}),
    ("wages do too", (LOSING, wage(10_000)), 2025, {N + "11": 30_000}),
    ("a capital loss is none of it", (LOSING, SOLD), 2025, {N + "10": 3_000, N + "11": 40_000}),
    ("no loss where there is income", (wage(20_000),), 2025, {N + "11": 0}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_waits(self):
        def rows(*papers):
            rolled = {one.kind: one.values for one in roll_forward(result(*papers)).data.papers}
            return [(row["from_year"], row["amount"]) for row in rolled.get("operating-losses", {}).get("rows", ())]

        self.assertEqual(rows(wage(20_000), before((2015, 3_000), (2020, 10_000))), [("2020", "9000")])
        self.assertEqual(rows(wage(20_000), before((2005, 9_000), (2020, 10_000))), [("2020", "10000")])
        self.assertEqual(rows(LOSING, before((2020, 10_000))), [("2020", "10000"), ("2025", "40000")])
