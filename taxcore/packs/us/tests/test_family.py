"""Children, earned income, high wages, several employers: worked by hand from the forms' lines and the official tables' rule."""

from unittest import TestCase

from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import child, couple, filing, interest, person, result, w2


def parents(*papers, **options):
    return result(person(), person("spouse"), filing("joint"), *papers, **options)


class DependantTests(TestCase):
    CASES = [  # why                                                     the dependant                                                          1      2
        ("a child of ten",                                              {},                                                                 2_200,     0),
        ("16 on the last day of the year",                              {"born": "2009-01-01"},                                             2_200,     0),
        ("17 on the last day of the year",                              {"born": "2008-12-31"},                                                 0,   500),
        ("a student of 23",                                             {"born": "2002-01-01", "student": "yes"},                               0,   500),
        ("a student of 24 with income is nobody's dependent",           {"born": "2001-12-31", "student": "yes", "gross_income": "9000"},       0,     0),
        ("a disabled child of any age",                                 {"born": "1990-01-01", "disabled": "yes"},                              0,   500),
        ("seven months at home are more than half",                     {"months_at_home": "7"},                                            2_200,     0),
        ("six months are not, and support was not paid",                {"months_at_home": "6"},                                                0,     0),
        ("six months, but supported: a relative",                       {"months_at_home": "6", "supported": "yes"},                            0,   500),
        ("who pays the own support is no child",                        {"supports_self": "yes"},                                               0,     0),
        ("who files a joint return is nobody",                          {"joint_return": "yes"},                                                0,     0),
        ("who is no resident is nobody",                                {"resident": "no"},                                                     0,     0),
        ("a mother with 5,199 of income",                               {"relationship": "parent", "born": "1950-01-01", "months_at_home": "0",
                                                                         "supported": "yes", "gross_income": "5199"},                           0,   500),
        ("a mother with 5,200 of income",                               {"relationship": "parent", "born": "1950-01-01", "months_at_home": "0",
                                                                         "supported": "yes", "gross_income": "5200"},                           0,     0),
        ("a friend who lived here all year",                            {"relationship": "none", "supported": "yes", "born": "1980-01-01"},     0,   500),
        ("a friend who lived here eleven months",                       {"relationship": "none", "supported": "yes", "born": "1980-01-01",
                                                                         "months_at_home": "11"},                                               0,     0),
    ]  # fmt: skip

    def test_who_is_what(self):
        for why, values, for_child, for_other in self.CASES:
            with self.subTest(why):
                found = result(person(), filing(), child(**values), w2(60_000))
                self.assertEqual([found[f"us.dependent[d1].{line}"].amount for line in "12"], [for_child, for_other])

    def test_a_denied_benefit_says_why(self):
        found = result(person(), filing(), child(months_at_home="6"), w2(60_000))
        self.assertIn("half the year or less", found["us.dependent[d1].1"].because.note)

    def test_nobody_has_dependants_who_is_one(self):
        found = result(person(claimed_by_other="yes"), filing(), child(), w2(60_000))
        self.assertEqual(found["us.1040.19"].amount, 0)


class ChildCreditTests(TestCase):
    CASES = [  # why                                           year  children wages     19     28
        ("two children against 7,746 of tax",                 2025,    2,   100_000, 4_400,     0),
        ("no tax to lower: 15% above 2,500 is paid out",      2025,    2,    12_000,     0, 1_425),
        ("paid out up to 1,700 a child",                      2025,    2,    30_000,     0, 3_400),
        ("tax first, then the rest up to 1,700",              2025,    1,    40_000,   853, 1_347),
        ("whole up to 400,000",                               2025,    1,   400_000, 2_200,     0),
        ("one dollar above costs 50",                         2025,    1,   400_001, 2_150,     0),
        ("nothing is left 44,000 above",                      2025,    1,   444_000,     0,     0),
        ("2,000 in 2024",                                     2024,    1,   100_000, 2_000,     0),
        ("2023 paid out up to 1,600",                         2023,    1,    25_000,     0, 1_600),
        ("2022 paid out up to 1,500",                         2022,    1,    25_000,     0, 1_500),
    ]  # fmt: skip

    def test_against_tax_and_paid_out(self):
        for why, year, children, wages, against, paid in self.CASES:
            with self.subTest(why):
                found = parents(*[child(f"d{n}") for n in range(children)], w2(wages), year=year)
                self.assertEqual([found["us.1040.19"].amount, found["us.1040.28"].amount], [against, paid])

    def test_three_children_may_take_the_payroll_route(self):
        # 20,000 of wages: 15% of 17,500 is 2,625. Payroll tax of 8,000 keyed, less the earned income credit of 8,046: nothing
        children = [child(f"d{n}") for n in range(3)]
        found = parents(*children, w2(20_000, social_security_withheld="8000", medicare_withheld="290"))
        self.assertEqual(found["us.sch-8812.25"].amount, 8_290 - 8_046)
        self.assertEqual(found["us.1040.28"].amount, 2_625)
        found = parents(*children, w2(20_000, social_security_withheld="12000", medicare_withheld="290"))
        self.assertEqual(found["us.1040.28"].amount, 4_244)


