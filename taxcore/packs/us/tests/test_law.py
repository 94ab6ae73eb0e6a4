"""The years' amounts derived a second way: what the statute ties together must hang together, in every year."""

from decimal import ROUND_HALF_UP, Decimal
from unittest import TestCase

from taxcore.engine import law as law_files
from taxcore.packs.us import PACK

LAWS = {year: law_files.load(PACK.law["us"], year) for year in PACK.years}
STATUSES = ("single", "joint", "separate", "head_of_household", "surviving_spouse")


class LawTests(TestCase):
    def test_joint_brackets_are_twice_the_single_ones_below_the_highest(self):
        """IRC 1(f)(8), 1(j)(2): no marriage penalty up to 35%."""
        for _, law in LAWS.items():
            single, joint = law.income_tax.single, law.income_tax.joint
            self.assertEqual([edge * 2 for edge, _ in single[:-1]], [edge for edge, _ in joint[:-1]])
            self.assertEqual(list(law.income_tax.joint), list(law.income_tax.surviving_spouse))

    def test_apart_each_has_half_of_joint(self):
        for _, law in LAWS.items():
            halves = [edge / 2 for edge, _ in law.income_tax.joint]
            self.assertEqual(halves, [edge for edge, _ in law.income_tax.separate])
            for table in (law.capital_gains.zero_up_to, law.minimum_tax.exemption, law.itemized.state_tax_cap,
                          law.care.excluded, law.standard_deduction.basic):  # fmt: skip
                self.assertEqual(table.separate * 2, table.joint)
            self.assertLessEqual(abs(law.capital_gains.lower_up_to.separate * 2 - law.capital_gains.lower_up_to.joint), 100)

    def test_the_earned_income_credit_ends_where_its_rate_has_used_it_up(self):
        """IRC 32(a)(2): published ends are the start and the most credit over the rate, within a dollar of rounding."""
        for _, law in LAWS.items():
            for row in (law.earned_income_credit.children[n] for n in "0123"):
                length = row.most / row.phase_out_rate
                self.assertLess(abs(row.phase_out + length - row.below), 15)
                self.assertLess(abs(row.phase_out_joint + length - row.below_joint), 15)

    def test_a_couple_of_dependants_figures_follow_from_each_other(self):
        """IRC 1(g)(4): twice the least standard deduction of a dependent. IRC 223(b)(2): an HSA's limits rise with the law."""
        for _, law in LAWS.items():
            self.assertEqual(law.child_unearned.income_above, law.standard_deduction.dependant_least * 2)
            self.assertGreater(law.hsa.family, law.hsa.alone)

    def test_the_minimum_tax_breaks_and_falls_as_the_statute_ties_them(self):
        """IRC 55(d)(2), (b)(1): apart half; before 2026 the exemption falls from where single filers' highest bracket begins,
        but for how each is rounded."""
        for year, law in LAWS.items():
            self.assertEqual(law.minimum_tax.upper_from.separate * 2, law.minimum_tax.upper_from.joint)
            if year < 2026:
                self.assertLessEqual(abs(law.minimum_tax.falls_from.single - law.income_tax.single[-1][0]), 50)
                self.assertEqual(law.minimum_tax.falls_from.single * 2, law.minimum_tax.falls_from.joint)

    def test_the_business_threshold_is_where_the_32_percent_bracket_begins(self):
        """Rev. Procs. 2021-45 to 2024-40: the two amounts were indexed alike, to the next 50."""
        for year, law in LAWS.items():
            if year < 2026:
                edge = next(edge for edge, rate in law.income_tax.single if rate == Decimal("0.32"))
                self.assertEqual(law.qbi.threshold.single, edge)
                self.assertEqual(law.qbi.threshold.joint, edge * 2)

    def test_amounts_never_fall_from_year_to_year(self):
        """Indexing goes one way, but for what the law itself lowered."""
        paths = ("payroll.wage_base", "deferrals.limit", "ira.limit", "hsa.alone", "hsa.family", "plans.additions", "plans.simple",
                 "standard_deduction.basic.single", "capital_gains.zero_up_to.joint", "minimum_tax.exemption.single",
                 "savers_credit.half_up_to.joint", "ira.roth_from.single", "student_loan.phase_out.joint",
                 "earned_income_credit.children.3.most")  # fmt: skip
        for path in paths:
            amounts = [self.at(law, path) for law in LAWS.values()]
            self.assertEqual(amounts, sorted(amounts), path)

    def test_the_savers_steps_of_singles_are_half_of_joint_and_heads_three_quarters(self):
        """IRC 25B(b)(2)."""
        for _, law in LAWS.items():
            for name in ("half_up_to", "fifth_up_to", "tenth_up_to"):
                table = law.savers_credit[name]
                self.assertEqual(table.joint / 2, table.single)
                self.assertEqual((table.joint * 3 / 4).quantize(Decimal(1), ROUND_HALF_UP), table.head_of_household)

    def test_every_table_by_status_has_all_of_them(self):
        for _, law in LAWS.items():
            self.check_tables(law)

    def check_tables(self, section):
        for name, value in section.items():
            if isinstance(value, law_files.Law):
                if "single" in value:
                    self.assertEqual([status for status in STATUSES if status not in value], [], name)
                self.check_tables(value)

    def at(self, law, path):
        for name in path.split("."):
            law = law[name]
        return law
