"""Returns apart of a couple: who may, what is whose, that nothing is lost in the halves, and that the law's figures come out."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.engine import compute, ripple
from taxcore.packs.us import PACK, apart, couples, extensions, places
from taxcore.packs.us.dividing import Division
from taxcore.packs.us.states import all_states
from taxcore.packs.us.tests.diagnosed.making import paper, rows, single
from taxcore.packs.us.tests.returns import child, filing, interest, person, result, w2


def couple(first, second, *papers, **more):
    """Somebody who lived in one state the whole year, and a spouse who lived in another."""
    stays = rows({"person": "taxpayer", "state": first}, {"person": "spouse", "state": second})
    people = (person(first_name="Thea"), person("spouse", first_name="Marek"))
    return result(*people, filing("joint", residence="", **more), single("residency", rows=stays), *papers)


def pay(owner, amount, state, withheld=0):
    made = rows({"state": state, "state_number": "1", "wages": str(amount), "withheld": str(withheld)})
    return w2(amount, 0, owner, owner=owner, states=made)


def alone(found, role, state="IL"):
    return compute(PACK, apart.of_one(found.run, role, state))


def paper_in(result_, kind):
    return next(one for one in result_.run.data.papers if one.kind == kind)


class AllowedTests(TestCase):
    def test_each_state_says_when(self):
        """(state, who lived there and where the other did, whether they may)"""
        for state, other, pays, may in (
            ("IL", "TX", "TX", True), ("VA", "TX", "TX", True), ("SC", "TX", "TX", True), ("IA", "TX", "TX", False),
            ("MO", "TX", "TX", False), ("IN", "TX", "TX", False), ("CA", "TX", "TX", True), ("CA", "TX", "CA", False),
            ("GA", "TX", "TX", True), ("GA", "TX", "GA", False), ("WI", "TX", "TX", True), ("PA", "TX", "TX", True),
            ("PA", "PA", "PA", True), ("IL", "IL", "IL", False),
        ):  # fmt: skip
            with self.subTest(state, other=other, pays=pays):
                found = couple(state, other, pay("taxpayer", 50_000, state), pay("spouse", 30_000, pays))
                self.assertIs(apart.may(found.run, state), may)

    def test_nobody_files_apart_twice(self):
        found = couple("IL", "TX", pay("taxpayer", 50_000, "IL"))
        self.assertFalse(apart.may(alone(found, "taxpayer").run, "IL"))

    def test_every_state_has_a_rule_with_its_source(self):
        words = {couples.NEVER, couples.WITHOUT_INCOME, couples.DIFFERING, couples.ALWAYS}
        for state in all_states():
            self.assertTrue(couples.rule(state.code).source, state.code)
            self.assertIn(couples.rule(state.code).apart, words)
        self.assertEqual(couples.rule("OH"), couples.Rule())

    def test_virginia_counts_both_as_residents_only_beside_somebody_who_never_lived_there(self):
        papers = (pay("taxpayer", 50_000, "VA"), pay("spouse", 30_000, "TX"))
        self.assertEqual(places.calls(couple("VA", "TX", *papers).run, "VA"), places.WHOLE)
        stays = rows(
            {"person": "taxpayer", "state": "VA"}, {"person": "spouse", "state": "TX", "last": "2025-06-30"},
            {"person": "spouse", "state": "VA", "first": "2025-07-01"},
        )  # fmt: skip
        mixed = result(person(), person("spouse"), filing("joint", residence=""), single("residency", rows=stays), *papers)
        self.assertEqual(places.calls(mixed.run, "VA"), places.PART)


class OfOneTests(TestCase):
    def test_own_papers_whole_and_half_of_what_belongs_to_both(self):
        found = couple("IL", "TX", pay("taxpayer", 50_000, "IL"), pay("spouse", 30_000, "TX"), interest("1000.01", owner="joint"))
        mine, other = alone(found, "taxpayer"), alone(found, "spouse")
        self.assertEqual((mine.run.form("us.1040").wages, other.run.form("us.1040").wages), (50_000, 30_000))
        self.assertEqual(paper_in(mine, "1099-int").values["interest"], "500.01")
        self.assertEqual(paper_in(other, "1099-int").values["interest"], "500.00")
        self.assertEqual(mine.run.form("us.1040").status, "separate")

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 100_000), st.integers(0, 100_000), st.decimals(0, 9_999, places=2), st.integers(0, 9_999))
    def test_the_two_together_have_what_the_couple_has(self, first, second, both, owed):
        bank = interest(str(both), owner="joint")
        home = paper("1098", owner="joint", lender="Ferry Bank", interest=str(owed))
        found = couple("IL", "TX", pay("taxpayer", first, "IL"), pay("spouse", second, "TX"), bank, home)
        one, other = (alone(found, role) for role in ("taxpayer", "spouse"))
        for kind, name in (("1099-int", "interest"), ("1098", "interest")):
            halves = [Decimal(paper_in(each, kind).values[name]) for each in (one, other)]
            self.assertEqual(sum(halves), both if kind == "1099-int" else owed)
            self.assertLessEqual(abs(halves[0] - halves[1]), Decimal("0.01"))
        wages = [each.run.form("us.1040").wages for each in (one, other)]
        self.assertEqual(sum(wages), found.run.form("us.1040").wages)

    def test_children_and_the_states_questions_go_with_the_one_who_lives_there(self):
        asked = paper("il-questions", id="il-questions", use_tax="0")
        found = couple("TX", "IL", pay("spouse", 50_000, "IL"), child("d1"), asked)
        here, away = alone(found, "spouse"), alone(found, "taxpayer")
        self.assertEqual(len(here.run.people()), 2)
        self.assertEqual(len(away.run.people()), 1)
        self.assertTrue(here.run.single("il-questions").is_answered("use_tax"))
        self.assertFalse(away.run.single("il-questions").is_answered("use_tax"))
        self.assertIn("us.diligence.missing", {one.code for one in found.findings})
        self.assertFalse([one.code for one in here.findings if one.code.startswith("us.diligence")])

    def test_a_dividend_of_the_other_and_the_joint_returns_own_affairs_stay_behind(self):
        left = [
            single("estimates", state_rows=rows({"state": "IL", "amount": "200"}, {"state": "IN", "amount": "300"})),
            single("state-returns", rows=rows({"state": "IL", "what": "leave-out", "reason": "Apart"})),
            single("prior-year", tax="900"), paper("1099-div", owner="spouse", payer="Wrack", dividends="80"),
        ]  # fmt: skip
        mine = alone(couple("IL", "TX", pay("taxpayer", 50_000, "IL"), *left), "taxpayer")
        kinds = {one.kind for one in mine.run.data.papers}
        self.assertFalse(kinds & {"state-returns", "prior-year", "1099-div"})
        self.assertEqual([row["state"] for row in paper_in(mine, "estimates").values["state_rows"]], ["IL"])

    def test_who_itemised_together_itemises_apart(self):
        home = paper("1098", owner="joint", lender="Ferry Bank", interest="40000")
        mine = alone(couple("IL", "TX", pay("taxpayer", 150_000, "IL"), home), "taxpayer")
        self.assertTrue(mine.run.form("us.1040").is_itemised)
        self.assertTrue(mine.run.single("filing").spouse_itemises)

    def test_a_bad_amount_stays_as_it_is_and_says_so(self):
        found = couple("IL", "TX", pay("taxpayer", 50_000, "IL"), interest("lots", owner="joint"))
        self.assertIn("us.bad-value", {one.code for one in alone(found, "taxpayer").findings})


class EverywhereTests(TestCase):
    def test_both_have_the_states_questions_and_half_of_what_nobody_owns(self):
        asked = paper("in-questions", id="in-questions", use_tax="10", county="Lake")
        found = couple("IN", "IN", pay("taxpayer", 50_000, "IN"), pay("spouse", 30_000, "IN"), asked)
        for role, wages in (("taxpayer", 50_000), ("spouse", 30_000)):
            one = compute(PACK, apart.everywhere(found.run, role, Division()))
            self.assertEqual([line.authority.code for line in one.bottom_lines], ["us", "us-in"])
            self.assertEqual((one.run.form("us.1040").wages, one["us-in.it-40.10"].value), (wages, 5))
            self.assertNotIn("us-in.county-open", {finding.code for finding in one.findings})


class ComparisonTests(TestCase):
    def test_illinois_by_hand(self):
        """Together (80,000 - 5,700) x 4.95%; apart (50,000 - 2,850) x 4.95%."""
        found = couple("IL", "TX", pay("taxpayer", 50_000, "IL", 2_000), pay("spouse", 30_000, "TX"))
        (choice,) = apart.choices(found.run)
        self.assertEqual((choice.together, choice.each), (2_000 - 3_678, {"taxpayer": 2_000 - 2_334}))
        self.assertEqual(choice.saves, 3_678 - 2_334)

    def test_pennsylvania_costs_neither_more_nor_less(self):
        found = couple("PA", "PA", pay("taxpayer", 50_000, "PA", 1_500), pay("spouse", 30_000, "PA", 900))
        (choice,) = apart.choices(found.run)
        self.assertEqual(set(choice.each), {"taxpayer", "spouse"})
        self.assertLessEqual(abs(choice.saves), 1)

    def test_asking_moves_nothing(self):
        papers = (pay("taxpayer", 50_000, "IL"), pay("spouse", 30_000, "TX"))
        found, again = couple("IL", "TX", *papers), couple("IL", "TX", *papers)
        list(apart.choices(found.run))
        self.assertEqual(list(ripple(again, found)), [])


class OnlyOneStateTests(TestCase):
    def test_nothing_but_the_states_return_goes_out(self):
        found = couple("IL", "TX", pay("taxpayer", 50_000, "IL", 2_000), pay("spouse", 30_000, "TX"))
        self.assertEqual([line.authority.code for line in found.bottom_lines], ["us", "us-il"])
        mine = alone(found, "taxpayer")
        self.assertEqual([line.authority.code for line in mine.bottom_lines], ["us-il"])
        self.assertEqual([one.code for one in extensions.of_return(mine.run)], ["us-il"])

    def test_another_states_return_is_read_for_the_credit_and_not_filed(self):
        made = rows({"state": "IL", "state_number": "1", "wages": "50000", "withheld": "0"},
                    {"state": "MO", "state_number": "1", "wages": "20000", "withheld": "0"})  # fmt: skip
        mine = alone(couple("IL", "TX", w2(70_000, 0, owner="taxpayer", states=made)), "taxpayer")
        self.assertEqual([line.authority.code for line in mine.bottom_lines], ["us-il"])
        self.assertGreater(mine["us-il.il-1040.15"].value, 300)
