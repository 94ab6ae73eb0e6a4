"""Every corporation return that the program computes and lets out is accepted; one whose tax is another is not."""

from django.test import TestCase

from ops.filing.entities import FiledEntity
from taxcore.packs.us.corporation import FEDERAL
from taxcore.packs.us.corporation.tests import test_worked
from taxcore.packs.us.corporation.tests.making import result


class PlainCorporationTests(FiledEntity, TestCase):
    authority, cases, result_of = FEDERAL, test_worked.CASES, staticmethod(result)

    def test_a_tax_that_was_changed_is_named(self):
        content = self.document_of(result()).replace(b">13503<", b">13502<", 1)
        self.assertEqual(self.answered(2025, content).state, "rejected")
