"""Every partnership return that the program computes and lets out is accepted; one whose parts are not the whole is not."""

import uuid
from datetime import timedelta

from django.utils import timezone
from hypothesis import given, settings
from hypothesis.extra.django import TestCase

from authority.models import Filing
from authority.receiving import answer, receive
from ops.filing.entities import FiledEntity
from taxcore.packs.us import extensions
from taxcore.packs.us.entity.tests import test_closing, test_correcting, test_received
from taxcore.packs.us.partnership import FEDERAL
from taxcore.packs.us.partnership.tests import test_adjusted, test_built_in, test_worked
from taxcore.packs.us.partnership.tests.making import ada, ben, filer, paper, result
from taxcore.packs.us.partnership.tests.test_properties import partnerships
from taxcore.packs.us.tests.sampling import examples


class PartnershipTests(FiledEntity, TestCase):
    authority, cases, result_of, least = FEDERAL, test_worked.CASES, staticmethod(result), 20

    @settings(max_examples=examples(20), deadline=None)
    @given(partnerships())
    def test_random_ones_that_go_out_are_accepted(self, papers):
        self.assert_accepted(result(*papers))

    def test_shares_that_it_owns_are_accepted(self):
        boxes = {name: value for name, value in test_received.BOXES.items() if name != "dividends"}
        self.assertTrue(self.assert_accepted(result(test_received.share(**boxes))))

    def test_an_amended_one_is_accepted_after_its_original(self):
        self.assert_corrected(result(), test_correcting.FEWER, test_correcting.WHY)

    def test_built_in_gain_is_accepted(self):
        for called, papers, *_ in test_built_in.CASES:
            with self.subTest(called):
                self.assertTrue(self.assert_accepted(result(ada(), test_built_in.BEN, *papers)))

    def test_a_transferees_basis_is_accepted(self):
        for called, papers, _ in test_adjusted.CASES:
            with self.subTest(called):
                self.assertTrue(self.assert_accepted(result(test_adjusted.YES, ada(), ben(), *papers)))

    def test_closed_books_are_accepted(self):
        for called, rows, *_ in test_closing.CASES:
            with self.subTest(called):
                self.assertTrue(self.assert_accepted(result(*test_closing.OWNERS, test_closing.closing(*rows))))

    def test_a_part_that_was_changed_is_named(self):
        heard = self.answered(2025, self.document_of(result()).replace(b">39000<", b">39001<", 1))
        self.assertEqual(heard.state, "rejected")
        self.assertTrue(any("K" in str(fault) for fault in heard.faults))

    def test_a_number_of_another_entity_is_refused_by_its_name(self):
        self.assert_accepted(result())
        heard = self.answered(2025, self.document_of(result(filer(company="Pelican Boats LLC"))))
        self.assertEqual((heard.state, heard.faults[0]["rule"]), ("rejected", "P-0101"))
        self.assertIn("Pelican Boats LLC, number ending 5668", heard.faults[0]["message"])
        heard = self.answered(2025, self.document_of(result(filer(number="00-0001234"))))
        self.assertIn("does not match IRS records", heard.faults[0]["message"])

    def test_a_request_for_more_time_is_accepted(self):
        run = result(paper("extension", asked="yes")).run
        content = extensions.document(run, extensions.of_return(run)[0], "1")
        filing = receive(uuid.uuid4(), "us-1065", 2025, content, "extension")
        Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
        heard = answer(filing.receipt)
        self.assertEqual((heard.state, heard.faults), ("accepted", []))
