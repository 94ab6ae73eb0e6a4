"""What holds for every state, and for returns of several: nothing federal moves, order does not matter, credits stay within the law."""

import tomllib
from datetime import date, timedelta
from decimal import Decimal
from itertools import pairwise
from pathlib import Path
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from taxcore.engine import figures
from taxcore.engine import law as law_files
from taxcore.engine.filed import filed_document, filed_schema
from taxcore.packs.us import PACK, extensions, places
from taxcore.packs.us.base import UNTAXED
from taxcore.packs.us.states import all_states
from taxcore.packs.us.states.base import folder
from taxcore.packs.us.states.table import tax_by_table
from taxcore.packs.us.tests.diagnosed.making import paper, pension, rows, sale, single
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import child, filing, interest, person, result, w2
from taxcore.packs.us.tests.sampling import examples
from taxcore.packs.us.tests.worked import FOLDER, all_cases

STATES = {state.code: state for state in all_states()}
TAXING = sorted(STATES)


def at(*given):
    return {"states": rows(*({"state": s, "state_number": "1", "wages": str(w), "withheld": str(h)} for s, w, h in given))}


def form_of(found, state):
    return found.run.form(STATES[state].authority.form.code())


def federal(found):
    return {name: value for name, value in figures(found).items() if name.startswith("us.")}


def lives(home, *given, turned=False, asked=()):
    """A resident of `home` with wages of 90,000, all of it at home, and in other states as given."""
    rows_ = [(home, 90_000, 3_000), *((s, i, h) for s, i, h in given if s != home)]
    questions = [single("in-questions", county="Lake")] if "IN" in {home, *(s for s, _, _ in given)} else []
    papers = [w2(90_000, 9_000, **at(*(rows_[::-1] if turned else rows_))), interest("1200"), *questions, *asked]
    return result(filing(residence=home, state=home), *(papers[::-1] if turned else papers))


# Three of these and the 3,000 at home stay below the standard deduction: who itemises deducts what states withheld.
WITHHELD = st.integers(0, 4_000)
ALLOCATION = st.lists(
    st.tuples(st.sampled_from(TAXING), st.integers(0, 120_000), WITHHELD), max_size=3, unique_by=lambda row: row[0]
)
HOME = st.sampled_from(TAXING)


