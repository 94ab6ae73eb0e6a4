"""Two results of a return are kept: the one before a change stands beside the one after it, which costs what differs."""

from unittest import mock

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from practice.returns import computing
from practice.returns.computing import alone_with, data_of, forget, pack_of, result_of
from practice.returns.opening import open_return
from practice.tests.office import OfficeTestCase
from taxcore.engine import Result, compute


class KeptResultsTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        forget()
        self.addCleanup(forget)

    def save(self, amount):
        """A wage, committed: (result before, result after, whether the latter was computed by what changed)."""
        taken = []
        changed = Result.changed

        def noted(result, data):
            found = changed(result, data)
            taken.append(found)
            return found

        with mock.patch.object(Result, "changed", noted), self.captureOnCommitCallbacks(execute=True):
            before = result_of(self.again())
            saved = self.key("wages", amount)
        return before, saved.after, saved.after in taken

    def test_what_follows_the_first_change_costs_what_differs(self):
        with alone_with(self.return_.pk):
            self.assertFalse(self.save("50000")[2])
            for amount in ("51000", "52000", "0", "61000.50"):
                before, after, by_need = self.save(amount)
                self.assertTrue(by_need)
                self.assertIsNot(before.run, after.run)
                return_ = self.again()
                full = compute(pack_of(return_), data_of(return_))
                self.assertEqual([str(cell.value) for cell in after.lines()], [str(cell.value) for cell in full.lines()])
                self.assertEqual(after.all_findings, full.all_findings)

    def test_a_plain_amount_takes_eight_queries_between_begin_and_commit(self):
        """The session, who; the return, its papers, its small rows with last year's mark; history, paper, return."""
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        url, was = reverse("save-field", args=[self.return_.pk, self.paper.pk]), str(self.paper.values["federal_withheld"])
        for amount in ("5001.00", "5002.00", "5003.00"):
            given = {"path": "federal_withheld", "value": amount, "was": was}
            with (
                alone_with(self.return_.pk),
                CaptureQueriesContext(connection) as asked,
                self.captureOnCommitCallbacks(execute=True),
            ):
                self.assertEqual(self.client.post(url, given, headers={"HX-Request": "true"}).status_code, 200)
            was = amount
        self.assertLessEqual(len(asked), 10)

    def test_what_falls_over_is_computed_in_full(self):
        with alone_with(self.return_.pk):
            for amount in ("50000", "51000"):
                self.save(amount)
            with mock.patch.object(Result, "changed", side_effect=ZeroDivisionError), self.assertLogs("practice", "ERROR"):
                saved = self.key("wages", "52000")
        self.assertEqual(saved.after["us.1040.1a"].value, 52_000)

    def test_a_change_that_rolls_back_leaves_the_result_before_it(self):
        with alone_with(self.return_.pk):
            for amount in ("50000", "51000"):
                self.save(amount)
            before = result_of(self.again())
            with self.captureOnCommitCallbacks(execute=False):  # as if it were rolled back: nothing is kept
                self.key("wages", "52000")
            self.assertEqual(before["us.1040.1a"].value, 51_000)

    def test_what_leaves_the_store_is_taken_apart_unless_somebody_works_with_it(self):
        people = [(self.client_person.pk, "taxpayer")]
        other, busy = (open_return(self.preparer, self.household.pk, year, people) for year in (2023, 2024))
        results = [compute(pack_of(one), data_of(one)) for one in (busy, other, self.return_)]
        with mock.patch.object(computing, "_KEEP", 1), alone_with(busy.pk):
            for return_, result in zip((busy, other, self.return_), results, strict=True):
                with alone_with(return_.pk):
                    computing._keep(return_.pk, "mark", result, None)
        self.assertEqual([vars(result) == {} for result in results], [False, True, False])
