"""What a change finds with its return is what the database has, and nothing more was read."""

import threading
import time
from datetime import date
from decimal import Decimal

from django.db import connection, transaction
from django.test import TransactionTestCase

from practice.returns import computing
from practice.returns.arranging import set_control
from practice.returns.changing import open_for_change
from practice.returns.last_year import last_year, mark_of_last_year
from practice.returns.models import Return
from practice.returns.opening import open_return
from practice.returns.overriding import set_override
from practice.tests.office import OfficeTestCase, office


class GatheringTests(OfficeTestCase):
    def gathered(self):
        return open_for_change(self.preparer, self.return_.pk)

    def test_small_rows_are_those_of_the_tables(self):
        set_override(self.preparer, self.return_.pk, "us.1040.1h", Decimal("12.50"), "a slip that came late")
        set_control(self.preparer, self.return_.pk, "w2", 2, Decimal("61480.10"))
        set_control(self.preparer, self.return_.pk, "1099-int", None, Decimal("3.00"))
        found = self.gathered()
        for name, columns in (("overrides", ("address", "amount", "reason")), ("controls", ("kind", "count", "amount"))):
            plain = list(getattr(Return.objects.for_firm(self.firm).get(pk=found.pk), name).order_by("pk").values_list(*columns))
            with self.assertNumQueries(0):
                self.assertEqual([tuple(getattr(row, one) for one in columns) for row in getattr(found, name).all()], plain)
        self.assertEqual(len(plain), 2)

    def test_nothing_is_there_where_nothing_is(self):
        with self.assertNumQueries(3):
            found = self.gathered()
            self.assertEqual([*found.overrides.all(), *found.submissions.all(), *found.controls.all()], [])
            self.assertEqual([paper.pk for paper in found.papers.all() if paper.kind == "w2"], [self.paper.pk])
            self.assertIsNone(mark_of_last_year(found))

    def test_last_years_mark_comes_along_and_another_column_is_read_when_asked_for(self):
        before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        set_override(self.preparer, self.return_.pk, "us.1040.1h", Decimal("12.50"), "a slip that came late")
        found = self.gathered()
        with self.assertNumQueries(0):
            self.assertEqual(mark_of_last_year(found), (before.pk, before.version))
        self.assertEqual(found.overrides.all()[0].by, self.preparer)

    def test_before_a_period_of_its_own_comes_no_year(self):
        """Whichever way it is asked for: the year before says nothing of the day before the period begins."""
        open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        self.assertIsNotNone(mark_of_last_year(self.again()))
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(begins=date(2025, 4, 1), ends=date(2026, 3, 31))
        fresh = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        self.assertIsNone(last_year(fresh))
        self.assertIsNone(mark_of_last_year(fresh))


class WaitingTests(TransactionTestCase):
    """Two people at once: each commits, so this is no test in a transaction of its own."""

    def setUp(self):
        vars(self).update(office())
        computing.forget()

    def test_whoever_waited_for_the_lock_sees_what_was_done_meanwhile(self):
        found = []

        def second():
            try:
                with transaction.atomic():
                    found.extend(one.address for one in open_for_change(self.signer, self.return_.pk).overrides.all())
            finally:
                connection.close()

        waiting = threading.Thread(target=second)
        with transaction.atomic():
            open_for_change(self.preparer, self.return_.pk)
            waiting.start()
            self._until_somebody_waits()
            set_override(self.preparer, self.return_.pk, "us.1040.1h", Decimal("12.50"), "a slip that came late")
        waiting.join(20)
        self.assertEqual(found, ["us.1040.1h"])

    def _until_somebody_waits(self):
        until = time.monotonic() + 10
        with connection.cursor() as cursor:
            while time.monotonic() < until:
                cursor.execute("select count(*) from pg_locks where not granted")
                if cursor.fetchone()[0]:
                    return
                time.sleep(0.02)
        self.fail("nobody waits")
