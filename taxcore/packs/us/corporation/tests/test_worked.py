"""A corporation's return worked by hand from the law: tax, dividends received, gifts, losses, capital losses, books."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.corporation.tests.making import about, asset, books, carried, dividends, entry, paper, result, rows, shop
from taxcore.packs.us.property.tests.test_worked import agree

P, J, C, L, M = "us.1120.", "us.sch-j.", "us.sch-c.", "us.sch-l.", "us.sch-m-1."
LAND = ("Land", "land", 0, 50_000)


def profit(amount, *more):
    """Books of receipts of 100,000 and wages that leave so much, with other accounts."""
    wages = 100_000 - amount
    rest = sum(one[2] for one in more)
    accounts = (("Sales", "sales", -100_000, 0), ("Wages", "salaries", wages, 0), *more)
    return books(("Checking", "cash", 100_000 - wages - rest, 0), *accounts)


def estimated(*payments, **values):
    """(day, amount) paid during the year."""
    made = rows(*({"paid": day, "amount": str(amount)} for day, amount in payments))
    return paper("estimates", rows=made, **values)


QUARTERS = ("2025-04-15", "2025-06-16", "2025-09-15", "2025-12-15")  # June 15 is a Sunday
E = "us.2220."

# What it catches; papers; year; {address: amount}
CASES = (
    # 2,000 from each of four days to April 15, at 7%: 140.00, 116.60, 81.32, 46.41
    ("nothing paid: a quarter of last year's tax each time", (estimated(prior_tax=8_000),), 2025, {
        E + "1": 13_503, E + "4": 8_000, E + "5": 8_000, E + "10": 2_000, E + "17": 8_000, E + "38": 384, P + "34": 384, P + "35": 13_887}),
    ("paid in time, also on the Monday after a Sunday", (estimated(*((day, 2_000) for day in QUARTERS), prior_tax=8_000),), 2025, {
        E + "38": 0, P + "33": 8_000, P + "35": 5_503}),
    # 3,376 each: 1,002 days together
    ("no tax last year: this year's", (estimated(prior_tax=0),), 2025, {E + "5": 13_503, E + "10": 3_376, E + "38": 649}),
    ("a year that was not twelve months", (estimated(prior_tax=8_000, prior_part="yes"),), 2025, {E + "5": 13_503}),
    # 2,000, then 3,376 and the 1,376 left out, then 3,376 twice
    ("a large corporation: only the first by last year's tax", (estimated(prior_tax=8_000, large="yes"),), 2025, {E + "5": 13_503, E + "38": 633}),
    # 2,000 late by 61 days, then all of it in time
    ("an installment paid late", (estimated(("2025-06-15", 4_000), *((day, 2_000) for day in QUARTERS[2:]), prior_tax=8_000),), 2025, {E + "38": 23}),
    ("an overpayment of last year counts from the first day", (about(credited_before=8_000), estimated(prior_tax=8_000)), 2025, {E + "38": 0}),
    ("less than 500 of tax", (profit(2_000), estimated(prior_tax=8_000)), 2025, {E + "38": 0}),
    # 244, 183 and 91 days
    ("the balance paid early: to that day", (estimated(prior_tax=8_000, paid_on="2025-12-15"),), 2025, {E + "38": 199}),
    ("payments without their days say nothing", (about(estimates=8_000), estimated(prior_tax=8_000)), 2025, {E + "38": 0, P + "35": 5_503}),
    ("left to the IRS", (estimated(prior_tax=8_000, by_irs="yes"),), 2025, {E + "38": 0, P + "34": 0}),
    ("page 1 out of the books", (), 2025, {
        P + "1a": 200_000, P + "2": 60_000, P + "3": 140_000, P + "5": 200, P + "11": 140_200, P + "12": 10_000,
        P + "13": 40_000, P + "16": 12_000,
        P + "17": 3_000, P + "18": 1_500, P + "19": 900, P + "20": 5_000, P + "22": 2_500, P + "26": 1_000, P + "27": 75_900,
        P + "28": 64_300,
        P + "30": 64_300, P + "31": 13_503}),
    ("21%", (profit(50_000),), 2025, {P + "30": 50_000, J + "1a": 10_500, P + "31": 10_500, P + "35": 10_500}),
    ("paid already: refund", (profit(50_000), about(estimates=12_000)), 2025, {P + "33": 12_000, P + "36": 1_500, P + "37": 1_500}),
    ("of it for next year", (profit(50_000), about(estimates=12_000, credited=1_000)), 2025, {P + "36": 1_500, P + "37": 500}),
    # Dividends of 10,000 from a company of which it owns less than a fifth: half of them
    ("dividends received: 50%", (profit(50_000, ("Dividends", "dividends", -10_000, 0)), dividends(("Wharf Co", "10", 10_000))), 2025, {
        P + "4": 10_000, P + "28": 60_000, C + "24": 5_000, P + "29b": 5_000, P + "30": 55_000, P + "31": 11_550}),
    ("of a fifth or more 65%", (profit(50_000, ("Dividends", "dividends", -10_000, 0)), dividends(("Wharf Co", "30", 10_000))), 2025, {
        P + "29b": 6_500, P + "30": 53_500}),
    # 100,000 of dividends at 65% and an operating loss of 25,000: 65% of 75,000
    ("limited by taxable income", (profit(-25_000, ("Dividends", "dividends", -100_000, 0)), dividends(("Wharf Co", "30", 100_000))), 2025, {
        P + "28": 75_000, P + "29b": 48_750, P + "30": 26_250}),
    # A loss of 40,000: all of 65,000 would make a loss of 5,000, so there is no limit
    ("unless all of it makes a loss", (profit(-40_000, ("Dividends", "dividends", -100_000, 0)), dividends(("Wharf Co", "30", 100_000))), 2025, {
        P + "28": 60_000, P + "29b": 65_000, P + "30": -5_000, P + "31": 0}),
    # Both kinds: 65% of 40,000 is 26,000; half of 40,000 is 20,000, of 50,000 less 40,000 only 5,000
    ("first those of a fifth or more", (
        profit(-30_000, ("Dividends", "dividends", -80_000, 0)),
        dividends(("Wharf Co", "30", 40_000), ("Pier Co", "5", 40_000))), 2025, {
        P + "28": 50_000, P + "29b": 31_000, P + "30": 19_000}),
    ("gifts within a tenth of income", (profit(50_000, ("Donations", "contributions", 9_000, 0)),), 2025, {
        P + "19": 5_000, P + "28": 45_000, P + "30": 45_000, M + "5b": 4_000, M + "10": 45_000}),
    ("and those of before after those of the year", (profit(50_000, ("Donations", "contributions", 3_000, 0)), carried(gifts=[(2022, 1_500), (2024, 4_000)])), 2025, {
        P + "19": 5_000, M + "8b": 2_000}),
    ("losses since 2018: 80%", (profit(50_000), carried(losses=[(2022, 60_000)])), 2025, {P + "29a": 40_000, P + "30": 10_000, P + "31": 2_100}),
    ("older ones first and in full", (profit(50_000), carried(losses=[(2016, 20_000), (2022, 60_000)])), 2025, {P + "29a": 44_000, P + "30": 6_000}),
    ("a loss of this year", (profit(-20_000),), 2025, {P + "28": -20_000, P + "30": -20_000, P + "31": 0}),
    ("capital losses only against gains", (profit(50_000, ("Shares sold", "short_gain", 8_000, 0)),), 2025, {P + "8": 0, P + "28": 50_000, M + "3": 8_000, M + "10": 50_000}),
    ("those of before against this year's gains", (profit(50_000, ("Shares sold", "long_gain", -9_000, 0)), carried(capital=[(2023, 5_000)])), 2025, {
        P + "8": 4_000, P + "28": 54_000, M + "7": 5_000}),
    ("section 179 is its own deduction", (profit(50_000), asset(10_000, section_179=4_000)), 2025, {P + "20": 4_857, P + "28": 45_143, M + "8a": 4_857}),
    ("land sold: capital gain", (
        shop(LAND, ("Gain on land", "asset_gain", -30_000, 0), ("Retained earnings", "retained", -77_000, -77_000)),
        asset(50_000, "land", acquired="2015-01-05", in_service="2015-01-05", sold="2025-06-01", sold_for=80_000)), 2025, {
        P + "8": 30_000, P + "9": 0, P + "28": 99_300}),
    ("exempt interest and tax of the books", (
        profit(50_000, ("City bonds", "exempt_interest", -400, 0), ("Federal tax", "income_tax", 10_000, 0)),), 2025, {
        P + "28": 50_000, M + "1": 40_400, M + "2": 10_000, M + "7a": 400, M + "10": 50_000}),
    ("meals in half, penalties not at all", (), 2025, {M + "1": 63_000, M + "5c": 1_000, M + "5": 1_300, M + "10": 64_300}),
    ("the balance sheet, and retained earnings over the year", (), 2025, {
        L + "15-d": 101_000, L + "25-b": 27_000, L + "25-d": 60_000, L + "28-d": 101_000, "us.sch-m-2.1": 27_000,
        "us.sch-m-2.2": 63_000,
        "us.sch-m-2.5a": 30_000, "us.sch-m-2.8": 60_000}),
    ("a tax entry", (entry("tax", ("Sales", -500), ("Customers", 500)),), 2025, {P + "28": 64_800, M + "4": 500, M + "10": 64_800}),
    ("officers one by one", (paper("officer", "o1", called="Ada Heron", number="900-00-0109", time=100, stock=60, pay=10_000),), 2025, {"us.1125-e.2": 10_000}),
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

    def test_what_waits_comes_along_by_year(self):
        waiting = result(profit(50_000), carried(losses=[(2016, 20_000), (2022, 60_000)])).run.form("us.carryovers")
        self.assertEqual([(row["from_year"], row["amount"]) for row in waiting.losses_left()], [("2022", "36000")])
        made = result(profit(-20_000)).run.form("us.carryovers")
        self.assertEqual([(row["from_year"], row["amount"]) for row in made.losses_left()], [("2025", "20000")])
        given = result(profit(50_000, ("Donations", "contributions", 9_000, 0)), carried(gifts=[(2020, 700), (2024, 4_000)])).run
        self.assertEqual(
            [(row["from_year"], row["amount"]) for row in given.form("us.carryovers").gifts_left()],
            [("2024", "4000"), ("2025", "4000")],
        )
        sold = result(profit(50_000, ("Shares sold", "short_gain", 8_000, 0)), carried(capital=[(2020, 100), (2021, 900)])).run
        self.assertEqual(
            [(row["from_year"], row["amount"]) for row in sold.form("us.carryovers").capital_left()],
            [("2021", "900"), ("2025", "8000")],
        )

    def test_next_year_begins_with_what_this_one_ended_with(self):
        begins = {row["account"]: Decimal(row.get("before", "0")) for row in result().run.form("us.sch-l").rows_next_year()}
        self.assertEqual((begins["Retained earnings"], begins["Common stock"], begins["Checking"]), (-60_000, -1_000, 55_000))
