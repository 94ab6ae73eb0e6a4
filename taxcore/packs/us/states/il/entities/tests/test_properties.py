"""What holds of every return of an entity in Illinois: figures follow from their operands, owners have all of it, losses are not lost."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.packs.us.corporation.tests.test_worked import profit
from taxcore.packs.us.partnership.tests.test_properties import partnerships
from taxcore.packs.us.s_corporation.tests.making import about
from taxcore.packs.us.s_corporation.tests.test_properties import corporations
from taxcore.packs.us.states.il.entities.tests.making import (
    HERE,
    asked,
    corporation,
    losses,
    partnership,
    receipts,
    s_corporation,
)
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.sampling import examples

SALES = st.tuples(st.integers(0, 90_000), st.integers(1, 90_000))
LOSSES = st.lists(st.tuples(st.integers(2000, 2024), st.integers(0, 60_000)), max_size=4, unique_by=lambda one: one[0])


def waited(given):
    return sum((Decimal(amount) for year, amount in given if year >= 2005), Decimal(0))


class PropertyTests(TestCase):
    def explained(self, found):
        for form in found.forms:
            if form.jurisdiction == "us-il":
                for cell in form.cells.values():
                    assert_explained(self, cell)

    def kept(self, page, before):
        """Every dollar of a loss is used once, waits, or was made this year."""
        made = max(-page.adjusted, Decimal(0))
        self.assertEqual(page.waiting.left, before - page.loss_deduction + made - self.gone(page))
        self.assertLessEqual(page.loss_deduction, max(page.adjusted, Decimal(0)))

    def gone(self, page):
        """What could be used for the last time this year, and was not."""
        last = [amount for year, amount in page.waiting.earlier() if year == page.year - 20]
        return max(sum(last, Decimal(0)) - page.loss_deduction, Decimal(0))

    @settings(max_examples=examples(25), deadline=None)
    @given(partnerships(), SALES, LOSSES, st.booleans())
    def test_partnerships(self, papers, sales, waiting, elects):
        answers = asked(entity_tax="yes" if elects else "no", losses=losses(*waiting), own_tax=100, government_interest=50)
        found = partnership(*papers, answers, receipts(IL=sales[0], WI=sales[1]))
        self.explained(found)
        page = found.run.form("us-il.il-1065")
        self.kept(page, waited(waiting))
        divided = [one.distributable for one in page.owners()]
        self.assertEqual(sum(divided), page.divided + page.guaranteed)

    @settings(max_examples=examples(20), deadline=None)
    @given(corporations(), SALES, LOSSES)
    def test_s_corporations(self, drawn, sales, waiting):
        values = next(one.values for one in drawn if one.kind == "about")
        papers = [one for one in drawn if one.kind != "about"]
        answers = asked(losses=losses(*waiting), own_tax=100)
        found = s_corporation(*papers, about(**values | HERE), answers, receipts(IL=sales[0], WI=sales[1]))
        self.explained(found)
        self.kept(found.run.form("us-il.il-1120-st"), waited(waiting))

    @settings(max_examples=examples(25), deadline=None)
    @given(st.integers(-60_000, 99_000), LOSSES, SALES)
    def test_corporations(self, earned, waiting, sales):
        answers = asked(losses=losses(*waiting), own_tax=900)
        found = corporation(profit(earned), answers, receipts(IL=sales[0], MO=sales[1]))
        self.explained(found)
        page = found.run.form("us-il.il-1120")
        self.kept(page, waited(waiting))
        self.assertEqual(page.total_tax, page.replacement + page.income_tax_left)
