"""Returns corrected after they were filed: Form 1040-X and the states' settlements, worked by hand before the forms were written."""

import unittest
from datetime import date
from decimal import Decimal

from taxcore.engine import compute, document
from taxcore.packs.us import PACK, correcting
from taxcore.packs.us.tests.corrections import LOAN, amendment, as_filed, corrected, filed
from taxcore.packs.us.tests.returns import codes, data, filing, interest, w2


class AmendedReturn(unittest.TestCase):
    """Single in 2024, wages of 60,000: 14,600 are deducted, the table's tax on 45,400 is 1,160 + 12% of 33,825 = 5,219."""

    def lines(self, result, **expected):
        for name, amount in expected.items():
            with self.subTest(name):
                self.assertEqual(result.run.form("us.1040-x").cell(name).value, Decimal(amount))

    def test_more_income_is_more_tax_after_what_was_paid(self):
        """1,000 of interest: 46,400 are taxed with 1,160 + 12% of 34,825 = 5,339, 120 more. 219 were paid with the original."""
        amends = as_filed(filed(w2(60_000, 5_000)))
        result = corrected(amends, w2(60_000, 5_000), interest(1_000), amendment({"authority": "US", "paid": "219"}))
        self.lines(result, income_filed=60_000, income_change=1_000, adjusted_gross_income=61_000,
                   after_filed=45_400, after_deduction=46_400, taxable_filed=45_400, taxable_income=46_400,
                   total_filed=5_219, total_change=120, total_tax=5_339, withheld=5_000, paid=219, payments=5_219,
                   overpaid_before=0, left=5_219, owed=120, overpaid=0, refund=0)  # fmt: skip
        federal = next(line for line in result.bottom_lines if line.authority.code == "us")
        self.assertEqual((federal.amount, federal.address), (-120, "us.1040-x.20"))

    def test_a_deduction_forgotten_is_a_refund_after_the_one_that_came(self):
        """6,000 withheld, 781 came back. 1,000 of student loan interest: 44,400 are taxed with 1,160 + 12% of 32,825 = 5,099."""
        amends = as_filed(filed(w2(60_000, 6_000)))
        result = corrected(amends, w2(60_000, 6_000), LOAN, amendment())
        self.lines(result, income_change=-1_000, total_filed=5_219, total_tax=5_099, overpaid_before=781, left=5_219, owed=0,
                   overpaid=120, refund=120)  # fmt: skip

    def test_a_second_correction_starts_from_the_first(self):
        """Now 1,000 of interest besides: tax is 5,219 again. Overpaid so far are 781 and 120, and the 120 go back."""
        first = corrected(as_filed(filed(w2(60_000, 6_000))), w2(60_000, 6_000), LOAN, amendment())
        second = corrected(as_filed(first, 2), w2(60_000, 6_000), LOAN, interest(1_000), amendment())
        self.lines(second, total_filed=5_099, total_tax=5_219, overpaid_before=901, left=5_099, owed=120)

    def test_what_the_irs_changed_meanwhile_is_the_overpayment_as_adjusted(self):
        amends = as_filed(filed(w2(60_000, 6_000)))
        result = corrected(amends, w2(60_000, 6_000), LOAN, amendment({"authority": "US", "overpaid": "700"}))
        self.lines(result, overpaid_before=700, left=5_300, refund=201)

    def test_a_part_of_the_refund_may_be_applied(self):
        amends = as_filed(filed(w2(60_000, 6_000)))
        result = corrected(amends, w2(60_000, 6_000), LOAN, amendment(applied_to_next_year="50"))
        self.lines(result, overpaid=120, applied=50, refund=70)

    def test_excess_social_security_and_credits_have_their_own_lines(self):
        """Two employers in 2024 withheld 6.2% of 100,000 each: above 168,600 x 6.2% = 10,453.20 that is 1,946.80 too much."""
        pair = (w2(100_000, 15_000, social_security_wages="100000", social_security_withheld="6200"),
                w2(100_000, 15_000, key="w2", social_security_wages="100000", social_security_withheld="6200"))  # fmt: skip
        result = corrected(as_filed(filed(*pair)), *pair, interest(1_000), amendment())
        self.lines(result, withheld_filed=31_947, withheld=31_947, refundable=0, withheld_change=0)

    def test_tax_changes_by_what_column_b_says_on_every_line(self):
        amends = as_filed(filed(w2(60_000, 5_000)))
        form = corrected(amends, w2(90_000, 9_000), interest(1_000), amendment()).run.form("us.1040-x")
        for name in form.specs:
            if name.endswith("_change"):
                base = form.specs[name].number_in(2024).partition("-")[0]
                a, b, c = (next(one for one in form.lines() if one.number == f"{base}-{letter}").value for letter in "ABC")
                self.assertEqual(b, c - a, name)


