"""What holds of every partnership: parts are the whole, books balance, M-1 reconciles, figures follow from their operands."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.engine import ReturnData, roll_forward
from taxcore.packs.us.entity.base import shared_out
from taxcore.packs.us.partnership import PACK
from taxcore.packs.us.partnership.k1 import Share
from taxcore.packs.us.partnership.tests.making import ada, asset, ben, books, paper, partner, result, rows
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.sampling import examples

WHOLE = st.integers(-(10**7), 10**7).map(Decimal)
_SHARED = ("ordinary", "rental", "interest", "dividends", "qualified_dividends", "royalties", "short_gain", "long_gain", "section_1231",
           "section_179", "contributions", "investment_interest", "exempt_interest", "nondeductible", "foreign_tax", "self_employment",
           "guaranteed", "distributed")  # fmt: skip
_ACCOUNTS = ("sales", "returns", "cogs", "salaries", "repairs", "rent", "taxes", "interest", "depreciation", "meals", "nondeductible",
             "advertising", "interest_income", "dividends", "royalties", "short_gain", "long_gain", "exempt_interest", "contributions",
             "investment_interest", "foreign_tax", "retirement", "benefits")  # fmt: skip


@st.composite
def partnerships(draw):
    """Books that balance, two to five partners with odd parts and changes in the year, some assets."""
    amounts = draw(st.lists(st.tuples(st.sampled_from(_ACCOUNTS), st.integers(-90_000, 90_000)), max_size=12))
    accounts = [(f"Account {n}", key, net, 0) for n, (key, net) in enumerate(amounts)]
    accounts.append(("Checking", "cash", -sum(one[2] for one in accounts) + 5_000, 5_000))
    accounts.append(("Capital", "capital", -5_000, -5_000))
    count = draw(st.integers(2, 5))
    parts = draw(st.lists(st.integers(1, 97), min_size=count, max_size=count))
    made = [
        partner(f"p{n}", f"Partner {n}", "1", stakes=rows({"profit": f"{100 * part / sum(parts):.5f}"}, *_change(draw)),
                general=draw(st.sampled_from(("yes", "no"))), services=draw(st.integers(0, 9_000)), distributed=draw(st.integers(0, 9_000)))
        for n, part in enumerate(parts)
    ]  # fmt: skip
    assets = [asset(draw(st.integers(1_000, 90_000)), section_179=draw(st.sampled_from((0, 500))))] if draw(st.booleans()) else []
    return (books(*accounts), *made, *assets)


def _change(draw):
    return [{"since": "2025-09-01", "profit": str(draw(st.integers(1, 60)))}] if draw(st.booleans()) else []


class SharedOutTests(TestCase):
    @given(WHOLE, st.lists(st.integers(0, 10**6).map(Decimal), min_size=1, max_size=40))
    def test_the_parts_are_the_whole_and_none_is_off_by_a_dollar(self, amount, weights):
        parts = shared_out(amount, weights)
        if sum(weights):
            self.assertEqual(sum(parts), amount)
            exact = [amount * weight / sum(weights) for weight in weights]
            self.assertTrue(all(abs(part - one) < 1 for part, one in zip(parts, exact, strict=True)))
        else:
            self.assertEqual(set(parts), {Decimal(0)})

    def test_equal_fractions_go_to_the_first(self):
        self.assertEqual(shared_out(Decimal(-5), [Decimal(1)] * 3), [-2, -2, -1])


class PartnershipTests(TestCase):
    @settings(max_examples=examples(60), deadline=None)
    @given(partnerships())
    def test_all_shares_together_are_schedule_k(self, papers):
        run = result(*papers).run
        schedule, shares = run.form("us.sch-k"), run.every("us.sch-k-1")
        for name in _SHARED:
            self.assertEqual(sum((getattr(one, name) for one in shares), Decimal(0)), getattr(schedule, name), name)
        by_kind = sum((cell.value for cell in schedule.lines() if cell.number.startswith("Analysis 2")), Decimal(0))
        self.assertEqual(by_kind, schedule.net)
        capital, m2 = sum((one.capital for one in shares), Decimal(0)), run.form("us.sch-m-2")
        self.assertEqual(capital, m2.ended)
        sheet = run.form("us.sch-l")
        self.assertEqual((sheet.difference, sheet.difference_before), (0, 0))

    @settings(max_examples=examples(40), deadline=None)
    @given(partnerships())
    def test_books_lead_to_the_return(self, papers):
        """To the dollars that rounding each line makes."""
        self.assertLessEqual(abs(result(*papers).run.form("us.sch-m-1").unreconciled), 4)

    @settings(max_examples=examples(25), deadline=None)
    @given(partnerships())
    def test_every_figure_follows_from_its_operands(self, papers):
        for form in result(*papers).forms:
            for cell in form.cells.values():
                assert_explained(self, cell)

    def test_what_moves_between_partners_moves_exactly(self):
        before = result(ada(), ben()).run
        after = result(ada(services=12_500), ben()).run
        owner, other = (lambda run, key: run.form("us.sch-k-1", key)), Share
        self.assertEqual(owner(after, "ada").guaranteed - owner(before, "ada").guaranteed, 2_500)
        self.assertEqual(other.number, "Schedule K-1")
        moved = [owner(after, key).ordinary - owner(before, key).ordinary for key in ("ada", "ben")]
        self.assertEqual(moved, [-1_500, -1_000])

    def test_rolled_forward_the_books_begin_where_they_ended(self):
        rolled = roll_forward(result(ada(), ben(), paper("business"))).data
        self.assertIsInstance(rolled, ReturnData)
        books_then = next(one for one in rolled.papers if one.kind == "books")
        self.assertEqual(sum(Decimal(row.get("before") or 0) for row in books_then.values["rows"]), 0)
        members = [one for one in rolled.papers if one.kind == "partner"]
        self.assertEqual([Decimal(one.values["capital_before"]) for one in members], [39_800, 30_200])
        self.assertEqual(PACK.paper("partner").fields()["services"].name in members[0].values, False)
