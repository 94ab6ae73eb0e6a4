"""Businesses whose owner does not materially participate, worked by hand from IRC 469(a), (b), (g)."""

from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, house, line_of, paper, result, shop, stake, wage

C, W, P = "us.sch-c[shop].", "us.passive-trade[shop].", "us.8582."


def idle(**values):
    given = {
        "owner": "taxpayer",
        "activity": "Joinery",
        "code": "321000",
        "participates": "no",
        "receipts": 0,
        "service_trade": "no",
    }
    return paper("business", "shop", **given | values)


def share(ordinary):
    return stake(ordinary=ordinary, participates="no")


CASES = (
    ("its loss waits", (idle(supplies=4_000), wage(90_000)), 2025, {W + "1": -4_000, W + "3": 4_000, W + "4": 0, C + "31": 0, P + "2b": 4_000, "us.1040.11a": 90_000}),
    ("passive income of others takes it", (idle(supplies=4_000), share(3_000)), 2025, {W + "3": 1_000, C + "31": -3_000, "us.sch-1.3": -3_000, "us.sch-e.32": 3_000}),
    ("its income takes other passive losses", (idle(receipts=5_000), share(-7_000)), 2025, {
        C + "31": 5_000, "us.share[k1].5": -5_000, P + "2a": 5_000, P + "11": 5_000}),
    ("what waited comes with its income", (idle(receipts=5_000, passive_before=2_000),), 2025, {W + "2": 2_000, W + "3": 0, W + "4": 3_000, C + "31": 3_000}),
    ("all of it when it ends", (idle(supplies=4_000, passive_before=2_000, disposed="yes"), wage(90_000)), 2025, {W + "3": 0, C + "31": -6_000, P + "3": 0}),
    ("self-employment tax is on what counts", (idle(receipts=10_000, passive_before=4_000),), 2025, {"us.sch-se[taxpayer].2": 6_000}),
    ("after what is at risk", (idle(supplies=9_000, not_at_risk="yes", at_risk=5_000), wage(9_000)), 2025, {
        "us.6198[shop].21": 5_000, W + "1": -5_000, W + "3": 5_000, C + "31": 0}),
    ("the allowance of rents is by income without its loss", (
        idle(supplies=50_000), house(taxes=9_000), wage(110_000)), 2025, {P + "6": 110_000, P + "9": 9_000, C + "31": 0, "us.sch-e.26": -9_000}),
    ("passive profit is net investment income", (idle(receipts=30_000), wage(250_000)), 2025, {"us.8960.4a": 30_000, "us.8960.8": 30_000}),
    ("an active one is untouched", (shop(receipts=0, supplies=4_000), wage(9_000)), 2025, {C + "31": -4_000}),
)  # fmt: skip


class PassiveTradeTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_waits_comes_along_once(self):
        rolled = roll_forward(result(idle(supplies=4_000), wage(90_000), year=2024)).data
        books = next(one for one in rolled.papers if one.kind == "business")
        self.assertEqual(books.values["passive_before"], "4000")
        now = result(idle(receipts=9_000, passive_before=books.values["passive_before"]), year=2025)
        self.assertEqual(line_of(now.run, C + "31"), 5_000)
        self.assertEqual(line_of(now.run, W + "3"), 0)
