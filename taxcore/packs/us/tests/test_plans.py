"""Plans of two to six years worked by hand: ages, balances and law from year to year, and years whose law is assumed.

Each plan: what it catches; the papers of 2025; the columns, each on the one before (years on, differences, percent of prices); the
attributes of forms with an amount for 2025 and for each column. Single in Illinois unless it says otherwise. 2026: Rev. Proc.
2025-32. Assumed years follow `indexed.toml`: an amount of 2026 by 1.025 a year, rounded as its law rounds.
"""

import random
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import compute
from taxcore.engine.assumed_law import assumed
from taxcore.engine.figures import LawFigure
from taxcore.engine.law import load
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.diagnosed.making import paper, rows, single
from taxcore.packs.us.tests.returns import child, data, filing, interest, person, w2
from taxcore.packs.us.tests.straight.facts import Drawing
from taxcore.packs.us.tests.straight.papers import papers as papers_of
from taxcore.whatif.columns import RETURN, Column, worked_out
from taxcore.whatif.differences import ADDED, REMOVED, Difference, Place

NEXT = (1, {}, "2.5")
WAGES = w2(60_000, 8_000)
COUPLE = (person(), person("spouse"), filing("joint"))


def with_values(values, years_on=1):
    return years_on, values, "2.5"


PLANS = (
    ("the child credit becomes 500 at seventeen", (person(), WAGES, child(born="2009-03-14")), [NEXT, NEXT],
     {"us.1040.child_credit": (2_200, 500, 500)}),
    ("a child born in the year after counts from then on", (person(), WAGES), [
        with_values({"person/d1/": ADDED, "person/d1/role": "dependant", "person/d1/birth_date": "2026-05-05"})],
     {"us.1040.child_credit": (0, 2_200)}),
    ("married next year to somebody with wages of 30,000", (person(), WAGES), [
        with_values({"person/spouse/": ADDED, "person/spouse/role": "spouse", "person/spouse/birth_date": "1985-05-05",
                     "filing/filing/status": "joint", "w2/w2/": ADDED, "w2/w2/owner": "spouse", "w2/w2/wages": "30000"}), NEXT],
     {"us.1040.wages": (60_000, 90_000, 90_000), "us.1040.standard_deduction": (15_750, 32_200, 33_000)}),
    ("sixty-five: 2,050 more and the senior deduction", (person(born="1961-06-15"), w2(50_000)), [NEXT],
     {"us.1040.standard_deduction": (15_750, 18_150), "us.1040.additional_deductions": (0, 6_000)}),
    ("both sixty-five; each loses 6% of income above 150,000",
     (person(born="1961-06-15"), person("spouse", born="1961-01-01"), filing("joint"), w2(160_000)), [NEXT],
     {"us.1040.standard_deduction": (31_500 + 1_600, 35_500), "us.1040.additional_deductions": (5_400, 10_800)}),
    ("a loss carried: 3,000 a year until it is used", (person(), WAGES, single("capital-carryover", short_term="10000")),
     [NEXT, NEXT, NEXT, NEXT], {"us.1040.capital_gain": (-3_000, -3_000, -3_000, -1_000, 0)}),
    ("separately 1,500 a year", (person(), filing("separate", spouse_name="Wren", spouse_number="913-22-8046"), WAGES,
                                 single("capital-carryover", long_term="4000")), [NEXT, NEXT],
     {"us.1040.capital_gain": (-1_500, -1_500, -1_000)}),
    ("a gain of the plan takes the loss first", (person(), WAGES, single("capital-carryover", short_term="10000")), [
        with_values({"1099-div/v1/": ADDED, "1099-div/v1/owner": "taxpayer", "1099-div/v1/payer": "Heron", "1099-div/v1/dividends": "0",
                     "1099-div/v1/capital_gain": "5000"}), with_values({"1099-div/v1/": REMOVED})],
     {"us.1040.capital_gain": (-3_000, -2_000, 0)}),
    ("the same loss with the gain once more a year on", (person(), WAGES, single("capital-carryover", short_term="10000")), [
        with_values({"1099-div/v1/": ADDED, "1099-div/v1/owner": "taxpayer", "1099-div/v1/payer": "Heron",
                     "1099-div/v1/capital_gain": "5000"}), NEXT],
     {"us.1040.capital_gain": (-3_000, -2_000, 5_000)}),
    ("health savings: 1,000 more at fifty-five", (person(born="1971-09-09"), WAGES, paper(
        "hsa", "h1", coverage=rows({"kind": "alone", "first": "1", "last": "12"}), paid_in="6000")), [NEXT],
     {"us.sch-1.health_savings_deduction": (4_300, 5_400)}),
    ("an IRA: 1,100 more at fifty", (person(born="1976-02-02"), WAGES, paper("ira", "r1", traditional="8600")), [NEXT],
     {"us.sch-1.ira": (7_000, 8_600)}),
    ("an index of 2.5% lifts the IRA's limit by a step of 500 in no year before 2029", (
        person(), WAGES, paper("ira", "r1", traditional="9000")), [NEXT, NEXT, NEXT, NEXT],
     {"us.sch-1.ira": (7_000, 7_500, 7_500, 7_500, 8_000)}),
    ("the standard deduction by an index, down to 50", (person(), WAGES), [NEXT, NEXT, NEXT, NEXT, NEXT],
     {"us.1040.standard_deduction": (15_750, 16_100, 16_500, 16_900, 17_300, 17_750)}),
    ("at 4% a year", (person(), WAGES), [NEXT, (1, {}, "4"), (1, {}, "4")],
     {"us.1040.standard_deduction": (15_750, 16_100, 16_700, 17_400)}),
    ("at nothing", (person(), WAGES), [NEXT, (1, {}, "0")], {"us.1040.standard_deduction": (15_750, 16_100, 16_100)}),
    ("tax by the bands of each year: 10% to 12,400, then to 12,700, 12% above", (person(), WAGES), [NEXT, NEXT],
     {"us.1040.taxable_income": (44_250, 43_900, 43_500), "us.1040.tax": (5_075, 5_023, 4_969)}),
    ("the child credit itself by an index, down to 100", (person(), WAGES, child(born="2018-05-05")), [NEXT, NEXT, NEXT],
     {"us.1040.child_credit": (2_200, 2_200, 2_200, 2_300)}),
    ("the senior deduction ends after 2028", (person(born="1959-06-15"), w2(50_000)), [NEXT, NEXT, NEXT, NEXT],
     {"us.1040.additional_deductions": (6_000, 6_000, 6_000, 6_000, 0)}),
    ("tips are deducted until 2028", (person(), w2(60_000, others=rows({"kind": "tips", "amount": "5000"}))), [NEXT, NEXT, NEXT, NEXT],
     {"us.1040.additional_deductions": (5_000, 5_000, 5_000, 5_000, 0)}),
    ("interest on a car until 2028", (person(), WAGES, paper(
        "car-loan", "car", interest="900", lender="Lock Motors", vin="1HGCM82633A004352", loan_date="2025-03-01", new_for_owner="yes",
        assembled_here="yes", personal="yes")), [NEXT, NEXT, NEXT, NEXT],
     {"us.1040.additional_deductions": (900, 900, 900, 900, 0)}),
    ("the cap of state taxes: 40,000, 1% more each year, 10,000 from 2030", (
        person(), w2(300_000), single("itemized", choice="itemized", state_income_tax="30000", property_tax="20000")),
     [NEXT, NEXT, NEXT, NEXT, NEXT], {"us.sch-a.taxes_capped": (40_000, 40_400, 40_804, 41_212, 41_624, 10_000)}),
    ("a raise in one column stays in the next", (person(), WAGES), [with_values({"w2/w1/wages": "70000"}), NEXT],
     {"us.1040.wages": (60_000, 70_000, 70_000)}),
    ("changed in the year itself, and back a year on", (person(), WAGES), [
        with_values({"w2/w1/wages": "70000"}, 0), with_values({"w2/w1/wages": "60000"})], {"us.1040.wages": (60_000, 70_000, 60_000)}),
    ("retired: 85% of what two thresholds leave, 6,800 and 4,500", (
        person(born="1959-06-15"), WAGES), [with_values({
            "w2/w1/": REMOVED, "1099-r/p1/": ADDED, "1099-r/p1/owner": "taxpayer", "1099-r/p1/payer": "Tern", "1099-r/p1/gross": "30000",
            "1099-r/p1/taxable": "30000", "1099-r/p1/code": "7", "1099-r/p1/ira": "no", "ssa-1099/s1/": ADDED,
            "ssa-1099/s1/owner": "taxpayer", "ssa-1099/s1/net": "24000"})],
     {"us.1040.wages": (60_000, 0), "us.1040.taxable_benefits": (0, 11_300)}),
    ("the earned income credit begins at twenty-five", (person(born="2001-06-01"), w2(9_000)), [NEXT],
     {"us.1040.earned_income_credit": (0, 664)}),
    ("and ends at sixty-five", (person(born="1961-06-01"), w2(8_800)), [NEXT], {"us.1040.earned_income_credit": (649, 0)}),
    ("what was applied is an estimate of the next year", (
        person(), WAGES, single("deposit", applied_to_next_year="500")), [NEXT], {"us.1040.estimates": (0, 500)}),
    ("four years of the American opportunity credit: 40% of 2,500 paid out in the third and fourth", (
        person(), w2(60_000), child(born="2006-05-05", student="yes"), paper(
            "1098-t", "t1", payer="Galena College", payer_number="00-1122335", student="d1", paid="4000", half_time="yes", degree="yes",
            four_years_done="no", convicted="no", graduate="no", years_claimed="2", credit="better")), [NEXT, NEXT],
     {"us.1040.education_paid": (1_000, 1_000, 0)}),
    ("investment interest above the income waits: 1,000 of income each year", (
        person(), WAGES, interest(1_000), single("itemized", choice="itemized", investment_interest="3000")), [NEXT, NEXT],
     {"us.sch-a.investment": (1_000, 1_000, 1_000)}),
    ("student loan interest: a threshold of 85,000 rises by 5,000 at once; here not yet", (
        person(), w2(90_000), paper("1098-e", "l1", lender="Loan House", interest="2500")), [NEXT, NEXT],
     {"us.sch-1.student_loans": (1_667, 1_667, 1_667)}),
    ("the spouse dies next year: joint for that year, alone after", (*COUPLE, WAGES), [
        with_values({"person/spouse/death_date": "2026-05-05"}), NEXT], {"us.1040.standard_deduction": (31_500, 32_200, 16_500)}),
    ("Illinois: the exemption, 1,000 more at sixty-five, and to the nearest 25", (person(born="1961-06-15"), WAGES), [NEXT, NEXT],
     {"us-il.il-1040.exemptions": (2_850, 3_850, 3_925)}),
    ("a partner's loss of years ago lowers the deduction of a later one", (
        person(), WAGES, single("qualified-loss", loss="4000"), paper(
            "k1-1065", "k1", entity="Quay", entity_number="00-4455668", participates="yes", all_at_risk="yes", ordinary="3000",
            qualified_income="3000", service_trade="no", publicly_traded="no")), [NEXT],
     {"us.1040.business_deduction": (0, 400)}),
)  # fmt: skip


