"""Residency, where income belongs, which states' returns are wanted and why; and that no federal figure ever hears of it."""

from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.engine import figures
from taxcore.packs.us import places
from taxcore.packs.us.base import UNTAXED
from taxcore.packs.us.tests.diagnosed.making import paper, rows, single
from taxcore.packs.us.tests.returns import filing, interest, person, result, w2
from taxcore.packs.us.tests.sampling import examples

MOVED = (filing(residence=""), single("residency", rows=rows(
    {"person": "taxpayer", "state": "IL", "last": "2025-05-31"}, {"person": "taxpayer", "state": "OH", "first": "2025-06-01"})))  # fmt: skip


def wanted(*papers):
    return {one.state: one for one in places.wanted(result(*papers).run)}


def at(*given):
    return {"states": rows(*({"state": s, "state_number": "1", "wages": w, "withheld": h} for s, w, h in given))}


class ResidencyTests(TestCase):
    def test_the_state_of_the_whole_year(self):
        run = result(w2(50_000)).run
        self.assertEqual([(stay.state, stay.days) for stay in places.stays(run)], [("IL", 365)])
        self.assertEqual((places.lived(run, "IL"), places.lived(run, "IN")), ("full-year", ""))

    def test_a_move_counts_by_days_and_the_last_home_is_the_home(self):
        run = result(*MOVED).run
        self.assertEqual(places.days_in(run, "taxpayer"), {"IL": 151, "OH": 214})
        self.assertEqual((places.lived(run, "IL"), places.lived(run, "OH")), ("part-year", "part-year"))
        self.assertEqual(places.home_at_end(run), "OH")
        self.assertEqual(places.days_without(run, "taxpayer"), [])

    def test_days_without_a_home_are_named(self):
        gap = single(
            "residency",
            rows=rows(
                {"person": "taxpayer", "state": "IL", "last": "2025-03-31"},
                {"person": "taxpayer", "state": "IN", "first": "2025-05-01"},
            ),
        )
        self.assertEqual(
            places.days_without(result(filing(residence=""), gap).run, "taxpayer"), [(date(2025, 4, 1), date(2025, 4, 30))]
        )

    def test_spouses_in_two_states_are_nowhere_for_the_full_year(self):
        apart = single("residency", rows=rows({"person": "taxpayer", "state": "MO"}, {"person": "spouse", "state": "IA"}))
        run = result(person(), person("spouse"), filing("joint", residence=""), apart).run
        self.assertEqual((places.lived(run, "MO"), places.lived(run, "IA")), ("part-year", "part-year"))

    def test_illinois_counts_both_as_residents_on_one_return(self):
        apart = single("residency", rows=rows({"person": "taxpayer", "state": "IL"}, {"person": "spouse", "state": "IA"}))
        run = result(person(), person("spouse"), filing("joint", residence=""), apart).run
        self.assertEqual((places.lived(run, "IL"), places.lived(run, "IA")), ("full-year", "part-year"))

    def test_both_is_each_of_them(self):
        both = single("residency", rows=rows({"person": "both", "state": "IL"}))
        self.assertEqual(
            places.lived(result(person(), person("spouse"), filing("joint", residence=""), both).run, "IL"), "full-year"
        )


