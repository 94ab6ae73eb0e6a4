"""Foreign earned income and housing, worked by hand from IRC 911: limits by days, housing, and tax at the rates of what is left out."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, shop
from taxcore.packs.us.tests.returns import child, codes, person, w2

F, TAX, DUE = "us.2555[taxpayer].", "us.foreign-earned-tax.", "us.1040.16"


def abroad(**values):
    """A teacher who has lived in Lisbon since 2023."""
    given = {"country": "Portugal", "employer": "Escola do Cais", "employer_kind": "foreign", "test": "residence",
             "residence_from": "2023-01-01"}  # fmt: skip
    return paper("foreign-earned", owner="taxpayer", **given | values)


def visiting(days=340, **values):
    given = {
        "test": "presence",
        "residence_from": "",
        "presence_from": "2025-04-11",
        "presence_to": "2026-04-10",
        "days_abroad": days,
    }
    return abroad(**given | values)


def own(income, **values):
    return shop(income), abroad(employer_kind="self", business_income=income, **values)


def dividends(amount):
    return paper("1099-div", "d1", payer="Heron Fund", dividends=amount, qualified=amount)


CASES = (
    ("all of it is left out", (abroad(pay=100_000),), 2025, {
        "us.1040.1h": 100_000, F + "26": 100_000, F + "38": 365, F + "40": 130_000, F + "42": 100_000, F + "45": 100_000, "us.sch-1.8d": -100_000,
        "us.1040.11a": 0, DUE: 0}),
    ("above the limit: taxed at 24%, as if the rest were there", (abroad(pay=200_000),), 2025, {
        F + "42": 130_000, "us.1040.11a": 70_000, "us.1040.15": 54_250, TAX + "3": 184_250, TAX + "4": 37_067, TAX + "5": 24_047, DUE: 13_020}),
    ("the limits of other years", (abroad(pay=200_000),), 2024, {F + "42": 126_500}),
    ("2023", (abroad(pay=200_000),), 2023, {F + "42": 120_000}),
    ("330 days of twelve months: 265 days of them in this year", (visiting(pay=120_000),), 2025, {
        F + "38": 265, F + "40": 94_380, F + "42": 94_380, "us.1040.11a": 25_620, TAX + "4": 17_867, TAX + "5": 15_677, DUE: 2_190}),
    ("329 days are not enough", (visiting(329, pay=120_000),), 2025, {F + "42": 0, "us.1040.11a": 120_000}),
    ("residence without a whole year", (abroad(pay=50_000, residence_from="2025-02-01", residence_to="2025-12-30"),), 2025, {F + "42": 0}),
    ("residence that began in the year and goes on: a whole year is still to come", (abroad(pay=50_000, residence_from="2025-02-01"),), 2025, {F + "42": 0}),
    ("residence that ended after a whole year", (abroad(pay=150_000, residence_to="2025-07-01"),), 2025, {F + "38": 182, F + "40": 64_870, F + "42": 64_870}),
    ("a leap year has 366 days", (abroad(pay=150_000, residence_to="2024-07-01"),), 2024, {F + "38": 183, F + "40": 63_250}),
    ("paid by a government of the United States", (abroad(pay=50_000, employer_kind="government"),), 2025, {F + "42": 0}),
    ("on a W-2 it is not wages again", (w2(100_000), abroad(on_w2=80_000)), 2025, {
        "us.1040.1a": 100_000, "us.1040.1h": 0, F + "42": 80_000, "us.1040.11a": 20_000}),
    ("housing that the employer pays for", (abroad(pay=150_000, housing=35_000, employer_paid=150_000),), 2025, {
        F + "30": 35_000, F + "32": 20_800, F + "33": 14_200, F + "35": 1, F + "36": 14_200, F + "41": 135_800, F + "42": 130_000, F + "43": 144_200,
        F + "45": 144_200, F + "50": 0, "us.1040.11a": 5_800}),
    ("no more than 30% of the limit, unless the place has more", (abroad(pay=200_000, housing=50_000, employer_paid=200_000),), 2025, {
        F + "29b": 39_000, F + "30": 39_000, F + "36": 18_200}),
    ("a place with more", (abroad(pay=200_000, housing=50_000, housing_limit=62_000, employer_paid=200_000),), 2025, {F + "30": 50_000, F + "36": 29_200}),
    ("part of a year of housing", (visiting(pay=150_000, housing=20_000, employer_paid=150_000),), 2025, {
        F + "29b": 28_315, F + "32": 15_102, F + "36": 4_898}),
    ("half of the pay is the employer's housing", (abroad(pay=100_000, housing=30_800, employer_paid=50_000),), 2025, {F + "35": Decimal("0.5"), F + "36": 5_000}),
    ("self-employed: a deduction, and all of the self-employment tax", own(160_000, housing=45_000, deductions=9_184), 2025, {
        "us.sch-se[taxpayer].12": 22_607, F + "36": 0, F + "43": 130_000, F + "45": 120_816, F + "46": 18_200, F + "47": 30_000, F + "50": 18_200,
        "us.sch-1.8d": -120_816, "us.sch-1.24j": 18_200, "us.1040.11a": 9_680}),
    ("no more than what is left of earned income", own(140_000, housing=45_000), 2025, {F + "47": 10_000, F + "50": 10_000}),
    ("last year's housing in this year's room", own(150_000, housing_before=8_200), 2025, {F + "48": 0, F + "49": 8_200, F + "50": 8_200}),
    ("meals and lodging at a camp", (abroad(pay=100_000, in_kind=12_000, camp=12_000),), 2025, {F + "24": 112_000, F + "26": 100_000, "us.1040.1h": 100_000}),
    ("dividends above it: 15%, and 24% on what is left", (abroad(pay=150_000), dividends(10_000)), 2025, {
        "us.1040.15": 14_250, TAX + "3": 144_250, TAX + "4": 26_567, DUE: 2_520}),
    ("more dividends than taxable income", (abroad(pay=130_000), dividends(20_000)), 2025, {
        "us.1040.15": 4_250, "us.qualified-dividends-worksheet.4": 4_250, TAX + "4": 24_685, DUE: 638}),
    ("the minimum tax at the same rates", (abroad(pay=130_000), PaperValues("minimum-tax", "minimum-tax", {"stock_options": "300000"})), 2025, {
        "us.6251.6": 211_900, "us.6251.7": 57_150, "us.6251.11": 57_150}),
    ("no compensation is left for an IRA", (abroad(pay=100_000), paper("ira", owner="taxpayer", traditional=5_000)), 2025, {
        "us.ira-deduction[taxpayer].3": 0, "us.sch-1.20": 0}),
    ("income as it is modified: student loans", (abroad(pay=180_000), paper("1098-e", owner="taxpayer", lender="Bank", interest=2_500)), 2025, {
        "us.student-loans.4": 180_000, "us.sch-1.21": 0}),
    ("no earned income credit, no additional child tax credit", (person(), abroad(pay=40_000), child()), 2025, {
        "us.earned-income-credit.6": 0, "us.sch-8812.27": 0, "us.sch-8812.3": 40_000}),
)  # fmt: skip


class ForeignEarnedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_housing_that_was_not_deducted_waits_a_year(self):
        form = result(*own(140_000, housing=45_000)).run.form("us.2555", "taxpayer")
        self.assertEqual(form.left, 8_200)

    def test_a_state_that_would_need_to_know_waits(self):
        at_home = PaperValues("filing", "filing", {"residence": "CA", "state": "CA"})
        self.assertIn("us.2555.state", codes(result(at_home, abroad(pay=50_000))))
        self.assertNotIn("us.2555.state", codes(result(abroad(pay=50_000))))