class PlansTests(TestCase):
    def test_by_hand(self):
        for catches, papers, columns, wanted in PLANS:
            results = self.results(papers, columns)
            for name, amounts in wanted.items():
                with self.subTest(catches, name=name):
                    self.assertEqual(tuple(self.value(one, name) for one in results), amounts)

    @staticmethod
    def results(papers, columns, year=2025):
        here = compute(PACK, data(*papers, year=year))
        made = []
        for number, (years_on, values, percent) in enumerate(columns):
            differences = tuple(Difference(PlansTests.place(mark), value) for mark, value in sorted(values.items()))
            made.append(Column(str(number), str(number - 1) if number else RETURN, years_on, differences, Decimal(percent)))
        outcomes = worked_out(here, made)
        if says := next((one.says for one in outcomes.values() if one.result is None), ""):
            raise AssertionError(says)
        return [here, *(one.result for one in outcomes.values())]

    @staticmethod
    def place(mark):
        kind, key, path = mark.split("/")
        return Place(kind, key, path)

    @staticmethod
    def value(result, name):
        form, _, attribute = name.rpartition(".")
        return getattr(result.run.form(form), attribute)


class AssumedTests(TestCase):
    def test_every_figure_of_an_assumed_year_says_so(self):
        for jurisdiction, folder in PACK.law.items():
            for year in range(max(PACK.years) + 1, PACK.assumed_until + 1):
                known = dict(figures(load(folder, max(PACK.years)), ""))
                for path, figure in figures(assumed(folder, year, Decimal("1.025")), ""):
                    with self.subTest(jurisdiction, year=year, path=path):
                        self.assertTrue(figure.source.startswith("Assumed") or path in ENACTED, figure.source)
                        self.assertTrue(figure >= known[path] or path in ENACTED)

    def test_any_household_is_worked_out_to_the_last_year(self):
        seen = 0
        for number in range(30):
            facts = Drawing(random.Random(f"assumed {number}")).facts()
            if facts.year >= 2025:
                seen += 1
                results = PlansTests.results(papers_of(facts), [NEXT] * (PACK.assumed_until - facts.year), facts.year)
                self.assertEqual(results[-1].year, PACK.assumed_until)
                self.assertEqual([one for one in results[-1].findings if one.code == "us.bad-value"], [])
        self.assertGreater(seen, 7)


# What a law of before enacted otherwise for these years: it ends, falls, or rises by itself
ENACTED = (
    *(
        f"{path}.{status}"
        for path in ("itemized.state_tax_cap", "itemized.state_tax_cap_falls_from", "overtime.most")
        for status in ("single", "joint", "separate", "head_of_household", "surviving_spouse")
    ),
    "senior_deduction.each", "tips.most", "car_loan.most", "income_tax.rate",
)  # fmt: skip


def figures(value, path):
    """(path, figure) of everything in a law, rows of tables by their number."""
    if isinstance(value, LawFigure):
        yield path, value
    elif isinstance(value, tuple):
        for number, one in enumerate(value):
            yield from figures(one, f"{path}.{number}")
    elif hasattr(value, "items"):
        for name, one in value.items():
            yield from figures(one, f"{path}.{name}".strip("."))
