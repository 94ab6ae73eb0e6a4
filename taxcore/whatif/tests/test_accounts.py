"""Accounts over years, against figures worked by hand."""

from unittest import TestCase

from taxcore.engine import compute, roll_forward
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.diagnosed.making import paper, rows, single
from taxcore.packs.us.tests.returns import result, w2
from taxcore.whatif.accounts import accounts


def _plain(account):
    return [(one.year, *map(int, (one.opening, one.added, one.used, one.expired, one.closing))) for one in account.years]


class AccountTests(TestCase):
    def accounts(self, *results):
        return {one.balance.name: one for one in accounts(results)}

    def test_a_loss_over_three_years(self):
        """9,000 lost in 2023, 3,000 of it used each year."""
        sales = [{"id": "1", "box": "D", "acquired": "2020-01-05", "sold": "2023-05-05", "proceeds": "0", "basis": "9000"}]
        first = result(w2(50_000), paper("1099-b", "b1", payer="Sandbar", sales=sales), year=2023)
        second = self.next(first)
        third = self.next(second)
        found = self.accounts(third, first, second)["long-loss"]
        self.assertEqual(
            _plain(found), [(2023, 0, 9000, 3000, 0, 6000), (2024, 6000, 0, 3000, 0, 3000), (2025, 3000, 0, 3000, 0, 0)]
        )
        self.assertEqual(found.years[0].at, "us.capital-loss-carryover.13")

    def next(self, earlier):
        data = roll_forward(earlier).data
        papers = tuple(one for one in data.papers if one.kind not in ("w2", "1099-b"))
        return compute(PACK, data.but(papers=(*papers, w2(50_000))))

    def test_gifts_expire(self):
        """1,000 of 2019 find no room beside 40,000 on 50,000 of income; 10,000 of this year are added."""
        before = single("gift-carryover", rows=rows({"from_year": "2019", "gift_kind": "cash", "amount": "1000"}))
        given = paper("gift", charity="Pier", gift_kind="cash", amount="40000")
        found = self.accounts(result(w2(50_000), given, before, single("itemized", choice="itemise"), year=2024))["gifts"]
        self.assertEqual(_plain(found), [(2024, 1000, 10000, 0, 1000, 10000)])
        self.assertTrue(found.expires)

    def test_what_is_applied_is_used_up_and_each_holder_has_an_account(self):
        first = result(
            w2(50_000, 9_000), single("deposit", applied_to_next_year="300"), single("estimates", applied="500"), year=2024
        )
        self.assertEqual(_plain(self.accounts(first)["applied"]), [(2024, 500, 300, 500, 0, 300)])
        mine = paper("ira", "x1", owner="taxpayer", basis_before="700")
        found = self.accounts(result(w2(50_000), mine, year=2024))["ira-basis"]
        self.assertEqual((found.key, found.holder, _plain(found)), ("taxpayer", "Taxpayer", [(2024, 700, 0, 0, 0, 700)]))

    def test_nothing_anywhere_is_no_account(self):
        self.assertEqual(self.accounts(result(w2(50_000), year=2024)), {})
