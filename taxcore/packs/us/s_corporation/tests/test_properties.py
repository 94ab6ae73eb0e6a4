"""What holds of every S corporation: parts are the whole, books balance, the accounts of M-2 follow their order."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.engine import roll_forward
from taxcore.packs.us.s_corporation.tests.making import about, ada, asset, ben, books, holder, result, rows
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.sampling import examples

_SHARED = ("ordinary", "rental", "interest", "dividends", "royalties", "short_gain", "long_gain", "section_1231", "section_179",
           "contributions", "investment_interest", "exempt_interest", "nondeductible", "foreign_tax", "distributed",
           "dividends_paid",
           "minimum_tax")  # fmt: skip
_ACCOUNTS = ("sales", "returns", "cogs", "officers", "salaries", "repairs", "rent", "taxes", "interest", "depreciation", "meals",
             "nondeductible", "advertising", "interest_income", "dividends", "royalties", "short_gain", "long_gain",
             "exempt_interest",
             "contributions", "investment_interest", "foreign_tax", "retirement", "benefits")  # fmt: skip


@st.composite
def corporations(draw):
    """Books that balance, one to five shareholders of whom some bought or sold, earnings of C years, some assets."""
    amounts = draw(st.lists(st.tuples(st.sampled_from(_ACCOUNTS), st.integers(-90_000, 90_000)), max_size=12))
    accounts = [(f"Account {n}", key, net, 0) for n, (key, net) in enumerate(amounts)]
    accounts.append(("Checking", "cash", -sum(one[2] for one in accounts) + 5_000, 5_000))
    accounts.append(("Stock", "stock", -5_000, -5_000))
    made = []
    for number in range(draw(st.integers(1, 5))):
        moved = [{"since": "2025-05-01", "shares": str(draw(st.integers(1, 90)))}] if draw(st.booleans()) else []
        stakes = rows({"shares": str(draw(st.integers(1, 90)))}, *moved)
        made.append(holder(f"h{number}", f"Holder {number}", 1, stakes=stakes, distributed=draw(st.integers(0, 40_000))))
    before = about(adjustments_before=draw(st.integers(-9_000, 40_000)), earnings_before=draw(st.integers(0, 9_000)))
    assets = [asset(draw(st.integers(1_000, 90_000)), section_179=draw(st.sampled_from((0, 500))))] if draw(st.booleans()) else []
    return (books(*accounts), before, *made, *assets)


class CorporationTests(TestCase):
    @settings(max_examples=examples(60), deadline=None)
    @given(corporations())
    def test_all_shares_together_are_schedule_k(self, papers):
        run = result(*papers).run
        schedule, shares = run.form("us.sch-k"), run.every("us.sch-k-1")
        for name in _SHARED:
            self.assertEqual(sum((getattr(one, name) for one in shares), Decimal(0)), getattr(schedule, name), name)
        sheet = run.form("us.sch-l")
        self.assertEqual((sheet.difference, sheet.difference_before), (0, 0))
        self.assertLessEqual(abs(run.form("us.sch-m-1").unreconciled), 4)

    @settings(max_examples=examples(60), deadline=None)
    @given(corporations())
    def test_distributions_use_the_accounts_in_their_order(self, papers):
        """The adjustments account first and never below nothing by them; then earnings of C years; then other adjustments."""
        m2 = result(*papers).run.form("us.sch-m-2")
        paid = m2.schedule.distributed_in_all
        self.assertEqual(m2.distributed, min(paid, m2.available))
        if m2.earnings_distributed:
            self.assertEqual(m2.distributed, m2.available)
        if m2.other_distributed:
            self.assertEqual(m2.earnings_ended, 0)
        self.assertLessEqual(m2.distributed + m2.earnings_distributed + m2.other_distributed, paid)
        if m2.together >= m2.begun:
            self.assertGreaterEqual(m2.ended, min(Decimal(0), m2.together))

    @settings(max_examples=examples(20), deadline=None)
    @given(corporations())
    def test_every_figure_follows_from_its_operands(self, papers):
        for form in result(*papers).forms:
            for cell in form.cells.values():
                assert_explained(self, cell)

    def test_rolled_forward_the_accounts_go_on(self):
        rolled = roll_forward(result(ada(), ben())).data
        said = next(one for one in rolled.papers if one.kind == "about").values
        self.assertEqual(Decimal(said["adjustments_before"]), 60_000)
        begins = next(one for one in rolled.papers if one.kind == "books").values["rows"]
        self.assertEqual(sum(Decimal(row.get("before") or 0) for row in begins), 0)
