"""What nine states have of a share, by hand: income by receipts, what was withheld, and about how much would have been.

Of 65,000 Ada has 39,000 and Ben 26,000; both live in Florida, and a quarter of the receipts is another state's.
"""

import tomllib
from pathlib import Path
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.entity import withholding
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.s_corporation.tests import making as s
from taxcore.packs.us.states.il.entities.tests.making import asked, receipts, rows
from taxcore.packs.us.states.il.entities.tests.test_owners import issued
from taxcore.packs.us.tests.diagnosed.making import paper
from taxcore.packs.us.tests.returns import filing, result

STATES = ("CA", "GA", "IA", "IN", "MO", "PA", "SC", "VA", "WI")
# Withheld from Ben's 6,500 in 2025; of what is distributed to him, 10,000, a quarter is Californian
EXPECTED = {"CA": 175, "GA": 260, "IA": 247, "IN": 195, "MO": 306, "PA": 200, "SC": 325, "VA": 325, "WI": 497}


def in_two(state):
    return receipts(**{"FL": 150_000, state: 50_000})


def ben(making=p, *by_state, **values):
    return making.ben(states=rows(*by_state), **values)


class ExpectedTests(TestCase):
    def test_of_each_state(self):
        for state in STATES:
            share = p.result(p.ada(), p.ben(), in_two(state)).run.every("us.sch-k-1")[1]
            with self.subTest(state):
                income = withholding.by_states(share)[state]["income"]
                self.assertEqual((income, withholding.expected(share, state, income)), (6_500, EXPECTED[state]))

    def test_not_of_whoever_lives_there_a_loss_a_company_or_too_little(self):
        found = p.result(p.ada(), ben(state="MO"), in_two("MO")).run.every("us.sch-k-1")
        self.assertEqual(withholding.expected(found[1], "MO", 6_500), 0)
        self.assertEqual([withholding.expected(found[0], "MO", income) for income in (1_199, 1_200, -5_000)], [0, 56, 0])
        company = p.result(p.ada(), ben(sort="corporation"), in_two("MO")).run.every("us.sch-k-1")[1]
        self.assertEqual(withholding.expected(company, "MO", 6_500), 0)

    def test_every_state_with_a_return_here_has_its_rule_and_names_its_source(self):
        laws = tomllib.loads(Path(withholding.__file__).with_suffix(".toml").read_text())
        self.assertEqual(set(laws), set(STATES))
        for state, law in laws.items():
            with self.subTest(state):
                self.assertEqual((set(law["rate"]), len(law["statement"])), ({"2023", "2024", "2025"}, 2))
                self.assertGreater(len(law["source"]), 10)

    def test_where_the_rate_is_the_states_own_highest_it_is_the_one_of_its_law(self):
        laws = tomllib.loads(Path(withholding.__file__).with_suffix(".toml").read_text())
        states = Path(withholding.__file__).parents[1] / "states"
        for state, folder in (("IA", "ia"), ("IN", "in_"), ("MO", "mo"), ("PA", "pa"), ("WI", "wi")):
            for year, rate in laws[state]["rate"].items():
                own = tomllib.loads((states / folder / "years" / f"{year}.toml").read_text())["income_tax"]
                with self.subTest(state, year=year):
                    self.assertEqual(rate, highest(own))


def highest(own):
    """The one rate of a state, or that of its last bracket."""
    if "rate" in own:
        return own["rate"]
    return max(bracket[1] for value in own.values() if isinstance(value, list) for bracket in value)


