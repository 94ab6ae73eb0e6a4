"""Every S corporation return that the program computes and lets out is accepted; one whose accounts do not follow is not."""

from hypothesis import given, settings
from hypothesis.extra.django import TestCase

from ops.filing.entities import FiledEntity
from taxcore.packs.us.entity.tests import test_received
from taxcore.packs.us.entity.tests.test_correcting import WHY
from taxcore.packs.us.s_corporation import FEDERAL
from taxcore.packs.us.s_corporation.tests import test_worked
from taxcore.packs.us.s_corporation.tests.making import result, shop
from taxcore.packs.us.s_corporation.tests.test_properties import corporations
from taxcore.packs.us.tests.sampling import examples


class CorporationTests(FiledEntity, TestCase):
    authority, cases, result_of = FEDERAL, test_worked.CASES, staticmethod(result)

    @settings(max_examples=examples(20), deadline=None)
    @given(corporations())
    def test_random_ones_that_go_out_are_accepted(self, papers):
        self.assert_accepted(result(*papers))

    def test_shares_that_it_owns_are_accepted(self):
        boxes = {name: value for name, value in test_received.BOXES.items() if name != "dividends"}
        self.assertTrue(self.assert_accepted(result(test_received.share(**boxes))))

    def test_an_amended_one_is_accepted_after_its_original(self):
        self.assert_corrected(result(), shop(("Wages", "salaries", 39_000, 0)), WHY)

    def test_an_account_that_was_changed_is_named(self):
        content = self.document_of(result()).replace(b">60000<", b">60001<", 1)
        self.assertEqual(self.answered(2025, content).state, "rejected")
