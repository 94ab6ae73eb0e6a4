"""Every corporation return that the program computes and lets out is accepted; one whose tax is another is not."""

from django.test import TestCase

from ops.filing.entities import FiledEntity
from taxcore.packs.us.corporation import FEDERAL
from taxcore.packs.us.corporation.tests import test_amended, test_worked
from taxcore.packs.us.corporation.tests.making import result
from taxcore.packs.us.entity.tests import test_received


class PlainCorporationTests(FiledEntity, TestCase):
    authority, cases, result_of = FEDERAL, test_worked.CASES, staticmethod(result)

    def test_shares_that_it_owns_are_accepted(self):
        boxes = {name: value for name, value in test_received.BOXES.items() if name != "dividends"}
        self.assertTrue(self.assert_accepted(result(test_received.share(**boxes))))

    def test_amended_returns_are_accepted_after_their_originals(self):
        for called, before, now, settled, _ in test_amended.CASES:
            with self.subTest(called):
                self.assert_corrected(result(test_amended.FIRST, *before), *now, test_amended.why(**settled))
        self.assert_corrected(result(test_amended.FIRST), test_amended.MORE, test_amended.why(), superseding=True)

    def test_a_column_that_is_not_what_was_accepted_is_named(self):
        _, second = self.corrected(result(test_amended.FIRST), test_amended.MORE, test_amended.why(paid="12600"))
        last = self.answered(2025, self.document_of(second).replace(b">1260<", b">1261<"), keep=True)
        self.assertEqual(last.state, "rejected")
        self.assertTrue(any("1120-X" in str(fault) for fault in last.faults))

    def test_a_tax_that_was_changed_is_named(self):
        content = self.document_of(result()).replace(b">13503<", b">13502<", 1)
        self.assertEqual(self.answered(2025, content).state, "rejected")