class WantedTests(TestCase):
    def test_home_and_where_wages_were_earned(self):
        found = wanted(w2(50_000, **at(("IL", "30000", "1485"), ("OH", "20000", "800"))))
        self.assertEqual({state: one.kind for state, one in found.items()}, {"IL": "full-year", "OH": "nonresident"})
        self.assertEqual((found["IL"].made, found["OH"].made), (True, False))
        self.assertIn("withheld 800", found["OH"].reasons[0])

    def test_an_agreement_leaves_wages_to_the_home_state(self):
        self.assertNotIn("IA", wanted(w2(50_000, **at(("IA", "50000", "0")))))
        found = wanted(w2(50_000, **at(("IA", "50000", "900"))))["IA"]
        self.assertIn("by agreement", found.reasons[0])

    def test_states_without_a_tax_want_nothing(self):
        self.assertEqual(set(wanted(w2(50_000, **at(("TX", "50000", "0"))))), {"IL"})
        self.assertEqual(wanted(filing(residence="TX", state="TX"), w2(50_000, **at(("TX", "50000", "0")))), {})

    def test_a_mover_is_a_part_year_resident_of_both(self):
        found = wanted(*MOVED, w2(50_000, **at(("IL", "50000", "2000"))))
        self.assertEqual({state: one.kind for state, one in found.items()}, {"IL": "part-year", "OH": "part-year"})
        self.assertIn("from June 1 to December 31", found["OH"].reasons[0])
        self.assertEqual((found["IL"].made, found["OH"].made), (True, False))

    def test_every_agreement_stands_once_between_two_taxing_states(self):
        for pair in places.reciprocal_pairs():
            self.assertEqual(len(pair), 2)
            self.assertFalse(pair & UNTAXED)
        self.assertTrue(places.are_reciprocal("IL", "WI") and places.are_reciprocal("WI", "IL"))
        self.assertFalse(places.are_reciprocal("IL", "IN"))


class OrderTests(TestCase):
    def test_bottom_lines_begin_with_the_federal_one_and_the_home_state(self):
        found = result(w2(50_000, **at(("CA", "9000", "300"), ("IL", "50000", "2000"), ("GA", "9000", "300"))))
        self.assertEqual([line.authority.code for line in found.bottom_lines], ["us", "us-il", "us-ca", "us-ga"])


class BelongsTests(TestCase):
    def one(self, *papers, kind="w2"):
        return next(one for one in places.belongs(result(*papers).run) if one.kind == kind)

    def test_rows_say_where_wages_belong_and_the_rest_is_named(self):
        one = self.one(w2(50_000, **at(("IL", "30000", "1485"))))
        self.assertEqual((one.by_state["IL"], one.rest, one.rest_is), ((30_000, 1485), 20_000, "not yet allocated"))
        both = self.one(w2(50_000, **at(("IL", "50000", "0"), ("MO", "20000", "0"))))
        self.assertEqual((both.rest, both.rest_is), (-20_000, "taxed by more than one state"))
        for rows_ in ((("IL", "60000", "0"), ("MO", "20000", "0")), (("IA", "50000", "0"), ("MO", "20000", "0"))):
            over = self.one(w2(50_000, **at(*rows_)))
            self.assertEqual((over.rest < 0, over.rest_is), (True, "exceeds the federal amount"))
        nowhere = self.one(filing(residence="TX", state="TX"), w2(50_000, **at(("IL", "30000", "1485"))))
        self.assertEqual(nowhere.rest_is, "not taxed by any state")

    def test_interest_belongs_where_its_owner_lives_by_days_when_they_moved(self):
        one = self.one(*MOVED, interest("365"), kind="1099-int")
        self.assertEqual({state: amount for state, (amount, _) in one.by_state.items()}, {"IL": 151, "OH": 214})
        self.assertEqual(one.rest, 0)

    def test_what_belongs_to_both_follows_both(self):
        apart = single("residency", rows=rows({"person": "taxpayer", "state": "IL"}, {"person": "spouse", "state": "IA"}))
        papers = (person(), person("spouse"), filing("joint", residence=""), apart, interest("1000", owner="joint"))
        one = self.one(*papers, kind="1099-int")
        self.assertEqual({state: amount for state, (amount, _) in one.by_state.items()}, {"IL": 500, "IA": 500})

    def test_sales_of_a_mover_belong_where_the_owner_lived_on_the_day(self):
        def sold(*days):
            given_ = rows(*({"box": "A", "proceeds": "150", "basis": "50"} | ({"sold": day} if day else {}) for day in days))
            return self.one(*MOVED, paper("1099-b", payer="Sandbar", sales=given_), kind="1099-b")

        one = sold("2025-03-01", "2025-05-31", "2025-06-01")
        self.assertEqual({state: amount for state, (amount, _) in one.by_state.items()}, {"IL": 200, "OH": 100})
        self.assertEqual((sold("").rest, sold("").rest_is), (100, "no date of sale is entered"))

    def test_capital_gain_distributions_belong_with_their_dividends(self):
        one = self.one(paper("1099-div", payer="Heron", dividends="300", capital_gain="200"), kind="1099-div")
        self.assertEqual((one.amount, one.by_state["IL"][0]), (500, 500))

    @settings(max_examples=examples(30), deadline=None)
    @given(st.dictionaries(st.sampled_from(["IL", "IN", "MO", "TX"]), st.integers(0, 200_000), max_size=4))
    def test_no_allocation_changes_a_federal_figure(self, allocation):
        """Of income: what a state withheld is deducted by whoever itemizes."""
        plain = federal(result(w2(50_000, 4_000, state_withheld=0)))
        spread = federal(result(w2(50_000, 4_000, **at(*((state, str(income), "0") for state, income in allocation.items())))))
        self.assertEqual(plain, spread)

    @settings(max_examples=examples(25), deadline=None)
    @given(st.dates(date(2025, 1, 1), date(2025, 12, 30)))
    def test_what_belongs_to_the_states_of_a_mover_makes_the_whole(self, last):
        stays = rows(
            {"person": "taxpayer", "state": "IL", "last": str(last)},
            {"person": "taxpayer", "state": "IN", "first": str(last + timedelta(days=1))},
        )
        one = self.one(filing(residence=""), single("residency", rows=stays), interest("1234.56"), kind="1099-int")
        self.assertEqual(sum((amount for amount, _ in one.by_state.values()), Decimal(0)) + one.rest, Decimal("1234.56"))


