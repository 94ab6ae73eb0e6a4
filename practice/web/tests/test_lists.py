"""Lists as files: numbers are numbers, only text that could run is marked, and nothing waits for the last row."""

import io
from datetime import date
from decimal import Decimal
from unittest import TestCase

from django.db import connection
from django.test.utils import CaptureQueriesContext
from openpyxl import load_workbook

from practice.dispatch.models import State, Submission
from practice.pages.lists import export
from practice.returns.models import Snapshot
from practice.returns.opening import open_return
from practice.tests.office import OfficeTestCase
from practice.track.keeping import refresh

ROWS = [["=1+1", Decimal("-3706"), Decimal("12.50"), None, date(2026, 2, 10)], ["+49", 7, "-3706 of it", "", "plain"]]


class ExportTests(TestCase):
    def test_csv(self):
        lines = export("csv", "list", ["A", "B"], ROWS).getvalue().decode().splitlines()
        self.assertEqual(lines, ["A,B", "'=1+1,-3706,12.50,,2026-02-10", "'+49,7,'-3706 of it,,plain"])

    def test_xlsx_cells_are_numbers(self):
        sheet = load_workbook(io.BytesIO(export("xlsx", "list", ["A"], ROWS).content)).active
        first = [cell.value for cell in sheet[2]]
        self.assertEqual(first[:3], ["'=1+1", -3706, 12.5])

    def test_rows_leave_as_they_come(self):
        seen = []

        def rows():
            for number in range(2000):
                seen.append(number)
                yield [number]

        stream = iter(export("csv", "list", ["A"], rows()))
        next(stream)
        next(stream)
        self.assertLess(len(seen), 1000)


class DeskTests(OfficeTestCase):
    def test_a_row_more_is_no_query_more(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        refresh(self.return_.pk)
        counts = []
        for year in (2024, 2023):
            for _ in range(2):  # what is asked once a process is asked by the first
                with CaptureQueriesContext(connection) as asked:
                    page = self.client.get("/?of=everyone&years=all")
            self.assertContains(page, "Abernathy", count=2025 - year)
            counts.append(len(asked))
            made = open_return(self.preparer, self.household.pk, year, [(self.client_person.pk, "taxpayer")])
            refresh(made.pk)
        self.assertEqual(counts[0], counts[1])


class DispatchListTests(OfficeTestCase):
    def test_rejected_rows_cost_no_computation_and_no_queries_of_their_own(self):
        snapshot = Snapshot.objects.create(
            firm=self.firm, of=self.return_, hash="0" * 64, content=b"not a snapshot at all", version=1, made_by=self.signer
        )
        fault = {"rule": "E-0301", "message": "EIN", "path": "/", "at": "us.w2[w1].b"}
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")

        few, many = (self.queries(count, snapshot, fault) for count in (3, 200))
        self.assertEqual(few, many)

    def queries(self, count, snapshot, fault):
        Submission.objects.for_firm(self.firm).delete()
        Submission.objects.bulk_create(
            Submission(firm=self.firm, of=self.return_, snapshot=snapshot, authority="us", document=b"x", by=self.signer,
                       state=State.REJECTED, receipt=f"R-{number}", refused_rules=[fault]) for number in range(count)
        )  # fmt: skip
        with CaptureQueriesContext(connection) as counted:
            self.assertContains(self.client.get("/dispatch"), "E-0301")
        return len(counted)