class SeveralStatesTests(TestCase):
    @settings(max_examples=examples(25), deadline=None)
    @given(HOME, ALLOCATION)
    def test_where_income_belongs_never_changes_a_federal_figure(self, home, allocation):
        """Where what states withheld is less than the standard deduction."""
        self.assertEqual(federal(lives("TX")), federal(lives(home, *allocation)))

    def test_what_states_withheld_moves_a_federal_figure_only_by_the_itemised_deduction(self):
        lean, rich = (
            lives("CA", ("IA", 0, 6_000), ("IL", 0, 6_000), ("GA", 0, 750)),
            lives("CA", ("IA", 0, 6_000), ("IL", 0, 6_000), ("GA", 0, 751)),
        )
        self.assertEqual(federal(lean), federal(lives("TX")))
        before, after = federal(lean), federal(rich)
        self.assertEqual((before["us.1040:deductions"], after["us.1040:deductions"]), (15_750, 15_751))
        self.assertEqual(before["us.1040:adjusted_gross_income"], after["us.1040:adjusted_gross_income"])

    @settings(max_examples=examples(25), deadline=None)
    @given(HOME, ALLOCATION)
    def test_order_does_not_matter(self, home, allocation):
        one, other = lives(home, *allocation), lives(home, *allocation, turned=True)
        self.assertEqual(figures(one), figures(other))

    @settings(max_examples=examples(30), deadline=None)
    @given(HOME, ALLOCATION)
    def test_credits_are_never_more_than_what_was_paid_or_is_owed(self, home, allocation):
        found = lives(home, *allocation)
        elsewhere = places.taxed_elsewhere(found.run, home)
        credit, tax = credit_of(found, home)
        self.assertLessEqual(credit, sum((one.tax for one in elsewhere), Decimal(0)) + len(elsewhere))
        self.assertLessEqual(credit, tax + 1)
        if not elsewhere:
            self.assertEqual(credit, 0)

    @settings(max_examples=examples(25), deadline=None)
    @given(HOME, st.sampled_from(TAXING), st.integers(1, 90_000))
    def test_a_state_that_came_and_went_leaves_every_other_figure_as_it_was(self, home, other, income):
        plain = lives(home)
        moved = {name for name, value in figures(lives(home, (other, income, 0))).items() if figures(plain).get(name, 0) != value}
        mine = (f"us-{home.lower()}.", f"us-{other.lower()}.")
        self.assertTrue(all(name.startswith(mine) for name in moved), moved)
        self.assertEqual(figures(lives(home)), figures(plain))

    @settings(max_examples=examples(25), deadline=None)
    @given(HOME, st.integers(0, 200_000), st.integers(1, 40_000))
    def test_more_pay_is_never_less_tax(self, home, pay, more):
        """With nothing else on the return, and but for what depends on low income."""
        low, high = (
            result(filing(residence=home, state=home), w2(amount, 0, **at((home, amount, 0))), *county(home))
            for amount in (pay, pay + more)
        )
        self.assertLessEqual(tax_of(low, home), tax_of(high, home) + 1)

    def test_land_is_taxed_where_it_lies_whoever_sells_it(self):
        for state in TAXING:
            with self.subTest(state):
                land = sale(box="F", proceeds="160000", basis="100000", situated=state)
                found = result(filing(residence="TX", state="TX"), w2(50_000, 0, states=[]), land, *county(state))
                self.assertEqual(places.calls(found.run, state), places.NONE)
                self.assertEqual(found.run.form(f"us-{state.lower()}.income-here").total_income, 60_000)
                self.assertGreater(tax_of(found, state), 500)

    def test_what_a_statement_says_was_won_in_a_state_is_taxed_there(self):
        for state in TAXING:
            with self.subTest(state):
                won = paper(
                    "w2g",
                    payer="Shoal Downs",
                    winnings="60000",
                    states=rows({"state": state, "state_number": "1", "income": "60000"}),
                )
                found = result(filing(residence="TX", state="TX"), w2(50_000, 0, states=[]), won, *county(state))
                self.assertEqual(found.run.form(f"us-{state.lower()}.income-here").total_income, 60_000)
                self.assertGreater(tax_of(found, state), 500)

    def test_a_loss_in_another_state_never_raises_the_tax_at_home(self):
        for home in TAXING:
            other = "MO" if home != "MO" else "GA"
            lost = single(f"{other.lower()}-questions", other_subtractions="200000")
            with self.subTest(home):
                credit, tax = credit_of(lives(home, (other, 30_000, 900), asked=[lost]), home)
                self.assertEqual(credit, 0)
                self.assertGreater(tax, 1_000)

    def test_a_spouse_who_files_apart_is_on_the_return_by_name_only(self):
        older = {"birth_date": "1950-01-01"}
        for state in TAXING:
            with self.subTest(state):
                papers = (
                    filing("separate", residence=state, state=state),
                    w2(60_000, 0, **at((state, 60_000, 0))),
                    pension(gross="30000"),
                )
                alone = result(person(**older), *papers, *county(state))
                named = result(person(**older), person("spouse", **older), *papers, *county(state))
                self.assertEqual(tax_of(named, state), tax_of(alone, state))

    def test_every_filing_status_in_every_state_and_year(self):
        """More exemptions and wider bands never cost: a couple, a head of household, a surviving spouse against a single person."""
        alone, kid = (person(),), child("d1")
        for state, year in ((state, year) for state in TAXING for year in (2023, 2024, 2025)):
            earned = (w2(60_000, 0, **at((state, 60_000, 0))), *county(state))

            def tax(status, *people, state=state, year=year, earned=earned, **more):
                papers = (filing(status, residence=state, state=state, **more), *earned)
                return tax_of(result(*people, *papers, year=year), state)

            with self.subTest(state, year=year):
                single = tax("single", *alone)
                self.assertGreater(single, 1_500)
                self.assertLessEqual(tax("joint", *alone, person("spouse")), single)
                self.assertLessEqual(tax("head_of_household", *alone, kid, kept_home="yes"), single)
                self.assertLessEqual(tax("surviving_spouse", *alone, kid, spouse_died=str(year - 1)), single)
                self.assertGreaterEqual(tax("separate", *alone) + 1, single)

    def test_a_surviving_spouse_has_a_couples_amounts_only_where_the_law_says_so(self):
        """California's law names them with couples; Virginia's and Georgia's standard deduction is for the married."""
        for state, row, amount in (("CA", "18", 11_412), ("GA", "11", 12_000), ("VA", "11", 8_750)):
            papers = (
                filing("surviving_spouse", residence=state, state=state, spouse_died="2024"),
                w2(60_000, 0, **at((state, 60_000, 0))),
            )
            found = result(person(), child("d1"), *papers)
            self.assertEqual(found[f"{STATES[state].authority.form.code()}.{row}"].value, amount, state)

    def test_a_dependants_wages_are_deducted_where_there_is_a_standard_deduction(self):
        """All but Illinois, Indiana and Pennsylvania, which have exemptions or nothing."""
        claimed = person(claimed_by_other="yes", birth_date="2007-03-03")
        for state in sorted({*TAXING} - {"IL", "IN", "PA"}):
            with self.subTest(state):
                found = result(claimed, filing(residence=state, state=state), w2(4_000, 0, **at((state, 4_000, 0))))
                self.assertEqual(tax_of(found, state), 0)

    def test_totals_of_a_broker_are_shown_with_their_wash_sales(self):
        totals = {"id": "1", "box": "A", "proceeds": "900", "basis": "1000", "wash_sales": "40", "other_adjustment": "-5"}
        found = result(filing(residence="IL"), paper("1099-b", payer="Sandbar", summaries=[totals]))
        (one,) = places.belongs(found.run)
        self.assertEqual((one.amount, one.by_state["IL"][0]), (-65, -65))

    def test_a_loss_on_land_that_the_limit_cut_stops_the_state_by_name(self):
        land = sale(box="F", proceeds="100000", basis="110000", situated="GA")
        worked = w2(90_000, 0, **at(("GA", 20_000, 0)))
        codes = {one.code for one in result(filing(residence="TX", state="TX"), worked, land).findings}
        self.assertIn("us-ga.sales-of-mover", codes)

    @settings(max_examples=30, deadline=None)
    @given(HOME, st.integers(1, 364))
    def test_two_parts_of_a_mover_are_never_more_than_all_income(self, home, days):
        last = date(2025, 1, 1) + timedelta(days=days - 1)
        stays = rows(
            {"person": "taxpayer", "state": home, "last": str(last)},
            {"person": "taxpayer", "state": "WI" if home != "WI" else "GA", "first": str(last + timedelta(days=1))},
        )
        found = result(filing(residence=""), single("residency", rows=stays), interest("36500"), w2(73_000, 0, states=[]))
        parts = [found.run.form(f"us-{state.lower()}.income-here") for state in (home, "WI" if home != "WI" else "GA")]
        self.assertLessEqual(abs(sum(part.agi for part in parts) - 109_500), 2)