class StateSettled(unittest.TestCase):
    """Illinois in 2024, 2,775 exempt and 4.95%: 57,225 x 4.95% = 2,833; with 1,000 of interest 58,225 x 4.95% = 2,882."""

    def settled(self, withheld, *settled):
        pay = w2(60_000, 6_000, state_withheld=withheld)
        return corrected(as_filed(filed(pay)), pay, interest(1_000), amendment(*settled)).run.form("us-il.amended-return")

    def test_a_smaller_refund_than_came_is_paid_back(self):
        form = self.settled(2_900)
        found = (form.tax_filed, form.tax, form.balance_filed, form.balance, form.overpaid_before, form.owed, form.refund)
        self.assertEqual(found, (2_833, 2_882, -67, -18, 67, 49, 0))

    def test_what_was_paid_counts(self):
        form = self.settled(2_800, {"authority": "IL", "paid": "33"})
        self.assertEqual((form.balance_filed, form.balance, form.overpaid_before, form.owed), (33, 82, 0, 49))

    def test_paid_for_nothing_comes_back(self):
        form = self.settled(2_800, {"authority": "IL", "paid": "33", "paid_later": "100"})
        self.assertEqual((form.owed, form.refund), (0, 51))

    def test_every_state_settles_so(self):
        """What is owed now, less what is refunded now, is what the correct balance is above the one as filed."""
        for state in ("CA", "GA", "IA", "IL", "IN", "MO", "PA", "SC", "VA", "WI"):
            papers = (filing(residence=state), w2(60_000, 6_000, state=state, state_withheld=1_500))
            more = (filing(residence=state), w2(70_000, 6_000, state=state, state_withheld=1_500))
            before = filed(*papers)
            code = f"us-{state.lower()}"
            owed_then = next(-line.amount for line in before.bottom_lines if line.authority.code == code)
            paid = {"authority": state, "paid": str(max(owed_then, 0))}
            after = corrected(as_filed(before), *more, amendment(paid))
            main, form = after.run.form(PACK.authority(code).form.code()), after.run.form(f"{code}.amended-return")
            with self.subTest(state):
                self.assertGreater(form.tax_change, 0)
                self.assertEqual(form.owed - form.refund, main.owed - main.refund - owed_then)
                line = next(line for line in after.bottom_lines if line.authority.code == code)
                self.assertEqual(line.amount, form.refund - form.owed)


