"""Every partnership return that the program computes and lets out is accepted; one whose parts are not the whole is not."""

from hypothesis import given, settings
from hypothesis.extra.django import TestCase

from ops.filing.entities import FiledEntity
from taxcore.packs.us.partnership import FEDERAL
from taxcore.packs.us.partnership.tests import test_worked
from taxcore.packs.us.partnership.tests.making import result
from taxcore.packs.us.partnership.tests.test_properties import partnerships
from taxcore.packs.us.tests.sampling import examples


class PartnershipTests(FiledEntity, TestCase):
    authority, cases, result_of, least = FEDERAL, test_worked.CASES, staticmethod(result), 20

    @settings(max_examples=examples(20), deadline=None)
    @given(partnerships())
    def test_random_ones_that_go_out_are_accepted(self, papers):
        self.assert_accepted(result(*papers))

    def test_a_part_that_was_changed_is_named(self):
        heard = self.answered(2025, self.document_of(result()).replace(b">39000<", b">39001<", 1))
        self.assertEqual(heard.state, "rejected")
        self.assertTrue(any("K" in str(fault) for fault in heard.faults))