def county(home):
    return [single("in-questions", county="Lake")] if home == "IN" else []


def tax_of(found, state):
    form = form_of(found, state)
    return sum((column.tax for column in found.run.every("us-mo.mo-1040-columns")), Decimal(0)) if state == "MO" else form.tax


def credit_of(found, state):
    """(credit for other states, tax it is taken from)."""
    form = form_of(found, state)
    names = {"IL": "other_state_credit", "IN": "offset_credits", "PA": "resident_credit"}
    return getattr(form, names.get(state, "other_states")), form.tax


STAYS = st.lists(
    st.tuples(
        st.sampled_from(["taxpayer", "spouse", "both", ""]),
        st.sampled_from([*TAXING, "TX", "OH", "abroad", ""]),
        st.sampled_from(["", "2025-01-01", "2025-07-01", "2025-12-31", "2024-05-05", "2026-02-02"]),
        st.sampled_from(["", "2025-01-01", "2025-06-30", "2025-12-31", "2024-05-05", "2026-02-02"]),
    ),
    max_size=4,
)
ROWS = st.lists(st.tuples(st.sampled_from([*TAXING, "TX", ""]), st.integers(0, 90_000), st.integers(0, 900)), max_size=3)


class AnythingTests(TestCase):
    """Stays that overlap, leave gaps or run backwards, and rows for any state, on the way to what is right: nothing ever raises."""

    @settings(max_examples=examples(70), deadline=None)
    @given(STAYS, ROWS, st.booleans(), st.sampled_from(["", *TAXING]))
    def test_nothing_that_is_keyed_breaks_the_computation(self, stays, given_, couple, residence):
        names = ("person", "state", "first", "last")
        residency = single("residency", rows=rows(*(dict(zip(names, stay, strict=True)) for stay in stays)))
        people = (person(), person("spouse")) if couple else (person(),)
        pay = [w2(50_000, 0, **at(*given_)), w2(40_000, 0, key="w2", owner="spouse" if couple else "taxpayer", states=[])]
        more = [sale(), shop(), pension(), interest("500", owner="joint" if couple else "taxpayer")]
        found = result(*people, filing("joint" if couple else "single", residence=residence), residency, *pay, *more)
        self.assertTrue(found.findings)
        self.assertTrue(found.bottom_lines)
        self.assertTrue(extensions.of_return(found.run))
        self.assertIsNotNone(places.belongs(found.run))


