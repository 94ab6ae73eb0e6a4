"""Partnerships, S corporations and their returns of Illinois against a computation that was written apart."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.packs.us.entity.tests.straight import adjustments, illinois, passed_on
from taxcore.packs.us.partnership.tests.test_properties import partnerships
from taxcore.packs.us.s_corporation.tests.making import about
from taxcore.packs.us.s_corporation.tests.test_properties import corporations
from taxcore.packs.us.states.il.entities.tests import making
from taxcore.packs.us.tests.sampling import examples

_SAME = {"ordinary": "ordinary", "interest_income": "interest", "dividends": "dividends", "royalties": "royalties", "short_gain": "short_gain",
         "long_gain": "long_gain", "exempt_interest": "exempt_interest", "nondeductible": "nondeductible", "contributions": "contributions",
         "investment_interest": "investment_interest", "foreign_tax": "foreign_tax"}  # fmt: skip
_RECEIPTS = st.tuples(st.integers(0, 90_000), st.integers(1, 90_000))


def without_assets(papers):
    return tuple(one for one in papers if one.kind != "asset")


class StraightTests(TestCase):
    def agrees(self, form, wanted, names=_SAME):
        for name, line in names.items():
            self.assertEqual(getattr(form, line), wanted[name], (form.title, name))

    @settings(max_examples=examples(60), deadline=None)
    @given(partnerships(), _RECEIPTS, st.booleans(), st.integers(0, 40_000))
    def test_partnerships(self, drawn, sales, elects, pay):
        papers = without_assets(drawn)
        asked = making.asked(entity_tax="yes" if elects else "no", personal_service=pay)
        run = making.partnership(*papers, asked, making.receipts(IL=sales[0], WI=sales[1])).run
        k, shares, guaranteed, weights = passed_on(papers, "partner", "profit")
        self.agrees(run.form("us.sch-k"), k)
        for form, share, paid in zip(run.every("us.sch-k-1"), shares, guaranteed, strict=True):
            self.agrees(form, share)
            takes_part = form.partner.general
            self.assertEqual(form.self_employment, share["ordinary"] + paid if takes_part else paid)
        factor = round(Decimal(sales[0]) / sum(sales), 6)
        self._illinois(
            run.form("us-il.il-1065"), illinois(k, guaranteed, weights, factor, exempt=True, entity_tax=elects, pay=pay)
        )

    @settings(max_examples=examples(60), deadline=None)
    @given(corporations(), _RECEIPTS, st.booleans())
    def test_s_corporations(self, drawn, sales, elects):
        papers = tuple(one for one in without_assets(drawn) if one.kind != "about")
        given_about = next(one for one in drawn if one.kind == "about")
        before = Decimal(given_about.values["adjustments_before"])
        here = about(**given_about.values | making.HERE)
        asked = making.asked(entity_tax="yes" if elects else "no")
        run = making.s_corporation(*papers, here, asked, making.receipts(IL=sales[0], WI=sales[1])).run
        k, shares, none, weights = passed_on(papers, "shareholder", "shares")
        self.agrees(run.form("us.sch-k"), k)
        for form, share in zip(run.every("us.sch-k-1"), shares, strict=True):
            self.agrees(form, share)
        paid = sum(Decimal(one.values.get("distributed") or 0) for one in papers if one.kind == "shareholder")
        together, distributed = adjustments(k, before, paid)
        m2 = run.form("us.sch-m-2")
        self.assertEqual((m2.together, m2.distributed), (together, distributed))
        factor = round(Decimal(sales[0]) / sum(sales), 6)
        self._illinois(run.form("us-il.il-1120-st"), illinois(k, none, weights, factor, exempt=False, entity_tax=elects))

    def _illinois(self, page, wanted):
        base, net, tax, entity_tax, shares = wanted
        self.assertEqual((page.base_income, page.net_income, page.replacement_tax), (base, net, tax))
        self.assertEqual((page.entity_tax, [one.distributable for one in page.owners()]), (entity_tax, shares))
        self.assertEqual(sum(one.credit for one in page.owners()), page.entity_tax)