class TwoStatesTests(TestCase):
    """Illinois at home, Pennsylvania where some of the work was done."""

    ROWS = st.lists(
        st.tuples(st.sampled_from(["IL", "PA", "TX"]), st.integers(0, 150_000), st.integers(0, 6_000)),
        max_size=3,
        unique_by=lambda row: row[0],
    )

    def computed(self, allocation, turned=False):
        given = [(state, str(income), str(withheld)) for state, income, withheld in allocation]
        papers = [w2(90_000, 9_000, **at(*(given[::-1] if turned else given))), interest("1200")]
        return result(*(papers[::-1] if turned else papers))

    @settings(max_examples=examples(30), deadline=None)
    @given(ROWS)
    def test_the_order_in_which_states_and_papers_came_does_not_matter(self, allocation):
        one, other = self.computed(allocation), self.computed(allocation, turned=True)
        self.assertEqual(
            {line.authority.code: line.amount for line in one.bottom_lines},
            {line.authority.code: line.amount for line in other.bottom_lines},
        )
        self.assertEqual(figures(one), figures(other))

    @settings(max_examples=examples(30), deadline=None)
    @given(ROWS)
    def test_the_credit_is_never_more_than_what_was_paid_or_is_owed(self, allocation):
        found = self.computed(allocation)
        home = found.run.form("us-il.il-1040")
        elsewhere = places.taxed_elsewhere(found.run, "IL")
        self.assertLessEqual(home.other_state_credit, sum((one.tax for one in elsewhere), Decimal(0)))
        self.assertLessEqual(home.other_state_credit, home.tax)
        if not elsewhere:
            self.assertEqual(home.other_state_credit, 0)

    @settings(max_examples=examples(25), deadline=None)
    @given(st.integers(1, 90_000))
    def test_a_state_that_came_and_went_leaves_no_trace(self, income):
        """What its rows moved at home moves back when they are gone."""
        plain = self.computed([("IL", 90_000, 4_000)])
        with_other = self.computed([("IL", 90_000, 4_000), ("PA", income, 0)])
        self.assertEqual(figures(self.computed([("IL", 90_000, 4_000)])), figures(plain))
        moved = {name for name, value in figures(with_other).items() if figures(plain).get(name, 0) != value}
        self.assertTrue(all(name.startswith(("us-pa.", "us-il.")) for name in moved), moved)


def federal(found):
    return {name: value for name, value in figures(found).items() if name.startswith("us.")}