class ResidencyTests(TestCase):
    """The same people and papers, with residency alone changed: one form, and every answer kept."""

    def test_each_state_is_made_for_each_kind(self):
        for code in STATES:
            with self.subTest(code):
                row = w2(60_000, 0, **at((code, 60_000, 900)))
                stays = rows(
                    {"person": "taxpayer", "state": code, "last": "2025-06-30"},
                    {"person": "taxpayer", "state": "TX", "first": "2025-07-01"},
                )
                kinds = [
                    result(filing(residence=code), row),
                    result(filing(residence=""), single("residency", rows=stays), row),
                    result(filing(residence="TX"), row),
                ]
                self.assertEqual([form_of(found, code).residency for found in kinds], ["full-year", "part-year", "nonresident"])
                self.assertTrue(
                    all(f"us-{code.lower()}" in {line.authority.code for line in found.bottom_lines} for found in kinds)
                )

    def test_all_income_at_home_is_the_same_income_whatever_the_words(self):
        """A nonresident all of whose income is the state's bears a resident's tax, but for what only residents have."""
        for code in sorted(set(STATES) - {"PA"}):
            with self.subTest(code):
                row = w2(60_000, 0, **at((code, 60_000, 900)))
                resident, other = (result(filing(residence=home), row, *county(code)) for home in (code, "TX"))
                self.assertLessEqual(abs(tax_of(resident, code) - tax_of(other, code)), 3)

    def test_a_mover_s_credit_is_for_pay_counted_twice(self):
        """Half a year in the state, a third of the pay from work in another that neither agrees nor credits in reverse."""
        for code in STATES:
            work = next(other for other in ("SC", "GA") if other != code)
            with self.subTest(home=code, work=work):
                moved = rows(
                    {"person": "taxpayer", "state": code, "last": "2025-06-30"},
                    {"person": "taxpayer", "state": "TX", "first": "2025-07-01"},
                )
                pay = w2(90_000, 0, **at((code, 60_000, 0), (work, 30_000, 900)))
                found = result(filing(residence=""), single("residency", rows=moved), pay, *county(code))
                form, here = form_of(found, code), found.run.form(f"us-{code.lower()}.income-here")
                self.assertLess(abs(here.wages - (60_000 + Decimal(30_000) * 181 / 365)), 1)
                (elsewhere,) = form.taxed_elsewhere()
                self.assertLess(abs(elsewhere.income - Decimal(30_000) * 181 / 365), 1)
                credit, tax = credit_of(found, code)
                self.assertGreater(credit, 0)
                self.assertLessEqual(credit, min(elsewhere.tax + 1, tax))

    def test_untaxed_states_want_nothing(self):
        for state in UNTAXED:
            self.assertEqual(places.wanted(result(filing(residence=state), w2(50_000, 0, **at((state, 50_000, 0)))).run), ())

    def test_agreements_leave_wages_at_home(self):
        """Every pair of states that are made here: nothing is taxed where the work was done, and what was withheld is refunded."""
        pairs = [tuple(sorted(pair)) for pair in places.reciprocal_pairs() if pair <= set(STATES)]
        self.assertGreaterEqual(len(pairs), 4)
        for one, other in [*pairs, *(pair[::-1] for pair in pairs)]:
            with self.subTest(home=one, work=other):
                found = result(filing(residence=one), w2(50_000, 0, **at((other, 50_000, 900))), *county(other), *county(one))
                lines = {line.authority.code: line.amount for line in found.bottom_lines}
                self.assertEqual(lines[f"us-{other.lower()}"], 900)
                self.assertEqual(credit_of(found, one)[0], 0)
                self.assertIn("us.places.reciprocal-withheld", {finding.code for finding in found.findings})

    def test_reverse_credit_is_given_once(self):
        for home, work in (("VA", "CA"), ("CA", "VA")):
            with self.subTest(home=home):
                found = lives(home, (work, 40_000, 0))
                self.assertEqual(credit_of(found, home)[0], 0)
                reverse = form_of(found, work).reverse if work == "CA" else form_of(found, work).other_credits
                self.assertGreater(reverse, 0)
                self.assertLessEqual(reverse, form_of(found, work).tax)


