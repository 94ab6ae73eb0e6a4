"""Farms worked by hand from the law: what is income when, costs with limits of their own, animals that are sold, optional methods."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, roll_forward
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, shop, wage

D = Decimal
F, SE, S1 = "us.sch-f[farm].", "us.sch-se[taxpayer].", "us.sch-1."


def farm(key="farm", **values):
    given = {"owner": "taxpayer", "product": "Barley and sheep", "code": "111100", "method": "cash", "participates": "yes"}
    return paper("farm", key, **given | values)


def owned(cost, sort, placed, key="a1", **values):
    return paper(
        "asset", key, description="Thing", used_in="farm", cost=cost, sort=sort, in_service=placed, no_special="yes", **values
    )


FARMER = paper("penalty", farmer="yes")


def before(tax):
    return paper("prior-year", adjusted_gross_income="50000", tax=tax, itemised="no", whole_year="yes")


def paid(day, amount):
    return PaperValues("estimates", "estimates", {"rows": [{"id": "1", "paid": day, "amount": str(amount)}]})


CASES = (
    ("what was raised and what was bought to be sold", (farm(raised=40_000, resale=20_000, resale_cost=15_000),), 2025, {
        F + "1c": 5_000, F + "2": 40_000, F + "9": 45_000, F + "34": 45_000, S1 + "6": 45_000}),
    ("a year's costs", (farm(raised=90_000, feed=12_000, seeds=4_000, fuel=3_000, wages=9_000, veterinary=2_000),), 2025, {
        F + "16": 12_000, F + "26": 4_000, F + "19": 3_000, F + "22": 9_000, F + "31": 2_000, F + "33": 30_000, F + "34": 60_000,
        SE + "1a": 60_000, SE + "4a": 55_410, SE + "10": 6_871, SE + "11": 1_607, SE + "13": 4_239, "us.1040.11a": 60_000 - 4_239}),
    ("payments of programs and of statements", (
        farm(programs=5_000), paper("1099-g", "g", owner="taxpayer", payer="Agency", payer_number="00-1112222", agriculture=3_000, farm="farm")), 2025, {
        F + "4a": 8_000, F + "4b": 8_000, F + "9": 8_000}),
    ("insurance of a crop, put off to the next year", (farm(raised=10_000, crop_insurance=7_000, crop_deferred="yes"),), 2025, {
        F + "6a": 7_000, F + "6b": 0, F + "9": 10_000}),
    ("and of last year's", (farm(raised=10_000, crop_deferred_before=7_000),), 2025, {F + "6d": 7_000, F + "9": 17_000}),
    ("loans that count as income", (farm(raised=1_000, loans_elected=6_000),), 2025, {F + "5a": 6_000, F + "9": 7_000}),
    ("a cooperative's dividends", (farm(cooperatives=900, cooperatives_taxable=800, patron="no"),), 2025, {F + "3a": 900, F + "3b": 800, F + "9": 800}),
    ("soil and water: a quarter of gross income", (farm(raised=40_000, conservation=12_000),), 2025, {F + "12": 10_000}),
    ("with what waited", (farm(raised=40_000, conservation=3_000, conservation_before=2_000),), 2025, {F + "12": 5_000}),
    ("a new tractor: five years", (farm(raised=90_000), owned(50_000, "farm-machine", "2025-03-01")), 2025, {F + "14": 10_000}),
    ("a used one: seven", (farm(raised=90_000), owned(50_000, "farm-used", "2025-03-01")), 2025, {F + "14": 7_145}),
    ("before 2018 no faster than 150%: 12.25% in the sixth year", (farm(raised=90_000), owned(10_000, "farm-used", "2017-03-01", quarter="0")), 2022, {F + "14": 1_225}),
    ("a barn: twenty years", (farm(raised=90_000), owned(80_000, "farm-building", "2025-03-01")), 2025, {F + "14": 3_000}),
    ("a house for hogs: ten", (farm(raised=90_000), owned(80_000, "single-purpose", "2025-03-01")), 2025, {F + "14": 8_000}),
    ("expensed", (farm(raised=90_000), owned(20_000, "farm-machine", "2025-03-01", section_179="20000")), 2025, {
        "us.section-179.12": 20_000, F + "14": 20_000, F + "34": 70_000}),
    ("a raised cow of two years: all of it long-term", (farm(raised=1_000), owned(0, "cattle", "2022-01-10", sold="2025-06-01", sold_for="1500")), 2025, {
        "us.4797.2": 1_500, "us.4797.7": 1_500, "us.sch-d.11": 1_500, F + "9": 1_000}),
    ("of less than two years ordinary", (farm(raised=1_000), owned(0, "cattle", "2024-01-10", sold="2025-06-01", sold_for="1500")), 2025, {
        "us.4797.10": 1_500, S1 + "4": 1_500}),
    ("a ewe after one", (farm(raised=1_000), owned(0, "sheep", "2024-01-10", sold="2025-06-01", sold_for="300")), 2025, {"us.4797.2": 300}),
    ("what was bought comes back first", (farm(raised=1_000), owned(2_000, "cattle", "2023-01-10", sold="2025-03-01", sold_for="1900")), 2025, {
        "us.sale-of-property[a1].22": 400 + 640 + 192, "us.4797.13": 1_132}),
    ("optional method: two thirds of gross income", (farm(raised=9_000, feed=8_000, optional_method="yes"),), 2025, {
        F + "34": 1_000, SE + "1a": 0, SE + "15": 6_000, SE + "4b": 6_000, SE + "12": 918}),
    ("no more than four quarters of coverage", (farm(raised=30_000, feed=25_000, optional_method="yes"),), 2025, {SE + "14": 7_240, SE + "15": 7_240}),
    ("with a loss too", (farm(raised=30_000, feed=35_000, optional_method="yes"),), 2024, {SE + "15": 6_920, S1 + "6": -5_000}),
    ("not for a profit of 8,000", (farm(raised=30_000, feed=22_000, optional_method="yes"),), 2025, {SE + "15": 0, SE + "1a": 8_000}),
    ("of a shop", (shop(9_000, optional_method="yes", supplies=7_000),), 2025, {SE + "2": 0, SE + "17": 6_000, SE + "4b": 6_000}),
    ("a shop beside a farm: what the farm left", (farm(raised=9_000, feed=8_000, optional_method="yes"), shop(9_000, optional_method="yes", supplies=7_000)), 2025, {
        SE + "16": 1_240, SE + "17": 1_240, SE + "4b": 7_240}),
    ("a shop of more than 72.189% profit has none", (shop(9_000, optional_method="yes", supplies=2_000),), 2025, {SE + "17": 0, SE + "2": 7_000}),
    ("a farm's loss beside wages", (wage(50_000), farm(raised=10_000, feed=16_000)), 2025, {S1 + "6": -6_000, "us.1040.11a": 44_000}),
    ("reserve payments of a pensioner bear no such tax", (
        farm(raised=5_000, programs=4_000, reserve=4_000), paper("ssa-1099", "ssa", owner="taxpayer", net="9000")), 2025, {
        SE + "1a": 9_000, SE + "1b": -4_000, SE + "3": 5_000}),
    ("but of others", (farm(raised=5_000, programs=4_000, reserve=4_000),), 2025, {SE + "1b": 0}),
    ("a farm and a shop bear it together", (farm(raised=20_000), shop(30_000)), 2025, {SE + "1a": 20_000, SE + "2": 30_000, SE + "3": 50_000}),
    # 2024: 60,000 of profit: income tax and 8,478 on the earnings; 90 days from 15 January at 7%
    ("one installment: nothing is owed where last year's tax was paid by 15 January", (
        farm(raised=60_000), FARMER, before(6_000), paid("2025-01-15", 6_000)), 2024, {"us.1040.38": 0}),
    ("no more than last year's tax: 6,000 for 90 days", (farm(raised=60_000), FARMER, before(6_000)), 2024, {"us.1040.38": 104}),
    # taxable: 60,000 - 4,239 - 14,600 - 20% of what is left = 32,929: 3,719 of tax
    ("two thirds of this year's: 8,131 of 12,197", (farm(raised=60_000), FARMER, before(50_000)), 2024, {
        "us.2210.4": 3_719 + 8_478, "us.1040.38": 140}),
    ("paid late, on 14 February: 30 days", (farm(raised=60_000), FARMER, before(6_000), paid("2025-02-14", 6_000)), 2024, {"us.1040.38": 35}),
    ("filed and paid by 1 March", (farm(raised=60_000), before(6_000), paper("penalty", farmer="yes", paid_by_march="yes")), 2024, {"us.1040.38": 0}),
    ("qualified income: the profit less its part of half the tax", (farm(raised=60_000),), 2025, {"us.qualified-income[farm].1": 60_000, "us.qualified-income[farm].2": 4_239}),
    ("health insurance up to the profit", (farm(raised=60_000, health_insurance=6_000),), 2025, {"us.7206[farm].14": 6_000, S1 + "17": 6_000}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_waits_opens_the_next_year(self):
        before = result(farm(raised=40_000, conservation=12_000, crop_insurance=7_000, crop_deferred="yes"))
        after = next(one for one in roll_forward(before).data.papers if one.kind == "farm").values
        self.assertEqual((after["conservation_before"], after["crop_deferred_before"]), ("2000", "7000"))
        self.assertEqual(after["code"], "111100")
