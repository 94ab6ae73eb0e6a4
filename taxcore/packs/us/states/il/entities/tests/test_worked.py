"""Illinois' returns of partnerships, S corporations and corporations worked by hand from the law: 35 ILCS 5/201, 203, 204, 207, 304."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.corporation.tests import making as c
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.property.tests.test_worked import agree
from taxcore.packs.us.s_corporation.tests import making as s
from taxcore.packs.us.states.il.entities.tests.making import (
    HERE,
    asked,
    asset,
    corporation,
    losses,
    partnership,
    receipts,
    s_corporation,
)

P, S, C = "us-il.il-1065.", "us-il.il-1120-st.", "us-il.il-1120."
A, B = "us-il.sch-k-1-p[ada].", "us-il.sch-k-1-p[ben]."
BONDS = ("Municipal interest", "exempt_interest", -1_000, 0)
CORPORATE = p.ben(sort="corporation", number="00-7654321", **HERE)
LIFT = asset(10_000, no_special="no", bought="2025-05-02")


def plain(module, amount):
    """Books of a business that has only receipts, or only wages; all of it cash."""
    account = ("Sales", "sales", -amount, 0) if amount > 0 else ("Wages", "salaries", -amount, 0)
    return module.books(("Checking", "cash", amount, 0), account)


# What it catches; papers; year; {address: amount}
PARTNERSHIPS = (
    # 65,000 of the business, 200 of interest, less 900 given; 10,000 guaranteed come back; 73,300 at 1.5% are 1,099.50
    ("all of it in Illinois", (), 2025, {
        P + "1": 65_000, P + "4": 200, P + "7": 65_200, P + "8": 900, P + "12": 900, P + "13": 64_300, P + "14": 64_300, P + "20": 10_000,
        P + "23": 74_300, P + "34": 0, P + "35": 74_300, P + "42": 1, P + "46": 74_300, P + "47": 74_300, P + "52": 1_000, P + "53": 73_300,
        P + "54": 1_100}),
    ("pay for what partners do is taken off", (asked(personal_service=50_000),), 2025, {
        P + "26": 50_000, P + "35": 24_300, P + "53": 23_300, P + "54": 350}),
    ("more pay than income leaves a loss, and no tax", (asked(personal_service=80_000),), 2025, {
        P + "35": -5_700, P + "52": 0, P + "53": -5_700, P + "54": 0}),
    ("exempt interest and Illinois' own tax come back", (p.shop(BONDS), asked(own_tax=1_100)), 2025, {
        P + "15": 1_000, P + "16": 1_100, P + "23": 76_400, P + "54": 1_131}),
    ("interest of the United States goes out", (asked(government_interest=150),), 2025, {P + "24": 150, P + "35": 74_150, P + "54": 1_097}),
    # 40% of 64,300; what is guaranteed is Ada's
    ("a corporation pays the replacement tax itself", (p.ada(**HERE), CORPORATE), 2025, {
        P + "27": 25_720, P + "35": 48_580, P + "53": 47_580, P + "54": 714}),
    ("its part of a loss comes back", (plain(p, -10_000), p.ada(services=0, **HERE), CORPORATE), 2025, {
        P + "13": -10_000, P + "21": 4_000, P + "35": -6_000, P + "54": 0}),
    # three quarters; the exemption in that part too
    ("a quarter of the receipts in Wisconsin", (receipts(IL=150_000, WI=50_000),), 2025, {
        P + "39": 74_300, P + "40": 200_000, P + "41": 150_000, P + "43": 55_725, P + "46": 55_725, P + "47": 55_725, P + "52": 750, P + "53": 54_975,
        P + "54": 825}),
    # 74,300 times 0.333333 is 24,766.64; 333 exempt
    ("the factor has six places", (receipts(IL=100_000, WI=200_000),), 2025, {P + "43": 24_767, P + "52": 333, P + "53": 24_434, P + "54": 367}),
    ("losses of earlier years, the oldest first", (asked(losses=losses((2022, 20_000), (2023, 10_000))),), 2025, {
        P + "50": 30_000, P + "51": 44_300, P + "53": 43_300, P + "54": 650}),
    ("no more of them than income", (asked(losses=losses((2022, 20_000), (2023, 90_000))),), 2025, {
        P + "50": 74_300, P + "51": 0, P + "53": 0, P + "54": 0, "us-il.loss.3": 35_700}),
    ("a loss of this year waits", (plain(p, -10_000), p.ada(services=0, **HERE), p.ben(**HERE)), 2025, {P + "47": -10_000, "us-il.loss.3": 10_000}),
    ("a loss of twenty-one years ago is gone", (asked(losses=losses((2004, 5_000), (2005, 4_000))),), 2025, {P + "50": 4_000}),
    # 10,000 at once against a seventh by half a year: 1,429
    ("the federal allowance comes back, Illinois' depreciation goes out", (LIFT,), 2025, {P + "1": 60_000, P + "17": 8_571, P + "23": 77_871}),
    # 4.95% of 74,300 without exemption; shares of 48,580 and 25,720
    ("the tax of the entity, and its credit to members", (asked(entity_tax="yes"),), 2025, {
        P + "60": 74_300, P + "61": 3_678, A + "53": 2_405, B + "53": 1_273}),
    ("the entity's tax knows no pay and no corporation", (p.ada(**HERE), CORPORATE, asked(entity_tax="yes", personal_service=50_000)), 2025, {
        P + "35": -1_420, P + "54": 0, P + "60": 74_300, P + "61": 3_678}),
    ("nothing is withheld from those who live in Illinois", (), 2025, {P + "59": 0, A + "54": 0}),
    ("4.95% is withheld from those who do not", (p.ada(**HERE), p.ben()), 2025, {A + "54": 0, B + "54": 1_273, P + "59": 1_273}),
    ("of what is apportioned to Illinois", (p.ada(), p.ben(), receipts(IL=150_000, WI=50_000)), 2025, {
        A + "54": 1_804, B + "54": 955, P + "59": 2_759}),
    ("9.5% from a corporation, 1.5% from a partnership", (
        p.ada(sort="partnership", number="00-7654322"), p.ben(sort="corporation", number="00-7654321")), 2025, {A + "54": 729, B + "54": 2_443}),
    ("6.45% from a trust", (p.ada(**HERE), p.ben(sort="trust", number="00-7654321")), 2025, {B + "54": 1_659}),
    ("none from who is exempt or has certified to pay", (
        p.ada(sort="exempt", number="00-7654322"), p.ben(), asked(certified=p.rows({"owner": "ben"}))), 2025, {A + "54": 0, B + "54": 0}),
    ("less by the credit of the entity's tax", (p.ada(**HERE), p.ben(sort="corporation", number="00-7654321"), asked(entity_tax="yes")), 2025, {
        B + "53": 1_273, B + "54": 1_170}),
    # 1,100 of tax and 1,273 withheld, 2,000 paid
    ("what is left to pay", (p.ada(**HERE), p.ben(), asked(estimates=1_500, with_extension=500)), 2025, {P + "64": 2_373, P + "66": 2_000, P + "70": 373}),
    ("too much was paid: 500 of it for next year", (asked(estimates=2_000, credited=500),), 2025, {
        P + "67": 900, P + "68": 500, P + "69": 400, P + "70": 0}),
)  # fmt: skip
S_CORPORATIONS = (
    # officers' pay stays deducted; 64,300 at 1.5% are 964.50
    ("all of it in Illinois", (), 2025, {
        S + "1": 65_000, S + "4": 200, S + "7": 65_200, S + "8": 900, S + "13": 64_300, S + "22": 64_300, S + "33": 64_300, S + "45": 64_300,
        S + "51": 64_300, S + "52": 965}),
    ("an exempt shareholder's part goes out", (s.ada(**HERE), s.ben(sort="exempt", number="00-7654321", **HERE)), 2025, {
        S + "24": 25_720, S + "33": 38_580, S + "52": 579}),
    ("its part of a loss comes back", (plain(s, -10_000), s.ada(distributed=0, **HERE), s.ben(sort="exempt", number="00-7654321", distributed=0, **HERE)), 2025, {
        S + "20": 4_000, S + "33": -6_000, S + "52": 0}),
    ("exempt interest, Illinois' tax", (s.shop(BONDS), asked(own_tax=965)), 2025, {S + "15": 1_000, S + "16": 965, S + "22": 66_265, S + "52": 994}),
    ("interest of the United States", (asked(government_interest=100),), 2025, {S + "23": 100, S + "33": 64_200, S + "52": 963}),
    ("a quarter elsewhere", (receipts(IL=150_000, IN=50_000),), 2025, {S + "37": 64_300, S + "40": Decimal("0.75"), S + "41": 48_225, S + "44": 48_225, S + "52": 723}),
    ("losses have no limit in dollars", (plain(s, 200_000), asked(losses=losses((2021, 150_000)))), 2023, {S + "48": 150_000, S + "51": 50_000, S + "52": 750}),
    ("the tax of the entity", (asked(entity_tax="yes"),), 2025, {S + "58": 64_300, S + "59": 3_183, A + "53": 1_910, B + "53": 1_273}),
    ("withheld from a shareholder in Florida", (s.ada(**HERE), s.ben()), 2025, {B + "54": 1_273, S + "57": 1_273}),
    ("what is left to pay", (asked(credited_before=300),), 2025, {S + "62": 965, S + "64": 300, S + "68": 665}),
)  # fmt: skip
CORPORATIONS = (
    # 64,300 at 2.5% are 1,607.50, at 7% 4,501
    ("all of it in Illinois", (), 2025, {
        C + "1": 64_300, C + "9": 64_300, C + "21": 64_300, C + "33": 64_300, C + "37": 64_300, C + "38": 1_608, C + "42": 1_608, C + "43": 4_501,
        C + "47": 4_501, C + "52": 6_109}),
    ("federal losses come back, Illinois has its own", (c.carried(losses=[(2023, 10_000)]),), 2025, {C + "1": 54_300, C + "2": 10_000, C + "9": 64_300}),
    ("Illinois' taxes come back", (asked(own_tax=4_000),), 2025, {C + "4": 4_000, C + "21": 68_300, C + "38": 1_708, C + "43": 4_781}),
    ("exempt interest comes back, of the United States goes out", (c.shop(BONDS), asked(government_interest=200)), 2025, {
        C + "3": 1_000, C + "10": 200, C + "21": 65_100}),
    ("a third here", (receipts(IL=100_000, MO=200_000),), 2025, {C + "28": Decimal("0.333333"), C + "29": 21_433, C + "33": 21_433, C + "38": 536, C + "43": 1_500}),
    ("losses within 100,000 in 2023", (plain(c, 600_000), asked(losses=losses((2021, 700_000)))), 2023, {
        C + "36": 100_000, C + "37": 500_000, C + "38": 12_500, C + "43": 35_000, "us-il.loss.3": 600_000}),
    ("within 500,000 in 2024", (plain(c, 600_000), asked(losses=losses((2021, 700_000)))), 2024, {C + "36": 500_000, C + "37": 100_000}),
    ("and in 2025", (plain(c, 600_000), asked(losses=losses((2021, 300_000), (2022, 400_000)))), 2025, {
        C + "36": 500_000, C + "37": 100_000, "us-il.loss.3": 200_000}),
    ("a loss of this year waits", (plain(c, -10_000),), 2025, {C + "33": -10_000, C + "38": 0, "us-il.loss.3": 10_000}),
    ("the federal allowance comes back", (LIFT,), 2025, {C + "1": 59_300, C + "5": 8_571, C + "9": 67_871}),
    ("paid, left to pay", (asked(estimates=5_000, with_extension=200),), 2025, {C + "52": 6_109, C + "56": 5_200, C + "61": 909}),
    ("paid too much: refunded and kept", (asked(estimates=7_000, credited=300),), 2025, {C + "57": 891, C + "58": 300, C + "60": 591, C + "61": 0}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_partnerships(self):
        self._hold(PARTNERSHIPS, partnership)

    def test_s_corporations(self):
        self._hold(S_CORPORATIONS, s_corporation)

    def test_corporations(self):
        self._hold(CORPORATIONS, corporation)

    def _hold(self, cases, result):
        for catches, papers, year, wanted in cases:
            agree(self, catches, result(*papers, year=year).run, wanted)
