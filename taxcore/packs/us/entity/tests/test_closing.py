"""Closing of the books by hand. IRC 706(d)(1), 1377(a)(2); 26 CFR 1.706-4(a)(3), 1.1377-1(b).

Ada has 60%. Ben has 40% until June 30; then half of it is Cal's. The shop's ordinary income is 65,000.
"""

from datetime import date
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.s_corporation.tests import making as s
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.sampling import examples

_DAYS = st.dates(date(2025, 1, 1), date(2025, 12, 30))
JUNE, MARCH = "2025-06-30", "2025-03-31"
_BOTH = ({"profit": "40"}, {"since": "2025-07-01", "profit": "20"})
OWNERS = (
    p.ada(),
    p.ben(stakes=p.rows(*_BOTH)),
    p.partner("cal", "Cal Crane", 0, stakes=p.rows({"profit": "0"}, {"since": "2025-07-01", "profit": "20"})),
)
HOLDERS = (s.ada(), s.ben(stakes=s.rows({"shares": "40"}, {"since": "2025-07-01", "shares": "20"})),
           s.holder("cal", "Cal Crane", 0, stakes=s.rows({"shares": "0"}, {"since": "2025-07-01", "shares": "20"})))  # fmt: skip


def closing(*given, **values):
    """(last day, item, amount)."""
    return p.paper(
        "closing", rows=p.rows(*({"until": day, "item": item, "amount": str(amount)} for day, item, amount in given)), **values
    )


# Called; rows; line of Schedule K; its parts for Ada, Ben and Cal
CASES = (
    # 45,000 at 60 and 40; 20,000 at 60, 20, 20
    ("more in the first half", ((JUNE, "1", 45_000),), "ordinary", (39_000, 22_000, 4_000)),
    ("all of it in the first half", ((JUNE, "1", 65_000),), "ordinary", (39_000, 26_000, 0)),
    # 70,000 at 60 and 40, less 5,000 at 60, 20, 20
    ("a loss in the second half", ((JUNE, "1", 70_000),), "ordinary", (39_000, 27_000, -1_000)),
    # 19,999.8 and 13,333.2, then 19,000.2 and twice 6,333.4: each part adds up by itself
    ("whole dollars in each part", ((JUNE, "1", 33_333),), "ordinary", (39_000, 19_667, 6_333)),
    ("interest of the first half", ((JUNE, "5", 200),), "interest", (120, 80, 0)),
    # 30,000 until March, nothing until June, then 35,000
    ("three parts", ((MARCH, "1", 30_000), (JUNE, "1", 0)), "ordinary", (39_000, 19_000, 7_000)),
    # No gain together: 5,000 won at 60 and 40, then lost at 60, 20, 20
    ("nothing together, but not for each", ((JUNE, "8", 5_000),), "short_gain", (0, 1_000, -1_000)),
)  # fmt: skip


class ClosingTests(TestCase):
    def shares(self, rows, name, owners=OWNERS, of=p, **values):
        found = of.result(*owners, closing(*rows, **values))
        return found, tuple(getattr(one, name) for one in found.run.every("us.sch-k-1"))

    def test_worked_by_hand(self):
        for called, rows, name, wanted in CASES:
            with self.subTest(called):
                found, parts = self.shares(rows, name)
                self.assertEqual(parts, wanted)
                self.assertEqual(sum(parts), getattr(found.run.form("us.sch-k"), name))
                self.assertEqual(stops(found), set())

    def test_shareholders_who_agreed(self):
        found, parts = self.shares(((JUNE, "1", 45_000),), "ordinary", HOLDERS, s, agreed="yes")
        self.assertEqual((parts, stops(found)), ((39_000, 22_000, 4_000), set()))
        self.assertIn("us.closing.not-agreed", stops(self.shares(((JUNE, "1", 45_000),), "ordinary", HOLDERS, s)[0]))

    def test_what_is_not_entered_goes_by_days(self):
        closed, by_days = self.shares(((JUNE, "5", 200),), "ordinary")[1], p.result(*OWNERS).run.every("us.sch-k-1")
        self.assertEqual(closed, tuple(one.ordinary for one in by_days))

    def test_capital_self_employment_and_qualified_income_go_with_it(self):
        found, _ = self.shares(((JUNE, "1", 45_000),), "ordinary")
        shares = found.run.every("us.sch-k-1")
        self.assertEqual([one.self_employment for one in shares], [49_000, 22_000, 4_000])  # Ada's with 10,000 guaranteed
        self.assertEqual([one.qualified_income for one in shares], [39_000, 22_000, 4_000])
        plain = p.result(*OWNERS).run.every("us.sch-k-1")
        moved = [one.net - before.net for one, before in zip(shares, plain, strict=True)]
        self.assertEqual(moved, [one.ordinary - before.ordinary for one, before in zip(shares, plain, strict=True)])

    def test_each_part_can_be_worked_out_again(self):
        found, _ = self.shares(((JUNE, "1", 33_333),), "ordinary")
        for one in found.run.every("us.sch-k-1"):
            assert_explained(self, one.cell("ordinary"))

    @settings(max_examples=examples(40), deadline=None)
    @given(
        st.lists(st.tuples(_DAYS, st.sampled_from(("1", "5", "8", "13a")), st.integers(-90_000, 90_000)), min_size=1, max_size=6)
    )
    def test_whatever_is_entered_the_parts_are_the_whole(self, rows):
        run = p.result(*OWNERS, closing(*((f"{day:%Y-%m-%d}", item, amount) for day, item, amount in rows))).run
        for name in ("ordinary", "interest", "short_gain", "contributions", "qualified_income"):
            parts = sum(getattr(one, name) for one in run.every("us.sch-k-1"))
            self.assertEqual(parts, getattr(run.form("us.sch-k"), name), name)

    def test_what_is_said(self):
        for code, rows, owners in (
            ("us.closing.day", (("2025-12-31", "1", 5),), OWNERS),
            ("us.closing.day", (("2024-06-30", "1", 5),), OWNERS),
            ("us.closing.inside", ((MARCH, "1", 5),), OWNERS),
            ("us.closing.no-change", ((JUNE, "1", 5),), (p.ada(), p.ben())),
        ):
            with self.subTest(code):
                self.assertIn(code, {one.code for one in self.shares(rows, "ordinary", owners)[0].findings})
        clean = {one.code for one in self.shares(((JUNE, "1", 45_000),), "ordinary")[0].findings}
        self.assertEqual(clean & CODES, set())
        twice = p.paper("allocation", item="1", rows=p.rows({"partner": "ada", "part": "100"}))
        codes = {one.code for one in p.result(*OWNERS, closing((JUNE, "1", 45_000)), twice).findings}
        self.assertIn("us.closing.twice", codes)
        sold = p.asset(9_000, in_service="2024-02-01", sold="2025-08-01", sold_for=12_000)
        codes = {one.code for one in p.result(*OWNERS, closing((JUNE, "1", 45_000)), sold).findings}
        self.assertIn("us.closing.gains", codes)


def stops(found):
    return {one.code for one in found.findings if one.weight == "stops"}


CODES = {
    "us.closing.day",
    "us.closing.inside",
    "us.closing.no-change",
    "us.closing.gains",
    "us.closing.twice",
    "us.closing.not-agreed",
}