class IssuedTests(TestCase):
    def test_income_by_receipts_and_what_was_withheld(self):
        for making in (p, s):
            found = making.result(making.ada(), ben(making, {"state": "WI", "withheld": "497"}), in_two("WI"))
            with self.subTest(making.__name__):
                self.assertEqual(issued(found)["WI"], {"id": "2", "income": "6500", "withheld": "497.00"})
                self.assertEqual(issued(found, "Ada Heron")["WI"], {"id": "2", "income": "9750"})

    def test_without_receipts_all_is_where_it_has_its_address(self):
        found = p.result(p.about(state="WI"), p.ada(), ben(p, {"state": "WI", "entity_tax": "900"}))
        self.assertEqual(issued(found), {"WI": {"id": "1", "income": "26000", "entity_tax": "900.00"}})
        self.assertEqual(issued(p.result()), {})  # Florida has no income tax

    def test_what_is_entered_counts_instead(self):
        found = p.result(p.ada(), ben(p, {"state": "WI", "income": "6100", "modified": "-40"}), in_two("WI"))
        self.assertEqual(issued(found)["WI"], {"id": "2", "income": "6100.00", "modified": "-40.00"})

    def test_beside_illinois_which_says_its_own(self):
        about = p.about(state="IL", city="Galena", zip="61036")
        found = p.result(about, p.ada(), ben(p, {"state": "WI", "withheld": "300"}), asked(), receipts(IL=150_000, WI=50_000))
        rows_of = issued(found)
        self.assertEqual((rows_of["WI"]["withheld"], rows_of["IL"]["income"]), ("300.00", "19500"))

    def test_the_owners_document_names_the_states_statement(self):
        for making, called in ((p, "Wisconsin, Schedule 3K-1"), (s, "Wisconsin, Schedule 5K-1")):
            found = making.result(making.ada(), ben(making, {"state": "WI", "withheld": "497"}), in_two("WI"))
            tables = found.run.pack.outgoing.statements(found)[1].tables
            told = next(one for one in tables if one.title == "Other states")
            self.assertEqual(told.rows, ((called, "Income there", 6_500), ("", "Tax withheld", 497)))
            self.assertNotIn("Other states", [one.title for one in found.run.pack.outgoing.statements(found)[0].tables])

    def test_the_owners_return_credits_it(self):
        share = {
            "owner": "taxpayer",
            "entity": "Heron",
            "entity_number": "00-4455668",
            "participates": "yes",
            "ordinary": "26000",
        }
        wisconsin = rows({"state": "WI", "income": "26000", "withheld": "1989"})
        run = result(filing(), paper("k1-1065", "k1", states=wisconsin, **share)).run
        self.assertEqual(run.form("us-wi.form-1").withheld, 1_989)

    def test_what_was_withheld_is_not_carried_to_the_next_year(self):
        for making in (p, s):
            rolled = roll_forward(making.result(making.ada(), ben(making, {"state": "WI", "withheld": "497"}), in_two("WI")))
            with self.subTest(making.__name__):
                self.assertEqual([one.values.get("states") for one in rolled.data.papers if one.id == "ben"], [None])

    def test_a_loss_is_told_below_zero(self):
        lost = p.shop(("Wages", "salaries", 140_000, 0))
        self.assertTrue(issued(p.result(lost, p.ada(), p.ben(), in_two("WI")))["WI"]["income"].startswith("-"))


_WI = in_two("WI")
_SAID = (p.ada(states=rows({"state": "WI", "withheld": "0"})), ben(p, {"state": "WI", "withheld": "497"}), _WI)
_HERE = (p.about(state="IL", city="Galena", zip="61036"), p.ada())
# For the list of all diagnostics: code, papers about which it speaks, the same mended
DIAGNOSTICS = (
    ("us.states.twice", (p.ada(), ben(p, {"state": "WI"}, {"state": "WI"})), (p.ada(), ben(p, {"state": "WI"}))),
    ("us.states.computed", (*_HERE, ben(p, {"state": "IL", "withheld": "5"})), (*_HERE, p.ben())),
    ("us.states.withheld", (p.ada(), p.ben(), _WI), _SAID),
    ("us.states.at-home", (p.ada(), ben(p, {"state": "FL", "withheld": "5"})), (p.ada(), ben(p, {"state": "WI", "withheld": "5"}))),
)  # fmt: skip


class SaidTests(TestCase):
    def test_of_an_s_corporation_too(self):
        codes = [one.code for one in s.result(s.ada(), s.ben(), _WI).findings]
        self.assertEqual(codes.count("us.states.withheld"), 2)
