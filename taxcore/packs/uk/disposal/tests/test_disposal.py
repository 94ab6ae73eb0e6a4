"""Returns within sixty days of a home's sale, worked by hand: each names the mistake that it catches."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, Period, ReturnData, compute
from taxcore.engine.filed import filed_document
from taxcore.packs.uk.disposal import HMRC, PACK, issues
from taxcore.packs.uk.individual import PACK as YEAR
from taxcore.packs.uk.individual.tests.test_gains import LIVED, home
from taxcore.packs.uk.individual.tests.test_worked import pay, person
from taxcore.packs.uk.individual.tests.test_worked import result as whole_year

D = Decimal
LET = {"bought": "2010-01-01", "proceeds": "100000", "costs": "50000"}


def result(*papers, day=date(2026, 1, 20), **estimated):
    estimate = PaperValues("estimate", "estimate", {"income": "47430"} | estimated)
    return compute(PACK, ReturnData("uk-home", PACK.law_year(day), (person(), estimate, *papers), period=Period(day, day)))


# What it catches; the home; what else is said; {line: amount}
CASES = (
    ("above the basic band: 114,100 less 3,000 at 24%", home(*LIVED), {}, {"gain": "114100", "tax": "26664.00", "owed": "26664.00"}),
    ("20,270 of the band are left: at 18%", home(*LIVED), {"income": "17430"}, {"room": "20270", "tax": "25447.80"}),
    ("on top of an earlier home of the year, less what was paid for it", home(*LIVED),
     {"earlier_gains": "50000", "earlier_paid": "11280"}, {"tax": "38664.00", "owed": "27384.00"}),
    ("losses first, then the exempt amount", home(*LIVED), {"losses": "10000"}, {"taxable": "101100", "tax": "24264.00"}),
    ("no more losses than gains", home(*LIVED), {"losses": "200000"}, {"losses": "114100", "tax": "0"}),
    ("a later loss gives back of what was paid", home(proceeds="80000", costs="100000"),
     {"earlier_gains": "50000", "earlier_paid": "11280"}, {"loss": "20000", "tax": "6480.00", "repaid": "4800.00", "owed": "0"}),
    ("half of it is the taxpayer's: 57,050 less 3,000", home(*LIVED, percent="50"), {}, {"tax": "12972.00"}),
    ("2023-24: 28%, and 6,000 exempt", home(sold="2024-01-10", **LET), {"day": date(2024, 1, 20)}, {"tax": "12320.00"}),
    ("2024-25: 24%, and 3,000 exempt", home(sold="2025-01-10", **LET), {"day": date(2025, 1, 20)}, {"tax": "11280.00"}),
)  # fmt: skip


class DisposalTests(TestCase):
    def test_by_hand(self):
        for catches, sold, options, wanted in CASES:
            form = result(sold, **options).run.form("uk.ppd")
            for name, amount in wanted.items():
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(form, name), D(amount))

    def test_due_sixty_days_after_completion(self):
        self.assertEqual(HMRC.due_on(2025, "", Period(date(2026, 1, 20), date(2026, 1, 20))), date(2026, 3, 21))

    def test_the_document_says_of_which_day_it_is(self):
        self.assertIn(b'ends="2026-01-20"', filed_document(result(home(*LIVED)), HMRC, "1", "0" * 64))

    def test_what_it_issues_gives_the_year_its_credit(self):
        """The year's return with the paper that came: the same gain, and nothing more to pay on it."""
        (issued,) = issues(result(home(*LIVED)).run)
        self.assertEqual((issued.pack, issued.number), ("uk", "AB123456C"))
        values = {"owner": "taxpayer"} | dict(issued.values)
        year = whole_year(pay(60_000), PaperValues(issued.id, issued.kind, values))
        self.assertEqual(year.run.form("uk.gains-tax").tax, D("26664.00"))
        self.assertEqual(year.run.form("uk.sa110").gains_tax, 0)
        self.assertTrue(set(values) <= {*YEAR.paper("home").fields(), "owner"})

    def test_what_is_said(self):
        """Code; the home; what is said besides; the same mended."""
        for code, failing, options, mended, others in (
            ("uk.home-day", home(*LIVED, sold="2025-04-05"), {}, home(*LIVED), {}),
            ("uk.ppd-before-contract", home(*LIVED, sold="2026-01-21"), {}, home(*LIVED, sold="2026-01-20"), {}),
            ("uk.ppd-nothing-due", home(("lived", "2010-01-01", "2025-12-31")), {}, home(*LIVED), {}),
            ("uk.ppd-one-home", None, {}, home(*LIVED), {}),
            (
                "uk.ppd-earlier-paid",
                home(*LIVED),
                {"earlier_paid": "5"},
                home(*LIVED),
                {"earlier_paid": "5", "earlier_gains": "50000"},
            ),
            ("uk.home-let", home(*LIVED, let_beside="yes"), {}, home(*LIVED), {}),
        ):
            with self.subTest(code):
                papers = () if failing is None else (failing,)
                self.assertIn(code, {one.code for one in result(*papers, **options).findings})
                self.assertNotIn(code, {one.code for one in result(mended, **others).findings})
