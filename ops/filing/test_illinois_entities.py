"""Illinois' returns of entities: what is computed and let out is accepted; one whose lines do not agree is not."""

from hypothesis import given, settings
from hypothesis.extra.django import TestCase

from ops.filing.entities import FiledEntity
from taxcore.packs.us.partnership.tests.test_properties import partnerships
from taxcore.packs.us.states.il import entities as illinois
from taxcore.packs.us.states.il.entities.tests import making, test_worked
from taxcore.packs.us.tests.sampling import examples


class PartnershipTests(FiledEntity, TestCase):
    authority, cases, result_of, least = (
        illinois.PARTNERSHIP.authority,
        test_worked.PARTNERSHIPS,
        staticmethod(making.partnership),
        20,
    )

    @settings(max_examples=examples(10), deadline=None)
    @given(partnerships())
    def test_random_ones_that_go_out_are_accepted(self, papers):
        papers = [one for one in papers if one.kind != "about"]
        self.assert_accepted(making.partnership(*papers, making.asked(entity_tax="yes")))

    def test_a_changed_line_is_named(self):
        heard = self.answered(2025, self.document_of(making.partnership()).replace(b">1100<", b">1101<", 1))
        self.assertEqual(heard.state, "rejected")


class SmallCorporationTests(FiledEntity, TestCase):
    authority, cases, result_of, least = (
        illinois.S_CORPORATION.authority,
        test_worked.S_CORPORATIONS,
        staticmethod(making.s_corporation),
        9,
    )


class CorporationTests(FiledEntity, TestCase):
    authority, cases, result_of, least = (
        illinois.CORPORATION.authority,
        test_worked.CORPORATIONS,
        staticmethod(making.corporation),
        9,
    )