class WhereACorrectionGoes(unittest.TestCase):
    def test_only_where_a_figure_moved(self):
        """Withholding of the state alone is corrected: the IRS hears nothing."""
        amends = as_filed(filed(w2(60_000, 5_000, state_withheld=2_000)))
        result = corrected(amends, w2(60_000, 5_000, state_withheld=2_100), amendment())
        self.assertEqual([line.authority.code for line in result.bottom_lines], ["us-il"])
        self.assertIn("us", result.not_filed)

    def test_where_somebody_wants_it(self):
        amends = as_filed(filed(w2(60_000, 5_000)))
        result = corrected(amends, w2(60_000, 5_000), amendment({"authority": "US", "anyway": "yes"}))
        self.assertEqual([line.authority.code for line in result.bottom_lines], ["us"])

    def test_a_state_that_has_nothing_gets_an_original(self):
        """The wages were Indiana's, which nobody had seen."""
        amends = as_filed(filed(w2(60_000, 5_000, state_withheld=2_000)))
        result = corrected(amends, w2(60_000, 5_000, state="IN", state_withheld=2_000), amendment())
        indiana = next(line for line in result.bottom_lines if line.authority.code == "us-in")
        self.assertEqual(indiana.address.rpartition(".")[0], result.run.form("us-in.it-40").address_prefix)

    def test_in_its_stead_before_the_due_date_there_is_no_form_of_corrections(self):
        amends = as_filed(filed(w2(60_000, 5_000)), superseding=True)
        result = corrected(amends, w2(61_000, 5_000), amendment())
        self.assertNotIn("us.1040-x", {form.code() for form in result.forms})
        self.assertEqual(result.bottom_lines[0].address.rpartition(".")[0], "us.1040")


class AGoodCorrection(unittest.TestCase):
    def test_has_nothing_said_of_it(self):
        papers = (w2(60_000, 6_000), LOAN, amendment({"authority": "US", "paid": "0"}))
        good = corrected(as_filed(filed(w2(60_000, 6_000))), *papers)
        self.assertEqual([one for one in codes(good) if one.startswith("us.amendment.")], [])


class LastDay(unittest.TestCase):
    CASES = [  # why                                               authority filed              last payment  until
        ("filed early counts as filed on the due date",            "us",    date(2025, 3, 14),  None,         date(2028, 4, 18)),  # the 17th is Emancipation Day
        ("filed late, three years from then",                      "us",    date(2025, 9, 2),   None,         date(2028, 9, 5)),
        ("two years from a payment, where that is later",          "us",    date(2025, 3, 14),  date(2026, 7, 1), date(2028, 7, 3)),
        ("Illinois: one year from a payment",                      "us-il", date(2025, 3, 14),  date(2027, 9, 1), date(2028, 9, 1)),
        ("Wisconsin has four years, whenever it was filed",        "us-wi", date(2025, 9, 2),   None,         date(2029, 4, 17)),
    ]  # fmt: skip

    def test_until_when_a_refund_can_be_claimed(self):
        for why, code, day, paid, until in self.CASES:
            state = code.partition("-")[2].upper() or "IL"
            papers = (filing(residence=state), w2(60_000, 5_000, state=state))
            row = {"authority": code.partition("-")[2].upper() or "US", **({"last_paid": paid.isoformat()} if paid else {})}
            result = corrected(as_filed(filed(*papers), day=day), *papers, amendment(row))
            with self.subTest(why):
                self.assertEqual(correcting.last_day(result.run, PACK.authority(code)), until)


class Written(unittest.TestCase):
    def test_the_document_keeps_what_was_filed(self):
        amends = as_filed(filed(w2(60_000, 5_000)))
        given = data(w2(61_000, 5_000), amendment(), year=2024).but(amends=amends)
        again = document.read(document.write(given))
        self.assertEqual(again, given)
        self.assertEqual(document.write_result(compute(PACK, again)), document.write_result(compute(PACK, given)))

    def test_a_broken_one_is_refused_by_name(self):
        whole = document.write(data(w2(61_000), year=2024).but(amends=as_filed(filed(w2(60_000)))))
        for broken in ("x", {"number": 1}, {"number": 1, "filed": {"us": {"day": "soon", "lines": {}}}},
                       {"number": 1, "filed": {"us": {"day": "2025-03-14", "lines": {"us.1040.11": "NaN"}}}}):  # fmt: skip
            with self.subTest(str(broken)), self.assertRaises(document.DocumentError):
                document.read(whole | {"amends": broken})