class FiledTests(TestCase):
    """What goes to a state is valid against what its authority publishes, for each kind of return and year."""

    def test_documents_of_every_state_kind_and_year(self):
        for state in STATES.values():
            for year in (2023, 2024, 2025):
                schema = etree.XMLSchema(etree.fromstring(filed_schema(PACK, state.authority, year).encode()))
                for home in (state.code, "TX", ""):
                    with self.subTest(f"{state.code} {year} from {home or 'a move'}"):
                        document = filed_document(self.of(state, home, year), state.authority, "1", "0" * 64)
                        schema.assertValid(etree.fromstring(document))

    def of(self, state, home, year):
        moved = rows(
            {"person": "taxpayer", "state": state.code, "last": f"{year}-06-30"},
            {"person": "taxpayer", "state": "TX", "first": f"{year}-07-01"},
        )
        stays = [] if home else [single("residency", rows=moved)]
        pay = w2(60_000, 6_000, **at((state.code, 60_000, 1_000)))
        return result(
            filing(residence=home),
            *stays,
            pay,
            interest("400"),
            single(f"{state.code.lower()}-questions", use_tax="9"),
            year=year,
        )


class LawOfStatesTests(TestCase):
    """Amounts derived a second way: what statutes tie together hangs together in every year's file."""

    def laws(self, code):
        return {year: law_files.load(folder(code), year) for year in law_files.years(folder(code))}

    def test_every_state_has_the_three_years_and_sources(self):
        for code in STATES:
            self.assertLessEqual({2023, 2024, 2025}, set(law_files.years(folder(code))), code)
            for year in law_files.years(folder(code)):
                for name, section in tomllib.loads((folder(code) / f"{year}.toml").read_text()).items():
                    self.assertTrue(section.get("source"), f"{code} {year} {name}")

    def test_couples_have_twice_the_single_bands_where_the_law_says_so(self):
        for code in ("CA", "IA"):
            for year, law in self.laws(code).items():
                doubled = [edge * 2 for edge, _ in law.income_tax.single]
                self.assertEqual([edge for edge, _ in law.income_tax.joint], doubled, f"{code} {year}")
        for year, law in self.laws("WI").items():
            halves = [edge for edge, _ in law.income_tax.separate]
            self.assertTrue(
                all(abs(half * 2 - edge) <= 10 for half, (edge, _) in zip(halves, law.income_tax.joint, strict=True)), year
            )

    def test_missouri_s_bands_are_seven_equal_steps(self):
        for _, law in self.laws("MO").items():
            edges = [edge for edge, _ in law.income_tax.bands]
            self.assertEqual({b - a for a, b in pairwise(edges)}, {edges[1]})

    def test_rates_rise_within_a_table_and_top_rates_fall_over_the_years(self):
        for code in ("CA", "GA", "IA", "MO", "SC", "VA", "WI"):
            tops = []
            for _, law in self.laws(code).items():
                tables = [bands for _, bands in law.income_tax.items()]
                for bands in tables:
                    rates = [rate for _, rate in bands]
                    self.assertEqual(rates, sorted(rates), code)
                tops.append(max(rate for bands in tables for _, rate in bands))
            self.assertEqual(tops, sorted(tops, reverse=True), code)

    def test_california_s_credits_and_edges_are_indexed_alike(self):
        laws = self.laws("CA")
        for year in (2024, 2025):
            ratio = laws[year].standard_deduction.single / laws[year - 1].standard_deduction.single
            for name, value in (
                ("edge", lambda law: law.income_tax.single[5][0]),
                ("fall", lambda law: law.exemption_credit.falls_from.single),
            ):
                self.assertLess(abs(value(laws[year]) / value(laws[year - 1]) - ratio), Decimal("0.001"), f"{year} {name}")

    def test_a_table_gives_the_tax_on_its_rows_middle(self):
        """California's rows begin at 51; Wisconsin's at whole hundreds."""
        law = law_files.load(folder("CA"), 2025)
        for income in (10_051, 10_100, 10_150):
            self.assertEqual(tax_by_table(Decimal(income), law.income_tax.single, law.table), 101)
        self.assertEqual(tax_by_table(Decimal(10_151), law.income_tax.single, law.table), 102)
        law = law_files.load(folder("WI"), 2025)
        for income in (10_000, 10_099):
            self.assertEqual(tax_by_table(Decimal(income), law.income_tax.single, law.table), 352)  # 10,050 at 3.5%


