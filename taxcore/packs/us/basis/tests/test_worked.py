"""Losses of shares within basis and amounts at risk, worked by hand from IRC 465, 704(d), 1366(d), 1367, 1368."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, line_of, paper, result, shop, stake, wage

D = Decimal
S, P, R, E = "us.7203[b1].", "us.partner-basis[b1].", "us.6198[b1].", "us.sch-e."


def owned(**values):
    """A share of an S corporation whose owner works in it."""
    given = {"entity": "Slip", "entity_number": "00-4455669", "participates": "yes", "all_at_risk": "no"}
    return paper("k1-1120s", "k1", owner="taxpayer", **given | values)


def other(**values):
    """Passive income of another share."""
    given = {"entity": "Pier", "entity_number": "00-4455670", "participates": "no", "all_at_risk": "yes"}
    return paper("k1-1065", "k2", owner="taxpayer", **given | values)


def joined(**values):
    return stake(**{"all_at_risk": "no"} | values)


def waiting(made, **tables):
    """The paper with losses of earlier years by item."""
    rows = {
        name: [{"id": str(n), "item": item, "amount": str(amount)} for n, (item, amount) in enumerate(lost, 1)]
        for name, lost in tables.items()
        if lost
    }
    return replace(made, values={**made.values, **rows})


def stock(basis=0, *, lost=(), **values):
    return waiting(paper("basis-s", "b1", owner="taxpayer", share="k1", stock=basis, **values), rows=lost)


def interest(basis=0, *, lost=(), risk=(), **values):
    return waiting(paper("basis-p", "b1", owner="taxpayer", share="k1", basis=basis, **values), rows=lost, risk_rows=risk)


CASES = (
    ("no more than the stock's basis", (owned(ordinary=-14_000), stock(10_000)), 2025, {
        S + "10": 10_000, S + "35-A": 14_000, S + "35-C": 10_000, S + "35-E": 4_000, S + "47-E": 4_000, S + "15": 0, E + "32": -10_000}),
    ("then the basis of loans", (owned(ordinary=-14_000), stock(10_000, loan=3_000, debt=3_000)), 2025, {
        S + "35-C": 10_000, S + "35-D": 3_000, S + "35-E": 1_000, S + "30": 3_000, S + "31": 0, S + "20": 3_000, E + "32": -13_000}),
    ("each kind of loss its part", (owned(ordinary=-9_000, section_1231=-3_000), stock(8_000)), 2025, {
        S + "35-C": 6_000, S + "39-C": 2_000, S + "35-E": 3_000, S + "39-E": 1_000, E + "32": -6_000, "us.4797.2": -2_000}),
    ("distributions come before losses", (owned(ordinary=-7_000), stock(10_000, distributed=6_000)), 2025, {
        S + "6": 6_000, S + "10": 4_000, S + "35-C": 4_000, S + "35-E": 3_000, E + "32": -4_000}),
    ("what is distributed above the basis is gain", (owned(ordinary=2_000), stock(5_000, distributed=10_000)), 2025, {
        S + "3a": 2_000, S + "5": 7_000, S + "7": 0, S + "15": 0, "us.sch-d.10-h": 3_000, "us.1040.7a": 3_000, E + "32": 2_000}),
    ("of a share held a year or less, short-term", (owned(ordinary=2_000), stock(5_000, distributed=10_000, held_short="yes")), 2025, {
        "us.sch-d.3-h": 3_000, "us.sch-d.10-h": 0}),
    ("what is never deducted comes before losses too", (owned(ordinary=-9_500), stock(10_000, nondeductible=1_000)), 2025, {
        S + "8a": 1_000, S + "9": 1_000, S + "10": 9_000, S + "35-C": 9_000, S + "35-E": 500}),
    ("last year's loss with this year's income", (owned(ordinary=10_000), stock(0, lost=(("ordinary", 4_000),))), 2025, {
        S + "35-A": 0, S + "35-B": 4_000, S + "35-C": 4_000, S + "35-E": 0, S + "15": 6_000, E + "32": 6_000}),
    ("income restores a loan's basis first", (owned(ordinary=3_000), stock(0, loan=5_000, debt=1_000)), 2025, {
        S + "12": 3_000, S + "23": 3_000, S + "15": 0, S + "31": 4_000}),
    ("but only what distributions leave of it", (owned(ordinary=3_000), stock(0, loan=5_000, debt=1_000, distributed=2_000)), 2025, {
        S + "23": 1_000, S + "15": 0, S + "31": 2_000}),
    ("and no more than was used of it", (owned(ordinary=9_000), stock(0, loan=5_000, debt=1_000)), 2025, {
        S + "23": 4_000, S + "31": 5_000, S + "15": 5_000}),
    ("a loan repaid whose basis was used is income in part", (owned(), stock(0, loan=5_000, debt=3_000, repaid=2_000)), 2025, {
        S + "25": D("0.6"), S + "26": 1_200, S + "34": 800, S + "31": 1_800, S + "20": 3_000, "us.sch-d.10-h": 800}),
    ("a new loan in the year has basis", (owned(ordinary=-4_000), stock(0, lent=3_000)), 2025, {
        S + "17": 3_000, S + "22": 3_000, S + "35-D": 3_000, S + "35-E": 1_000, S + "31": 0}),
    ("dividends and exempt interest are basis, gifts use it", (owned(dividends=500, exempt_interest=500, cash_gifts=4_000), stock(), wage(10_000)), 2025, {
        S + "3e": 500, S + "3k": 500, S + "42-C": 1_000, S + "42-E": 3_000, "us.gifts.1": 1_000}),
    ("section 179 within the basis", (owned(ordinary=20_000, section_179=30_000), stock(1_000)), 2025, {
        S + "41-A": 30_000, S + "41-C": 21_000, S + "41-E": 9_000, "us.section-179.8": 21_000, "us.section-179.12": 20_000}),
    ("a partner's part of the liabilities", (joined(ordinary=-12_000), interest(4_000, liabilities=6_000)), 2025, {
        P + "3": 6_000, P + "9": 10_000, P + "12-C": 10_000, P + "12-D": 2_000, P + "11": 0, E + "32": -10_000}),
    ("a debt that falls is money", (joined(ordinary=1_000), interest(4_000, liabilities=-6_000)), 2025, {
        P + "3": 0, P + "6": 6_000, P + "11": 0, "us.sch-d.10-h": 1_000}),
    ("guaranteed payments have no basis", (joined(ordinary=-5_000, guaranteed=8_000), interest()), 2025, {
        P + "12-C": 0, P + "12-D": 5_000, E + "32": 8_000}),
    ("what is not at risk", (joined(ordinary=-9_000), interest(10_000, not_at_risk=6_000)), 2025, {
        P + "12-C": 9_000, P + "11": 1_000, R + "5": -9_000, R + "20": 4_000, R + "21": 4_000, E + "32": -4_000}),
    ("a year later with income", (joined(ordinary=7_000), interest(1_000, not_at_risk=6_000, risk=(("ordinary", 5_000),))), 2025, {
        R + "5": 2_000, R + "21": 0, E + "32": 2_000, P + "11": 8_000}),
    ("at risk, kind by kind", (joined(ordinary=-6_000, section_1231=-3_000), interest(10_000, not_at_risk=7_000)), 2025, {
        R + "20": 3_000, E + "32": -2_000, "us.4797.2": -1_000}),
    ("at risk, in whole dollars that are all of it", (
        joined(ordinary=-100, section_1231=-100, other_income=-100), interest(300, not_at_risk=200)), 2025, {
        R + "20": 100, R + "21": 100, E + "32": -33, "us.4797.2": -33, "us.sch-1.8z": -34}),
    ("then the passive loss", (joined(rental=-10_000, participates="no", active="yes"), interest(6_000)), 2025, {
        P + "13-C": 6_000, P + "13-D": 4_000, "us.8582.1b": 6_000, E + "32": -6_000}),
    ("the losses of capital assets too", (joined(short_gain=-2_000, long_gain=-2_000), interest(1_000)), 2025, {
        P + "15-C": 500, P + "16-C": 500, "us.sch-d.5": -500, "us.sch-d.12": -500}),
    ("without a paper of its basis nothing is limited", (owned(ordinary=-14_000, all_at_risk="yes"),), 2025, {E + "32": -14_000}),
    ("publicly traded: its loss waits for its own income", (joined(ordinary=-3_000, participates="no", publicly_traded="yes", all_at_risk="yes"), other(ordinary=9_000)), 2025, {
        "us.share[k1].5": 0, "us.share[k2].5": 9_000, E + "32": 9_000}),
    ("and comes with it", (joined(ordinary=5_000, rental=-1_000, passive_before=3_000, participates="no", publicly_traded="yes", all_at_risk="yes"),), 2025, {
        "us.share[k1].5": 1_000, E + "32": 1_000}),
    ("a share that is disposed of has all its losses", (joined(ordinary=-3_000, passive_before=6_000, participates="no", disposed="yes", all_at_risk="yes"),), 2025, {
        "us.share[k1].5": -9_000, E + "32": -9_000, "us.8582.3": 0}),
    ("publicly traded too", (joined(ordinary=-3_000, passive_before=6_000, publicly_traded="yes", participates="no", disposed="yes", all_at_risk="yes"),), 2025, {
        E + "32": -9_000}),
    ("a business of which not all is at risk", (shop(receipts=1_000, supplies=9_000, not_at_risk="yes", at_risk=5_000),), 2025, {
        "us.6198[shop].5": -8_000, "us.6198[shop].20": 5_000, "us.6198[shop].21": 5_000, "us.sch-c[shop].31": -5_000}),
    ("its loss the year after", (shop(receipts=9_000, supplies=4_000, not_at_risk="yes", risk_before=3_000),), 2025, {
        "us.6198[shop].5": 2_000, "us.sch-c[shop].31": 2_000}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_a_loss_is_deducted_once_over_the_years(self):
        """Stock of 5,000 and a loan of 4,000; losses of 15,000, then income of 2,000 and 9,000: what is left of it all is there."""
        now = result(owned(ordinary=-15_000), stock(5_000, loan=4_000, debt=4_000), year=2023)
        self.assertEqual(line_of(now.run, E + "32"), -9_000)
        for income, counted, stock_left, debt_left, waits in ((2_000, 0, 0, 0, 4_000), (9_000, 5_000, 1_000, 4_000, 0)):
            rolled = roll_forward(now).data
            basis = next(one for one in rolled.papers if one.kind == "basis-s")
            now = result(owned(ordinary=income), basis, year=rolled.year)
            found = tuple(line_of(now.run, at) for at in (E + "32", S + "15", S + "31", S + "47-E"))
            self.assertEqual(found, (counted, stock_left, debt_left, waits))

    def test_what_waits_at_risk_is_in_whole_dollars(self):
        now = result(joined(ordinary=-100, section_1231=-100, other_income=-100), interest(300, not_at_risk=200), year=2024)
        basis = next(one for one in roll_forward(now).data.papers if one.kind == "basis-p")
        self.assertEqual([row["amount"] for row in basis.values["risk_rows"]], ["67", "67", "66"])

    def test_what_is_not_at_risk_waits_by_kind(self):
        now = result(joined(ordinary=-6_000, section_1231=-3_000), interest(10_000, not_at_risk=7_000), year=2024)
        basis = next(one for one in roll_forward(now).data.papers if one.kind == "basis-p")
        rows = [(row["item"], row["amount"]) for row in basis.values["risk_rows"]]
        self.assertEqual(rows, [("ordinary", "4000"), ("section_1231", "2000")])
        self.assertEqual(basis.values["basis"], "1000")
