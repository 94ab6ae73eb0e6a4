"""Illinois' returns of entities: what is computed and let out is accepted; one whose lines do not agree is not."""

from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from ops.filing.entities import FiledEntity
from taxcore.packs.us.corporation.tests.test_worked import profit
from taxcore.packs.us.partnership.tests.test_properties import partnerships
from taxcore.packs.us.s_corporation.tests.making import about
from taxcore.packs.us.s_corporation.tests.test_properties import corporations
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

    @settings(max_examples=examples(10), deadline=None)
    @given(corporations())
    def test_random_ones_that_go_out_are_accepted(self, drawn):
        values = next(one.values for one in drawn if one.kind == "about")
        papers = [one for one in drawn if one.kind != "about"]
        self.assert_accepted(making.s_corporation(*papers, about(**values | making.HERE), making.asked(own_tax=10)))


class CorporationTests(FiledEntity, TestCase):
    authority, cases, result_of, least = (
        illinois.CORPORATION.authority,
        test_worked.CORPORATIONS,
        staticmethod(making.corporation),
        9,
    )

    @settings(max_examples=examples(10), deadline=None)
    @given(st.integers(-60_000, 99_000), st.integers(0, 90_000))
    def test_random_ones_that_go_out_are_accepted(self, earned, lost):
        self.assert_accepted(making.corporation(profit(earned), making.asked(losses=making.losses((2022, lost)), estimates=500)))
