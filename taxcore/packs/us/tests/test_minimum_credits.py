"""What the minimum tax leaves for later years (Form 8801, parts I and II) and Form 1116 for it, by hand from IRC 53(d), 59(a).

Single, wages of 200,000 in 2025: taxable 184,250, tax 37,067. With 300,000 more for the minimum tax: 500,000 less 88,100 is
411,900; 26% of 239,100 and 28% of the rest are 110,550, the minimum tax 73,483.
"""

from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, wage
from taxcore.packs.us.tests.returns import codes

M, X, F = "us.6251.", "us.exclusion-items.", "us.1116-amt."
PAY = wage(200_000)


def items(**values):
    return PaperValues("minimum-tax", "minimum-tax", {name: str(value) for name, value in values.items()})


def bonds(amount):
    return paper("1099-int", "i1", owner="taxpayer", payer="Port Authority", exempt=amount, private_activity=amount)


def foreign(tax=60_000, income=200_000, **values):
    given = {"category": "general", "gross_income": income, "other_tax": tax, "simplified": "yes"} | values
    return PaperValues("foreign-tax", "foreign-tax", {name: str(value) for name, value in given.items()})


def before(amount):
    return PaperValues("credits-carried", "credits-carried", {"minimum_tax": str(amount)})


CASES = (
    ("options are timing: all of it is a credit", (PAY, items(stock_options=300_000)), 2025, {
        M + "11": 73_483, X + "4": 200_000, X + "9": 29_094, X + "11": 0}),
    ("interest of private activity bonds is not", (PAY, bonds(300_000)), 2025, {M + "11": 73_483, X + "11": 73_483}),
    ("some of each", (PAY, bonds(100_000), items(stock_options=200_000)), 2025, {
        M + "11": 73_483, X + "4": 300_000, X + "9": 55_094, X + "11": 18_027}),
    ("without a minimum tax nothing is added", (PAY, items(stock_options=9)), 2025, {M + "11": 0}),
    # All of the income is foreign: a limit of all of the tax, and with the simplified one of 400,000 of 500,000 of the minimum tax
    ("foreign tax: its limit by the minimum tax", (PAY, items(stock_options=300_000), foreign()), 2025, {
        "us.1116.7": 184_250, "us.1116.19": 1, "us.1116.24": 37_067, F + "17": 184_250, F + "18": 500_000, F + "20": 110_550,
        F + "21": 40_738, F + "24": 40_738, M + "8": 40_738, M + "10": 0, M + "11": 69_812}),
    ("no more than there is", (PAY, items(stock_options=300_000), foreign(tax=20_000)), 2025, {
        F + "24": 20_000, M + "8": 20_000, M + "10": 17_067, M + "11": 73_483}),
)  # fmt: skip

ADDED = (
    73_483,
    0,
    55_456,
    0,
    67_522,
    73_483,
)  # for each of them, to next year's credit; the fifth: 29,094 less 26,804 of foreign tax


class MinimumCreditTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_is_added(self):
        for (catches, papers, year, _), wanted in zip(CASES, ADDED, strict=True):
            with self.subTest(catches):
                self.assertEqual(result(*papers, year=year).run.form("us.8801").added, wanted)

    def test_next_year_has_what_was_left_and_what_came(self):
        run = result(PAY, items(stock_options=300_000), before(9_000)).run
        self.assertEqual(run.form("us.8801").carried_on, 82_483)

    def test_without_the_election_it_stops(self):
        stopped = "us.unsupported.1116-minimum"
        self.assertIn(stopped, codes(result(PAY, items(stock_options=300_000), foreign(simplified=""))))
        self.assertNotIn(stopped, codes(result(PAY, items(stock_options=300_000), foreign())))
