"""A query whose SQL is made once gives what the query itself gives, whatever it is asked with."""

from unittest import mock

from django.db import connection, connections
from django.db.transaction import TransactionManagementError
from django.test.utils import CaptureQueriesContext

from practice.clients.restricting import restrict
from practice.firm.compiled import Compiled
from practice.firm.models import Firm
from practice.firm.permissions import NotOfThisFirm, fetch
from practice.returns.models import Paper, Return
from practice.tests.office import OfficeTestCase


class CompiledTests(OfficeTestCase):
    def test_other_numbers_give_other_rows(self):
        papers = Compiled(lambda firm, of: Paper.objects.for_firm(firm).filter(of=of).select_related("of"))
        with CaptureQueriesContext(connection) as asked:
            first, none, again = (papers(self.firm.pk, pk) for pk in (self.return_.pk, self.return_.pk + 1, self.return_.pk))
        self.assertEqual(first, list(self.return_.papers.all()))
        self.assertEqual((none, again), ([], first))
        self.assertIsNot(first[0], again[0])
        self.assertEqual(len(asked), 3)
        with self.assertNumQueries(0):
            self.assertEqual(again[0].of.pk, self.return_.pk)

    def test_prefetched_rows_come_with_them(self):
        returns = Compiled(lambda firm, pk: Return.objects.for_firm(firm).filter(pk=pk).prefetch_related("papers"))
        for _ in range(2):
            (found,) = returns(self.firm.pk, self.return_.pk)
            with self.assertNumQueries(0):
                self.assertIn(self.paper, found.papers.all())

    def test_a_number_that_is_not_asked_with_is_said_at_once(self):
        forgetful = Compiled(lambda firm, of: Paper.objects.for_firm(firm))
        with self.assertRaisesMessage(ValueError, "Not every number"):
            forgetful(self.firm.pk, self.return_.pk)

    def test_rows_are_locked_in_a_transaction_only(self):
        firms = Compiled(lambda pk: Firm.objects.select_for_update().filter(pk=pk))
        self.assertEqual(firms(self.firm.pk), [self.firm])
        outside = mock.patch.object(connections["default"], "get_autocommit", return_value=True)
        with outside, self.assertRaises(TransactionManagementError):
            firms(self.firm.pk)


class FetchTests(OfficeTestCase):
    def test_numbers_that_no_row_can_have(self):
        for pk in (0, -1, 2**31, 2**63, 10**30):
            with self.subTest(pk), self.assertRaises(NotOfThisFirm):
                fetch(Return.objects, self.preparer, pk=pk)

    def test_whoever_asks_next_is_somebody_else(self):
        restrict(self.signer, self.household.pk, [self.signer.pk])
        wanted = Return.objects.select_related("household")
        self.assertEqual(fetch(wanted, self.signer, pk=self.return_.pk), self.return_)
        for who in (self.preparer, self.stranger):
            with self.subTest(who.name), self.assertRaises(NotOfThisFirm):
                fetch(wanted, who, pk=self.return_.pk)

    def test_queries_that_say_more_stay_what_they_are(self):
        self.assertEqual(fetch(Return.objects.filter(year=2025), self.preparer, pk=self.return_.pk), self.return_)
        with self.assertRaises(NotOfThisFirm):
            fetch(Return.objects.filter(year=2024), self.preparer, pk=self.return_.pk)
        locked = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm"), self.preparer, pk=self.return_.pk)
        plain = fetch(Return.objects.all(), self.preparer, pk=self.return_.pk)
        self.assertEqual(locked.firm, plain.firm)
        with CaptureQueriesContext(connection) as asked:
            fetch(Return.objects.select_for_update(of=("self",)), self.preparer, pk=self.return_.pk)
        self.assertIn("FOR UPDATE", asked[0]["sql"])
