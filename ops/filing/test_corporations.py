"""Every corporation return that the program computes and lets out is accepted; one whose tax is another is not."""

import uuid
from datetime import timedelta

from django.test import TestCase
from django.utils import timezone

from authority.models import Claim, Filing
from authority.receiving import answer, receive
from taxcore.engine.filed import filed_document
from taxcore.packs.us.corporation import FEDERAL
from taxcore.packs.us.corporation.tests import test_worked
from taxcore.packs.us.corporation.tests.making import result


def document_of(found):
    """What goes out; None where something stops it."""
    stops = any(one.weight == "stops" for one in found.findings)
    return None if stops else filed_document(found, FEDERAL, "1", "0" * 64)


def answered(year, content):
    Claim.objects.all().delete()
    filing = receive(uuid.uuid4(), "us-1120", year, content)
    Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
    return answer(filing.receipt)


class PlainCorporationTests(TestCase):
    def test_worked_cases_are_accepted(self):
        filed = 0
        for name, papers, year, _ in test_worked.CASES:
            found = result(*papers, year=year)
            if (content := document_of(found)) is not None:
                heard = answered(year, content)
                with self.subTest(name):
                    self.assertEqual((heard.state, heard.faults), ("accepted", []))
                filed += 1
        self.assertGreater(filed, 12)

    def test_a_tax_that_was_changed_is_named(self):
        content = document_of(result()).replace(b">13503<", b">13502<", 1)
        self.assertEqual(answered(2025, content).state, "rejected")
