"""Codes of a W-2 that bear a tax of their own, and gain of small business stock that a fund passed on; by hand from the law."""

from unittest import TestCase

from taxcore.packs.us.property.tests.test_worked import agree, paper, result
from taxcore.packs.us.tests.returns import w2

T, D = "us.sch-2.", "us.sch-d."


def pay(*coded, **values):
    rows = [{"id": str(n), "code": code, "amount": str(amount)} for n, (code, amount) in enumerate(coded, 1)]
    return w2(90_000, state="TX", codes=rows, **values)


def fund(part, gain=10_000, small=4_000):
    return paper(
        "1099-div",
        "d1",
        owner="taxpayer",
        payer="Heron Ventures",
        capital_gain=gain,
        small_business=small,
        small_business_part=part,
    )


CASES = (
    ("uncollected tax on tips and on life insurance", (pay(("A", 50), ("B", 20), ("M", 7), ("N", 3)),), 2025, {T + "13": 80, T + "21": 80, "us.1040.23": 80}),
    ("a golden parachute: the tax is in the box", (pay(("K", 1_000)),), 2025, {T + "17k": 1_000, T + "18": 1_000}),
    ("a failed plan: a fifth, and interest", (pay(("Z", 10_000), failed_plan_interest="300"),), 2025, {T + "17h": 2_300, "us.1040.23": 2_300}),
    ("deferrals of equity grants are told and not taxed", (pay(("HH", 5_000)),), 2025, {"us.1040.23": 0}),
    ("all of a fund's small business gain is left out", (pay(), fund("100")), 2025, {
        "us.8949[F].g": -4_000, "us.8949[F].h": -4_000, D + "10-h": -4_000, D + "13": 10_000, D + "15": 6_000, "us.1040.7a": 6_000}),
    ("no more than the distribution", (pay(), fund("100", 3_000)), 2025, {D + "15": 0}),
)  # fmt: skip


class StatementTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)
