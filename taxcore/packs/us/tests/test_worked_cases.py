"""Returns worked out by hand, line by line: the engine must give the same, explain each figure, and stop only where it is said."""

from unittest import TestCase

from taxcore.engine import compute, document, words
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.worked import all_cases, rounded_as, worked_out

CASES = list(all_cases())


DENIED = [  # case                                 the benefit        why it is zero
    ("care/one-earner",                          "us.1040.20",       "the spouse has no earned income"),
    ("care/too-old",                             "us.2441.11",       "no qualifying person is under 13 or incapable of self-care"),
    ("earned-income/filed-apart",                "us.1040.27a",      "a married taxpayer must file jointly"),
    ("earned-income/investments-over",           "us.1040.27a",      "investment income is above the limit"),
    ("education/past-the-range",                 "us.1040.29",       "180,000 is not above"),
    ("education/filer-below-24",                 "us.1040.29",       "supported by parents"),
    ("savers/above",                             "us.sch-3.4",       "income exceeds the limit"),
    ("marketplace/above-400-in-2026",            "us.8962.24",       "exceeds 400% of the poverty line"),
    ("additional-deductions/car-loan-older",     "us.1040.13b",      "no qualifying vehicle loan"),
    ("additional-deductions/senior-past",        "us.1040.13b",      "6,000 is not above"),
    ("adjustments/student-loan-past",            "us.sch-1.21",      "2,000 is not above"),
    ("adjustments/refund-not-itemised",          "us.sch-1.1",       "last year's return was not itemized"),
    ("ira/covered-at-the-end",                   "us.sch-1.20",      "exceeds the phaseout for active participants"),
    ("qualified-business/service-trade-above",   "us.1040.13a",      "it is an SSTB"),
    ("underpayment/last-years-tax",              "us.1040.38",       "withholding was sufficient"),
    ("self-employed/below-400",                  "us.sch-2.4",       "earnings are under $400"),
    ("energy/ended",                             "us.sch-3.8",       "it ended with 2025"),
    ("benefits/below-the-base",                  "us.1040.6b",       "income does not exceed the base amount"),
    ("minimum-tax/taxes-added-back",             "us.6251.11",       "the regular tax is higher"),
]  # fmt: skip


class WorkedCaseTests(TestCase):
    def test_a_benefit_that_was_denied_says_why(self):
        by_name = {f"{case.topic}/{case.name}": case for case in CASES}
        for name, address, why in DENIED:
            with self.subTest(name):
                result = compute(PACK, document.read(by_name[name].document))
                form = result.run.form(address.rsplit(".", 1)[0])
                cell = next(
                    form.cell(n) for n, spec in form.specs.items() if spec.number_in(result.year) == address.rsplit(".", 1)[1]
                )
                self.assertEqual(cell.value, 0)
                self.assertIn(why, words.why_zero(cell))

    def test_each_is_what_the_hand_found_and_says_how(self):
        """Its lines; that it stops where it says and nowhere else; that every figure is reproduced by its operands."""
        for case in CASES:
            result, name = compute(PACK, document.read(case.document)), f"{case.topic}/{case.name}"
            for address, text in case.lines.items():
                with self.subTest(f"{name}: {case.why}", address=address):
                    cell = result[address]
                    self.assertEqual(cell.value, rounded_as(cell, worked_out(text, result)), text)
            with self.subTest(name):
                stops = {one.code for one in result.findings if one.weight == "stops"}
                # What a preparer must ask is no part of these returns
                self.assertEqual({code for code in stops if not code.startswith("us.diligence.")}, set(case.stops))
            for cell in result.lines():
                with self.subTest(name, address=cell.address):
                    assert_explained(self, cell)

    def test_there_are_enough_of_them_over_all_years(self):
        self.assertGreaterEqual(len(CASES), 120)
        self.assertEqual({case.document["year"] for case in CASES}, set(PACK.years))