class QuestionTests(TestCase):
    def test_what_a_state_asks_counts_on_its_return(self):
        """Use tax is asked where the return has a line for it, and is then owed."""
        for code in STATES:
            kind = f"{code.lower()}-questions"
            asked = "use_tax" in PACK.paper(kind).fields()
            with self.subTest(code):
                self.assertEqual(asked, code not in {"GA", "MO"})
                pay = w2(60_000, 0, **at((code, 60_000, 0)))
                without, with_ = (
                    result(filing(residence=code), pay, single(kind, use_tax=tax, **({"county": "Lake"} if code == "IN" else {})))
                    for tax in ("0", "70")
                )
                owed = [form_of(found, code).owed for found in (without, with_)]
                self.assertEqual(owed[1] - owed[0], 70 if asked else 0)

    def test_what_is_added_by_hand_raises_the_tax_of_every_kind_of_return(self):
        for code in STATES:
            moved = rows(
                {"person": "taxpayer", "state": code, "last": "2025-06-30"},
                {"person": "taxpayer", "state": "TX", "first": "2025-07-01"},
            )
            for home, stays in ((code, ()), ("TX", ()), ("", (single("residency", rows=moved),))):
                with self.subTest(f"{code} from {home or 'a move'}"):
                    pay = w2(60_000, 0, **at((code, 60_000, 0)))
                    plain, more, less = (
                        tax_of(result(filing(residence=home), *stays, pay, by_hand(code, **given_)), code)
                        for given_ in ({}, {"other_additions": "9000"}, {"other_subtractions": "9000"})
                    )
                    self.assertLess(less, plain)
                    self.assertLess(plain, more)


def by_hand(code, **given_):
    return single(f"{code.lower()}-questions", **({"county": "Lake"} if code == "IN" else {}), **given_)


class AddingAStateTests(TestCase):
    """What docs/adding-a-state.md asks of each."""

    def test_at_least_six_worked_cases_each_of_every_kind(self):
        for state in STATES.values():
            cases = [case for case in all_cases() if any(line.startswith(f"{state.jurisdiction}.") for line in case.lines)]
            self.assertGreaterEqual(len(cases), 6, state.code)

    def test_thirty_cases_of_several_states(self):
        self.assertGreaterEqual(sum(1 for case in all_cases() if case.topic == "places"), 30)

    def test_each_stands_in_law_coverage_and_names_what_a_credit_reads(self):
        page = (Path(__file__).resolve().parents[4] / "docs" / "law-coverage.md").read_text()
        for state in STATES.values():
            self.assertIn(f"## {state.authority.name}, ", page)
            authority = state.authority
            for name in (
                "refund",
                "owed",
                "overpaid",
                authority.tax,
                authority.income,
                authority.credited_tax,
                authority.credited_income,
            ):
                self.assertTrue(not name or hasattr(authority.form, name), f"{state.code} {name}")

    def test_each_has_its_folder_and_no_list_names_it(self):
        here = Path(__file__).resolve().parents[1]
        for module in (here / "states" / "__init__.py", here / "__init__.py"):
            text = module.read_text()
            self.assertFalse([code for code in STATES if f'"{code}"' in text])
        self.assertTrue((FOLDER / "georgia").is_dir())

    def test_a_couple_of_two_states_files_in_both(self):
        stays = rows({"person": "taxpayer", "state": "MO"}, {"person": "spouse", "state": "SC"})
        found = result(
            person(), person("spouse"), filing("joint", residence=""), single("residency", rows=stays),
            w2(50_000, 0, **at(("MO", 50_000, 900))), w2(40_000, 0, key="w2", owner="spouse", **at(("SC", 40_000, 900))),
        )  # fmt: skip
        self.assertEqual(found.run.form("us-mo.income-here").wages, 50_000)
        self.assertEqual(found.run.form("us-sc.income-here").wages, 40_000)