class EarnedIncomeCreditTests(TestCase):
    CASES = [  # why                                                     papers                                                           27a
        ("rising: 7.65% of the band's middle 8,025",                    [person(), filing(), w2(8_000)],                                  614),
        ("level",                                                       [person(), filing(), w2(9_000)],                                  649),
        ("falling: 649 less 7.65% of 4,405",                            [person(), filing(), w2(15_000)],                                 312),
        ("nothing at the limit",                                        [person(), filing(), w2(19_104)],                                   0),
        ("24 is too young without a child",                             [person(born="2001-01-02"), filing(), w2(9_000)],                   0),
        ("25 on the last day, born on 1 January",                       [person(born="2001-01-01"), filing(), w2(9_000)],                 649),
        ("young, with a child",                                         [person(born="2003-05-05"), filing(), child(), w2(15_000)],     4_328),
        ("a couple with one child: 4,328 less 15.98% of 9,555",         [person(), person("spouse"), filing("joint"), child(),
                                                                         w2(40_000)],                                                   2_801),
        ("two children",                                                [person(), filing(), child(), child("d2"), w2(20_000)],         7_152),
        ("three and more",                                              [person(), filing(), *[child(f"d{n}") for n in range(4)],
                                                                         w2(20_000)],                                                   8_046),
        ("interest lifts income: 4,328 less 15.98% of 5,675",           [person(), filing(), child(), w2(20_000), interest("9000")],    3_421),
        ("investment income up to its limit",                           [person(), filing(), child(), w2(15_000), interest("11950")],   3_749),
        ("and one dollar above",                                        [person(), filing(), child(), w2(15_000), interest("11951")],       0),
        ("apart there is none",                                         [person(), filing("separate"), child(), w2(15_000)],                0),
    ]  # fmt: skip

    def test_by_the_official_tables_rule(self):
        for why, papers, expected in self.CASES:
            with self.subTest(why):
                self.assertEqual(result(*papers)["us.1040.27a"].amount, expected)

    def test_the_last_band_of_2024_is_cut_off(self):
        # 18,550 to 18,591, middle 18,570.50: 632 less 630.40
        self.assertEqual(result(person(), filing(), w2(18_590), year=2024)["us.1040.27"].amount, 2)

    # The last, cut-off bands of 2023's table, one for each number of children
    LAST_BANDS = [(0, 17_639, 2), (1, 46_559, 1), (2, 52_917, 2), (3, 56_837, 4)]

    def test_the_last_bands_of_2023(self):
        for children, income, expected in self.LAST_BANDS:
            with self.subTest(f"{children} children"):
                papers = [person(), filing(), *[child(f"d{n}") for n in range(children)], w2(income)]
                self.assertEqual(result(*papers, year=2023)["us.1040.27"].amount, expected)

    def test_illinois_gave_18_percent_in_2022_and_had_no_child_credit(self):
        found = parents(child(), w2(40_000), year=2022)
        # 3,733 less 15.98% of 13,765 (middle 40,025 above 26,260): 1,533; 18% of that is 276
        self.assertEqual([found["us.1040.27"].amount, found["us-il.il-1040.29"].amount], [1_533, 276])
        self.assertEqual(found["us-il.il-1040.30"].spec.name, "payments")

    def test_illinois_adds_a_fifth_and_for_a_young_child_two_fifths_of_that(self):
        found = parents(child(), w2(40_000))
        self.assertEqual([found[f"us-il.il-1040.{n}"].amount for n in ("10d", "29", "30")], [2_850, 560, 224])
        self.assertEqual(parents(child(born="2013-12-31"), w2(40_000))["us-il.il-1040.30"].amount, 0)


class HighIncomeTests(TestCase):
    def test_additional_medicare_tax_and_what_was_withheld_of_it(self):
        found = result(w2(250_000))
        self.assertEqual([found["us.8959.18"].amount, found["us.1040.25c"].amount], [450, 450])

    def test_two_employers_withhold_none_though_it_is_owed(self):
        found = result(w2(150_000), w2(150_000, key="b"))
        self.assertEqual([found["us.1040.23"].amount, found["us.1040.25c"].amount], [900, 0])

    CASES = [  # why                                             wages    interest  line 17
        ("at the threshold nothing",                            199_000,   1_000,      0),
        ("income above the threshold is the smaller",           199_000,   2_000,     38),
        ("investment income is the smaller",                    210_000,   5_000,    190),
    ]  # fmt: skip

    def test_net_investment_income_tax(self):
        for why, wages, received, expected in self.CASES:
            with self.subTest(why):
                found = result(w2(wages), interest(received))
                self.assertEqual(found.run.form("us.8960").tax, expected)

    def test_excess_social_security_is_counted_for_each_person(self):
        two = [w2(100_000), w2(100_000, key="b", employer_number="00-2905518")]
        self.assertEqual(result(*two)["us.1040.31"].amount, 1_482)  # 12,400 less 10,918.20
        self.assertEqual(couple(two[0], w2(100_000, key="b", owner="spouse"))["us.1040.31"].amount, 0)

    def test_one_employers_own_mistake_is_no_credit(self):
        self.assertEqual(result(w2(180_000, social_security_withheld="11000"))["us.1040.31"].amount, 0)


class HeadOfHouseholdTests(TestCase):
    def test_a_child_and_a_kept_home_make_one(self):
        found = result(person(), filing("head_of_household", kept_home="yes"), child(), w2(60_000))
        stops = {finding.code for finding in found.findings if finding.weight == "stops"}
        self.assertEqual(stops, {"us.diligence.missing", "us.diligence.child-missing"})
        self.assertEqual(found["us.1040.12e"].amount, 23_625)


class DeathTests(TestCase):
    def test_a_surviving_spouse_signs_alone_and_both_count(self):
        found = result(person(death_date="2025-05-05"), person("spouse"), filing("joint"))
        self.assertEqual(PACK.signers(found.run), ("spouse",))
        self.assertEqual(found["us.1040.12e"].amount, 31_500)

    def test_somebody_who_died_before_the_65th_birthday_was_never_65(self):
        for died, boxes in (("2025-06-13", 0), ("2025-06-14", 1)):
            with self.subTest(died):
                found = result(person(born="1960-06-15", death_date=died))
                self.assertEqual(found.run.form("us.standard-deduction").boxes, boxes)
