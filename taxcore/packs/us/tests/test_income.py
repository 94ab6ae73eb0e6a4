"""From wages to refund: table cases worked by hand from the official tables, schedules and the law."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.federal.tax import table_row
from taxcore.packs.us.tests.returns import couple, data, filing, interest, person, result, w2

D = Decimal


class TaxTests(TestCase):
    # Tax on taxable income T at the status; below 100,000 the tax on the middle of the 50-wide row, rounded
    CASES = [  # year  status              taxable      tax   how it was worked out
        (2025, "single",                       0,         0, "no income, no tax"),
        (2025, "single",                       4,         0, "the table's first row"),
        (2025, "single",                       5,         1, "row 5 to 15, middle 10"),
        (2025, "single",                      24,         2, "row 15 to 25, middle 20"),
        (2025, "single",                      25,         4, "row 25 to 50, middle 37.50: 3.75"),
        (2025, "single",                      50,         6, "row 50 to 75, middle 62.50: 6.25"),
        (2025, "single",                   2_999,       299, "row 2,975 to 3,000, middle 2,987.50: 298.75"),
        (2025, "single",                   3_000,       303, "row 3,000 to 3,050, middle 3,025: 302.50 rounds up"),
        (2025, "single",                  11_925,     1_193, "row 11,900 to 11,950, middle 11,925: 1,192.50"),
        (2025, "single",                  45_730,     5_249, "1,192.50 + 12% of 33,800 = 5,248.50, middle 45,725"),
        (2025, "single",                  99_999,    16_909, "1,192.50 + 4,386 + 22% of 51,500 (middle 99,975)"),
        (2025, "single",                 100_000,    16_914, "brackets: 1,192.50 + 4,386 + 22% of 51,525 = 16,914"),
        (2025, "single",                 103_350,    17_651, "the end of the 22% bracket"),
        (2025, "single",                 626_350,   188_770, "the last edge: 188,769.75"),
        (2025, "single",                 626_351,   188_770, "one dollar more: 188,770.12"),
        (2025, "joint",                   70_011,     7_926, "2,385 + 12% of 46,175 (middle 70,025)"),
        (2025, "joint",                  206_700,    35_302, "2,385 + 8,772 + 24,145"),
        (2025, "separate",               375_800,   101_077, "1,192.50 + 4,386 + 12,072.50 + 22,548 + 17,032 + 43,846.25"),
        (2025, "head_of_household",       64_850,     7_448, "1,700 + 5,742 + 22% of 25 (middle 64,875): 7,447.50"),
        (2025, "surviving_spouse",        23_850,     2_388, "row 23,850 to 23,900, middle 23,875: 2,385 + 3"),
        (2024, "single",                  47_150,     5_432, "1,160 + 4,266 + 22% of 25 (middle 47,175): 5,431.50"),
        (2024, "single",                 100_000,    17_053, "1,160 + 4,266 + 22% of 52,850 = 17,053"),
        (2024, "joint",                   94_299,    10_849, "2,320 + 12% of 71,075 (middle 94,275)"),
        (2024, "head_of_household",      100_500,    15_469, "1,655 + 5,586 + 22% of 37,400 = 15,469"),
        (2024, "separate",               365_600,    98_335, "half of a couple's schedule: 98,334.75"),
        (2023, "single",                  44_725,     5_147, "1,100 + 4,047, middle 44,725 is the edge itself"),
        (2023, "joint",                  100_000,    12_615, "2,200 + 8,094 + 22% of 10,550 = 12,615"),
        (2023, "head_of_household",      100_000,    15_794, "1,570 + 5,298 + 7,810 (22% of 35,500) + 24% of 4,650"),
        (2022, "single",                 100_000,    17_836, "1,027.50 + 3,780 + 10,406 + 24% of 10,925 = 17,835.50"),
        (2022, "joint",                   50_000,     5_592, "2,055 + 12% of 29,475 (middle 50,025)"),
    ]  # fmt: skip

    def test_the_official_table_and_the_brackets(self):
        for year, status, taxable, expected, how in self.CASES:
            with self.subTest(f"{year} {status} {taxable}: {how}"):
                deduction = PACK_LAW[year].standard_deduction.basic[status]
                found = compute(PACK, self._with_taxable(year, status, taxable + deduction))
                self.assertEqual(found["us.1040.15"].amount, taxable)
                self.assertEqual(found["us.1040.16"].amount, expected)

    def _with_taxable(self, year, status, wages):
        people = [person(), person("spouse")] if status == "joint" else [person()]
        return data(*people, filing(status), w2(wages), year=year)

    def test_rows_of_the_table_are_narrow_at_the_bottom(self):
        rows = {0: (0, 5), 7: (5, 15), 15: (15, 25), 26: (25, 50), 2_999: (2_975, 3_000), 3_001: (3_000, 3_050)}
        self.assertEqual({income: tuple(map(int, table_row(D(income)))) for income in rows}, rows)


PACK_LAW = {year: data(year=year) and compute(PACK, data(year=year)).run.laws["us"] for year in PACK.years}


class StandardDeductionTests(TestCase):
    CASES = [  # why                                             year  status              born          more                        line
        ("one person below 65",                                 2025, "single",            "1980-06-15", {},                         15_750),
        ("65 on the last day of the year",                      2025, "single",            "1960-12-31", {},                         17_750),
        ("born on 1 January, 65 the day before",                2025, "single",            "1961-01-01", {},                         17_750),
        ("born on 2 January, a day too young",                  2025, "single",            "1961-01-02", {},                         15_750),
        ("65 and blind",                                        2025, "single",            "1950-01-01", {"blind": "yes"},           19_750),
        ("blind, married apart",                                2025, "separate",          "1980-06-15", {"blind": "yes"},           17_350),
        ("head of household",                                   2025, "head_of_household", "1980-06-15", {},                         23_625),
        ("2024, one person",                                    2024, "single",            "1980-06-15", {},                         14_600),
        ("2024, 65",                                            2024, "single",            "1959-12-31", {},                         16_550),
    ]  # fmt: skip

    def test_by_status_age_and_blindness(self):
        for why, year, status, born, more, expected in self.CASES:
            with self.subTest(why):
                found = result(person(born=born, **more), filing(status), w2(60_000), year=year)
                self.assertEqual(found["us.1040.12e" if year == 2025 else "us.1040.12"].amount, expected)

    def test_a_couple_counts_both(self):
        found = result(person(born="1955-01-01"), person("spouse", born="1954-03-03", blind="yes"), filing("joint"), w2(60_000))
        self.assertEqual(found["us.1040.12e"].amount, 31_500 + 3 * 1_600)

    DEPENDANTS = [  # why                                             wages   line 12e
        ("the minimum",                                                 500,  1_350),
        ("earned income and 450, one under the minimum's edge",         899,  1_350),
        ("at the edge both are alike",                                  900,  1_350),
        ("one above it",                                                901,  1_351),
        ("never more than anybody else's",                           40_000, 15_750),
    ]  # fmt: skip

    def test_somebody_elses_dependant(self):
        for why, wages, expected in self.DEPENDANTS:
            with self.subTest(why):
                found = result(person(born="2007-01-05", claimed_by_other="yes"), filing(), w2(wages))
                self.assertEqual(found["us.1040.12e"].amount, expected)

    def test_none_when_the_spouse_itemises_apart(self):
        found = result(person(), filing("separate", spouse_itemises="yes"), w2(30_000))
        self.assertEqual(found["us.1040.12e"].amount, 0)
        self.assertIn("us.sch-a", [form.code() for form in found.forms])


class SeniorDeductionTests(TestCase):
    CASES = [  # why                                                  born          agi       status    13b
        ("below 65 there is none",                                   "1980-01-01",  50_000, "single",      0),
        ("up to the threshold it is whole",                          "1950-01-01",  75_000, "single",  6_000),
        ("one dollar above costs six cents, rounded to nothing",     "1950-01-01",  75_001, "single",  6_000),
        ("100 above costs 6",                                        "1950-01-01",  75_100, "single",  5_994),
        ("nothing is left 100,000 above",                            "1950-01-01", 175_000, "single",      0),
        ("a married person who files separately gets none",               "1950-01-01",  50_000, "separate",    0),
    ]  # fmt: skip

    def test_phases_out(self):
        for why, born, agi, status, expected in self.CASES:
            with self.subTest(why):
                found = result(person(born=born), filing(status), w2(agi))
                self.assertEqual(found["us.1040.13b"].amount, expected)

    def test_each_of_a_couple_has_one_with_the_same_reduction(self):
        found = result(person(born="1950-01-01"), person("spouse", born="1951-01-01"), filing("joint"), w2(160_000))
        # 10,000 above 150,000 costs each 600
        self.assertEqual(found["us.1040.13b"].amount, 10_800)

    def test_begins_in_2025(self):
        found = result(person(born="1950-01-01"), filing(), w2(50_000), year=2024)
        self.assertIsNone(found.get("us.1040.13b"))
        self.assertEqual(found["us.1040.14"].amount, 16_550)


class PaymentTests(TestCase):
    def test_interest_adds_to_income_and_its_penalty_comes_off(self):
        found = result(w2(50_000, 5_000), interest("1200.49", early_withdrawal="30.50", withheld="100"),
                       interest("0.30", "i2", government_interest="300"))  # fmt: skip
        self.assertEqual(found["us.1040.2b"].amount, 1_501)  # 1,200.49 + 0.30 + 300 = 1,500.79
        self.assertEqual(found["us.1040.10"].amount, 31)
        self.assertEqual(found["us.1040.11a"].amount, 51_470)
        self.assertEqual(found["us.1040.25d"].amount, 5_100)

    def test_schedule_b_goes_along_above_1500(self):
        for amount, expected in (("1500.49", False), ("1500.50", True)):
            with self.subTest(amount):
                forms = [form.number for form in result(w2(50_000), interest(amount)).forms]
                self.assertEqual("Schedule B" in forms, expected)

    def test_what_is_applied_to_next_year_is_not_refunded(self):
        found = result(w2(61_480, 7_000), PaperValues("deposit", "deposit", {"applied_to_next_year": "500"}))
        self.assertEqual(found["us.1040.34"].amount, 7_000 - 5_249)
        self.assertEqual(found["us.1040.35a"].amount, 7_000 - 5_249 - 500)

    def test_a_joint_return_worked_line_by_line(self):
        # 61,480 + 38,905 = 100,385; + 1,126 = 101,511; - 31,500 = 70,011; table: 2,385 + 12% of 46,175 = 7,926
        found = couple(w2(61_480, 5_212), w2(38_905, 2_918, "w2", "spouse"), interest("1126.40", owner="joint"))
        lines = {"1a": 100_385, "9": 101_511, "15": 70_011, "16": 7_926, "24": 7_926, "33": 8_130, "35a": 204, "37": 0}
        self.assertEqual({number: int(found[f"us.1040.{number}"].amount) for number in lines}, lines)


class IllinoisTests(TestCase):
    CASES = [  # why                                               papers                                                  year  line       amount
        ("4.95% after one exemption",                            [w2(61_480, state_withheld=3_000)],                      2025, "12",      2_902),
        ("2024's exemption was 2,775",                           [w2(61_480)],                                            2024, "12",      2_906),
        ("65 or older counts 1,000 more",                        [person(born="1950-01-01"), w2(61_480)],                 2025, "10",      3_850),
        ("blind counts 1,000 more",                              [person(blind="yes"), w2(61_480)],                       2025, "10",      3_850),
        ("Treasury interest is not taxed here",                  [w2(61_480), interest("0", government_interest="700")],  2025, "9",      61_480),
        ("tax-exempt interest is added",                         [w2(61_480), interest("0", exempt_interest="900")],      2025, "4",      62_380),
        ("an exemption up to 250,000 of federal income",         [w2(250_000)],                                           2025, "10",      2_850),
        ("none one dollar above",                                [w2(250_001)],                                           2025, "10",          0),
        ("a dependent with income up to it keeps the exemption", [person(claimed_by_other="yes"), w2(2_850)],             2025, "10",      2_850),
        ("and loses it one dollar above",                        [person(claimed_by_other="yes"), w2(2_851)],             2025, "10",          0),
        ("withholding above tax is refunded",                     [w2(61_480, state_withheld=3_000)],                      2025, "38",         98),
        ("use tax is owed too",                                  [w2(61_480, state_withheld=3_000),
                                                                  PaperValues(
                                                                      "il-questions", "il-questions", {"use_tax": "14"})], 2025, "38",        84),
    ]  # fmt: skip

    def test_full_year_resident(self):
        for why, papers, year, line, expected in self.CASES:
            with self.subTest(why):
                self.assertEqual(result(*papers, year=year)[f"us-il.il-1040.{line}"].amount, expected)

    def test_only_for_those_who_live_there(self):
        found = result(filing(residence="TX"), w2(61_480, state="TX"))
        self.assertEqual([line.authority.code for line in found.bottom_lines], ["us"])


class WageStatementTests(TestCase):
    def boxes(self, *names, **values):
        paper = result(w2(values.pop("wages"), **values)).run.papers("w2")[0]
        return [paper.cell(name).value for name in names]

    SOCIAL = ("social_security_wages", "social_security_withheld", "medicare_wages", "medicare_withheld")

    CASES = [  # why                                          wages    values                                                  3           4            5           6
        ("they follow box 1",                                61_480, {},                                                   "61480",    "3811.76",  "61480",    "891.46"),
        ("deferrals are insured",                            61_480, {"codes": [{"id": "1", "code": "D", "amount": "3200"}]}, "64680", "4010.16",  "64680",    "937.86"),
        ("Roth payments are in box 1 already",               61_480, {"codes": [{"id": "1", "code": "AA", "amount": "3200"}]}, "61480", "3811.76", "61480",    "891.46"),
        ("Social Security stops at the base",               180_000, {},                                                  "176100",   "10918.20", "180000",   "2610.00"),
        ("tips use up the base first",                      176_100, {"social_security_tips": "100"},                     "176000",   "10918.20", "176100",   "2553.45"),
        ("the employer withholds 0.9% above 200,000",       210_000, {},                                                  "176100",   "10918.20", "210000",   "3135.00"),
        ("an entered box wins",                                 61_480, {"social_security_wages": "60000"},                   "60000",    "3720.00",  "61480",    "891.46"),
    ]  # fmt: skip

    def test_boxes_3_to_6_follow_from_box_1_until_keyed(self):
        for why, wages, values, *expected in self.CASES:
            with self.subTest(why):
                self.assertEqual(self.boxes(*self.SOCIAL, wages=wages, **values), [D(amount) for amount in expected])

    def test_box_a_follows_the_owner(self):
        found = couple(w2(1_000, owner="spouse"))
        self.assertEqual(found.run.papers("w2")[0].employee_number, "913-22-8046")
