"""Gains with their reliefs, homes with periods of residence, and what is collected otherwise: worked by hand."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.engine.filed import filed_document
from taxcore.packs.uk.individual import HMRC
from taxcore.packs.uk.individual.residence import Period, relieved_days
from taxcore.packs.uk.individual.tests.test_worked import about, paper, pay, result, sold

D = Decimal


def home(*periods, **values):
    rows = [{"id": str(n), "why": why, "begun": begun, "ended": ended} for n, (why, begun, ended) in enumerate(periods, 1)]
    given = {"asset": "Fell House", "bought": "2010-01-01", "sold": "2026-01-01", "proceeds": "392200", "costs": "100000"}
    return paper("home", "h1", **(given | {"periods": rows} | values))


SHARES = {"day": "2025-06-01", "proceeds": "13000", "costs": "3000"}
LIVED = (("lived", "2010-01-01", "2015-12-31"), ("abroad", "2016-01-01", "2017-12-31"), ("lived", "2018-01-01", "2018-12-31"))

# What it catches; papers; options; {form.attribute: amount}
CASES = (
    ("business gains use up the basic band first: 270 of the shares' 7,000 are left in it", (pay(30_000), sold(
        SHARES, {"day": "2025-06-01", "business": "yes", "proceeds": "20000", "costs": "0"})), {}, {"uk.gains-tax.tax": "4463.80"}),
    ("above a million of a lifetime the ordinary rate: 10,000 at 14%, 20,000 less 3,000 at 24%", (pay(60_000), sold(
        {"day": "2025-06-01", "business": "yes", "proceeds": "30000", "costs": "0"}, business_before="990000")), {}, {
        "uk.gains-tax.tax": "5480.00", "uk.sa108.business_after": "1000000"}),
    ("investors' relief of 2025-26: 14%", (pay(60_000), sold(
        {"day": "2025-06-01", "relief": "investors", "proceeds": "103000", "costs": "0"})), {}, {"uk.gains-tax.tax": "14000.00"}),
    ("digital assets of 2023-24 stand among other assets", (sold(SHARES | {"kind": "digital", "day": "2023-06-01"}),), {"year": 2023}, {
        "uk.sa108.others_gains": "10000", "uk.sa108.digital_gains": "0", "uk.sa108.gains": "10000"}),
    ("and have boxes of their own from 2024-25", (sold(SHARES | {"kind": "digital"}, SHARES | {"kind": "listed"}),), {}, {
        "uk.sa108.digital_gains": "10000", "uk.sa108.listed_gains": "10000", "uk.sa108.gains": "20000"}),
    ("to the spouse: neither gain nor loss", (pay(60_000), sold(SHARES | {"relief": "spouse"})), {}, {"uk.sa108.gains": "0"}),
    ("held over, but for what was paid: 10,000 less 6,000", (pay(60_000), sold(
        SHARES | {"relief": "held_over", "relieved": "6000"})), {}, {"uk.sa108.gains": "4000"}),
    ("rolled into a new asset", (pay(60_000), sold(SHARES | {"relief": "rolled_over", "relieved": "10000"})), {}, {"uk.sa108.gains": "0"}),
    ("deferred by an investment", (pay(60_000), sold(SHARES | {"relief": "deferred", "relieved": "2500"})), {}, {"uk.sa108.gains": "7500"}),
    ("gains that were deferred come back", (pay(60_000), paper("gains", deferred_back="8000")), {}, {"uk.gains-tax.tax": "1200.00"}),
    ("a home: 3,562 of 5,844 days at 50 a day", (pay(60_000), home(*LIVED)), {}, {"uk.sa108.gains": "114100", "uk.gains-tax.tax": "26664.00"}),
    ("half of it is another's", (pay(60_000), home(*LIVED, percent="50")), {}, {"uk.sa108.gains": "57050"}),
    ("a part never lived in", (pay(60_000), home(("lived", "2010-01-01", "2025-12-31"), business_percent="10")), {}, {"uk.sa108.gains": "29220"}),
    ("what was paid within sixty days is taken off", (pay(60_000), home(*LIVED, tax_paid="20000", reported="2026-02-01")), {}, {
        "uk.sa110.gains_tax": "6664.00"}),
    ("and more than is due is repaid", (pay(60_000, "11432"), home(*LIVED, tax_paid="27000", reported="2026-02-01")), {}, {
        "uk.sa110.gains_tax": "0", "uk.sa110.repaid": "336.00"}),
    ("a loan of 20,000 that became 30,000: 3.75% of 25,000", (pay(60_000, loan_begun="20000", loan_ended="30000"),), {}, {
        "uk.income.employments": "60937"}),
    ("less the interest that was paid", (pay(60_000, loan_begun="20000", loan_ended="30000", loan_interest="500"),), {}, {
        "uk.income.employments": "60437"}),
    ("above it in between: 3.75% of 9,500", (pay(60_000, loan_begun="9000", loan_ended="10000", loan_above="yes"),), {}, {
        "uk.income.employments": "60356"}),
    ("never above 10,000: no benefit", (pay(60_000, loan_begun="9000", loan_ended="10000"),), {}, {"uk.income.employments": "60000"}),
    ("2.25% in 2024-25", (pay(60_000, loan_begun="20000", loan_ended="30000"),), {"year": 2024}, {"uk.income.employments": "60562"}),
    ("of what was taken off, 500 was for earlier years", (pay(60_000, "11932"),), {"code_earlier": "500"}, {"uk.sa110.due": "0"}),
    ("432 are collected by a later code", (pay(60_000, "11000"),), {"code_later": "432"}, {"uk.sa110.due": "0"}),
    ("payments on account lowered by a claim", (paper("property", rents="30000"),), {"reduced_to": "1000", "reduced_why": "Sold"}, {
        "uk.sa110.on_account": "1000.00"}),
    ("more to pay for an earlier year", (pay(60_000, "11432"),), {"earlier_more": "250"}, {"uk.sa110.due": "250.00"}),
    ("and less", (pay(60_000, "11000"),), {"earlier_less": "100"}, {"uk.sa110.due": "332.00"}),
)  # fmt: skip


class GainsTests(TestCase):
    def test_by_hand(self):
        for catches, papers, options, wanted in CASES:
            found = result(*papers, **options)
            for name, amount in wanted.items():
                form, _, attribute = name.rpartition(".")
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(found.run.form(form), attribute), D(amount))

    def test_pages_below_the_thresholds_stay_at_home(self):
        """3,000 of gains and 40,000 received are not reported; a pound of gain more is, and so is 50,001 received, or a loss."""
        for row, values, files in (
            ({"proceeds": "40000", "costs": "37000"}, {}, False), ({"proceeds": "40001", "costs": "37000"}, {}, True),
            ({"proceeds": "50001", "costs": "50000"}, {}, True), ({"proceeds": "40000", "costs": "41000"}, {}, True),
            ({"proceeds": "40000", "costs": "37000"}, {"file_anyway": "yes"}, True),
        ):  # fmt: skip
            found = result(pay(60_000), sold({"day": "2025-06-01"} | row, **values))
            with self.subTest(row):
                self.assertEqual("uk.gains-not-filed" in {one.code for one in found.findings}, not files)
                self.assertEqual(b"<GainsPage" in filed_document(found, HMRC, "1", "0" * 64), files)

    def test_what_is_used_of_a_lifetime_comes_along(self):
        used = sold({"day": "2025-06-01", "business": "yes", "proceeds": "30000", "costs": "0"}, business_before="1000")
        here = result(pay(60_000), used, year=2024)
        rolled = {one.kind: one.values for one in roll_forward(here).data.papers}
        self.assertEqual(D(rolled["gains"]["business_before"]), 31_000)

    def test_what_stops(self):
        for papers, code in (
            ((sold(SHARES | {"relief": "held_over"}),), "uk.relief-amount"),
            ((sold(SHARES | {"relief": "held_over", "relieved": "10001"}),), "uk.relief-above-gain"),
            ((home(("lived", "2009-01-01", "2010-01-01")),), "uk.home-periods"),
            ((home(*LIVED, let_beside="yes"),), "uk.home-let"),
            ((home(*LIVED, tax_paid="100"),), "uk.sixty-days-unsaid"),
            ((about(reduced_to="5", region="england"),), "uk.reduced-why"),
            ((about(code_earlier="5", region="england"),), "uk.code-no-pay"),
        ):
            with self.subTest(code):
                more = () if code == "uk.code-no-pay" else (pay(60_000),)
                self.assertIn(code, {one.code for one in result(*more, *papers).findings if one.weight == "stops"})


class ResidenceDayTests(TestCase):
    """TCGA 1992 s. 223: what counts as lived in, by days."""

    BOUGHT, SOLD = date(2010, 1, 1), date(2026, 1, 1)

    def days(self, *periods):
        given = [Period(why, date.fromisoformat(begun), date.fromisoformat(ended)) for why, begun, ended in periods]
        return relieved_days(self.BOUGHT, self.SOLD, given)

    def test_by_hand(self):
        """2,191 days of 2010 to 2015, 731 of 2016 and 2017, 365 of 2018, 275 from April 2025."""
        self.assertEqual(self.days(*LIVED), 2_191 + 731 + 365 + 275)

    def test_never_lived_in_counts_for_nothing(self):
        self.assertEqual(self.days(("abroad", "2010-01-01", "2025-12-31")), 0)

    def test_an_absence_that_nobody_came_back_from(self):
        """Of work abroad or elsewhere that stopped them it counts all the same where they could not; of any reason it does not."""
        self.assertEqual(self.days(("lived", "2010-01-01", "2010-12-31"), ("any", "2011-01-01", "2012-12-31")), 365 + 275)

    def test_three_years_for_any_reason_four_for_work_elsewhere(self):
        around = (("lived", "2010-01-01", "2010-12-31"), ("lived", "2016-01-01", "2016-12-31"))
        five = ("2011-01-01", "2015-12-31")
        self.assertEqual(self.days(*around, ("any", *five)), 365 + 366 + 1_096 + 275)
        self.assertEqual(self.days(*around, ("elsewhere", *five)), 365 + 366 + 1_461 + 275)
        self.assertEqual(self.days(*around, ("abroad", *five)), 365 + 366 + 1_826 + 275)

    def test_no_day_counts_twice(self):
        self.assertEqual(self.days(("lived", "2010-01-01", "2025-12-31")), 5_844)
        self.assertEqual(self.days(("lived", "2010-01-01", "2020-12-31"), ("lived", "2015-01-01", "2025-12-31")), 5_844)
