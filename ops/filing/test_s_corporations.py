"""Every S corporation return that the program computes and lets out is accepted; one whose accounts do not follow is not."""

import uuid
from datetime import timedelta

from django.utils import timezone
from hypothesis import given, settings
from hypothesis.extra.django import TestCase

from authority.models import Claim, Filing
from authority.receiving import answer, receive
from taxcore.engine.filed import filed_document
from taxcore.packs.us.s_corporation import FEDERAL
from taxcore.packs.us.s_corporation.tests import test_worked
from taxcore.packs.us.s_corporation.tests.making import result
from taxcore.packs.us.s_corporation.tests.test_properties import corporations
from taxcore.packs.us.tests.sampling import examples


def document_of(found):
    """What goes out; None where something stops it."""
    stops = any(one.weight == "stops" for one in found.findings)
    return None if stops else filed_document(found, FEDERAL, "1", "0" * 64)


def answered(year, content):
    Claim.objects.all().delete()
    filing = receive(uuid.uuid4(), "us-1120s", year, content)
    Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
    return answer(filing.receipt)


class CorporationTests(TestCase):
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

    @settings(max_examples=examples(20), deadline=None)
    @given(corporations())
    def test_random_ones_that_go_out_are_accepted(self, papers):
        found = result(*papers)
        if (content := document_of(found)) is not None:
            heard = answered(2025, content)
            self.assertEqual((heard.state, heard.faults), ("accepted", []))

    def test_an_account_that_was_changed_is_named(self):
        content = document_of(result()).replace(b">60000<", b">60001<", 1)
        heard = answered(2025, content)
        self.assertEqual(heard.state, "rejected")
