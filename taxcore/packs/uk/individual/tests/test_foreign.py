"""Foreign income and credit: by hand, within the agreement, in the best order, and never more than either tax."""

import random
from decimal import Decimal
from itertools import permutations
from unittest import TestCase

from taxcore.packs.uk.individual.foreign import best_relief, reliefs_in
from taxcore.packs.uk.individual.tests.test_worked import about, dividends, paper, pay, result, savings

D = Decimal


def abroad(amount, tax, key="f1", country="USA", kind="dividends", **values):
    said = {"payer": f"Fund {key}", "country": country, "income_kind": kind, "claims": "yes"}
    return paper("foreign", key, **said | values, amount=str(amount), tax=str(tax))


# What it catches; papers of 2025-26; {form.attribute: amount}
CASES = (
    ("a higher rate taxpayer: 500 free, 9,500 at 33.75%; the foreign 1,500 is less", (pay(60_000), abroad(10_000, 1_500)), {
        "uk.income-tax.tax_on_dividends": "3206.25", "uk.foreign-credit.relief": "1500", "uk.income-tax.tax": "13138.25"}),
    ("tax above the agreement's 15% is not credited", (pay(60_000), abroad(10_000, 3_000)), {"uk.foreign-credit.relief": "1500"}),
    ("a basic rate taxpayer: 1,500 at 8.75% is less than the foreign tax", (pay(30_000), abroad(2_000, 300)), {
        "uk.foreign-credit.relief": "131.25"}),
    ("nothing is credited where nothing is due here", (pay(30_000), abroad(500, 75)), {"uk.foreign-credit.relief": "0"}),
    ("without a claim the tax is deducted from the income", (pay(60_000), abroad(1_000, 150, claims="")), {
        "uk.income.dividends": "850", "uk.foreign-credit.relief": "0"}),
    ("unremittable income is kept and not taxed", (pay(60_000), abroad(5_000, 750, unremittable="yes")), {
        "uk.income.dividends": "0", "uk.foreign-credit.relief": "0", "uk.sa106.unremittable": "5000"}),
    ("what was kept is taxed when it can be remitted: 1,500 of 2,000 at 33.75%", (
        pay(60_000), abroad(0, 0, kept_before="5000", released="2000")), {
        "uk.income-tax.tax_on_dividends": "506.25", "uk.sa106.dividends": "2000", "uk.sa106.unremittable": "3000"}),
    ("and kept with what comes to it", (pay(60_000), abroad(700, 0, unremittable="yes", kept_before="5000")), {
        "uk.income.dividends": "0", "uk.sa106.unremittable": "5700"}),
    ("a limit that is set here, with its reason", (pay(60_000), abroad(1_000, 250, limit_percent="20", limit_reason="Article 10(2)(b)")), {
        "uk.foreign-credit.relief": "168.75"}),
    ("interest from Italy: 10%; 40% of 500 above the allowance here", (pay(60_000), abroad(1_000, 120, country="ITA", kind="interest")), {
        "uk.foreign-credit.relief": "100"}),
    ("interest from Germany: the agreement leaves it to the United Kingdom", (pay(60_000), abroad(1_000, 120, country="DEU", kind="interest")),
     {"uk.foreign-credit.relief": "0"}),
    ("royalties from Australia are earned income: 5%", (pay(60_000), abroad(2_000, 300, country="AUS", kind="royalties")), {
        "uk.income.earned": "62000", "uk.foreign-credit.relief": "100"}),
    ("three countries, each within its own limit", (
        pay(60_000), abroad(4_000, 600), abroad(2_000, 300, "f2", "ESP"), abroad(3_000, 450, "f3", "CHE")), {
        "uk.sa106.dividends": "9000", "uk.foreign-credit.relief": "1250"}),
    ("the personal allowance that the item costs is part of its tax", (pay(100_000), abroad(2_000, 800, kind="royalties", limit_percent="40",
     limit_reason="As agreed")), {"uk.foreign-credit.relief": "800"}),
    ("pence of the amount are left off", (pay(60_000), abroad("1000.99", "150")), {"uk.income.dividends": "1000"}),
    ("special withholding tax is kept beside the credit", (pay(60_000), abroad(1_000, 0, special_withholding="35")), {
        "uk.foreign-credit.special": "35", "uk.sa110.deducted": "35"}),
    ("no more than the item adds: 100 at 8.75%; 430 of pay at 20% are left", (pay(13_000), abroad(600, 90)), {"uk.income-tax.tax": "86.00"}),
)  # fmt: skip


class CreditTests(TestCase):
    def test_by_hand(self):
        for catches, papers, wanted in CASES:
            found = result(*papers)
            for name, amount in wanted.items():
                form, _, attribute = name.rpartition(".")
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(found.run.form(form), attribute), D(amount))

    def test_what_is_asked_and_said(self):
        for papers, code in (
            ((abroad(100, 10, country="BRA"),), "uk.foreign-no-agreement"),
            ((abroad(100, 10, limit_percent="12"),), "uk.foreign-limit-unexplained"),
            ((abroad(100, 30),), "uk.foreign-above-limit"),
        ):
            with self.subTest(code):
                self.assertIn(code, {one.code for one in result(pay(60_000), *papers).findings})
                self.assertNotIn(code, {one.code for one in result(pay(60_000), abroad(100, 10)).findings})

    def test_never_more_than_either_tax_and_the_best_order_never_worse(self):
        """Twenty returns with two to four items: the credit is at most what the items add here, and what can be credited of each."""
        better = 0
        for number in range(20):
            chance = random.Random(f"abroad {number}")
            items = [
                abroad(chance.randrange(100, 30_000), chance.randrange(9_000), f"f{place}", chance.choice(("USA", "ITA", "AUS", "CAN")),
                       chance.choice(("dividends", "interest", "royalties")), limit_percent=str(chance.choice((10, 25, 45))), limit_reason="Agreed")
                for place in range(chance.choice((2, 3, 4)))
            ]  # fmt: skip
            base = (about(chance.choice(("england", "scotland"))), pay(chance.choice((9_000, 30_000, 45_000, 98_000, 120_000))),
                    savings(chance.randrange(3_000)), dividends(chance.randrange(3_000)))  # fmt: skip
            run = result(*base, *items).run
            credit, tax = run.form("uk.foreign-credit"), run.form("uk.income-tax")
            without = result(*base).run.form("uk.income-tax").before
            with self.subTest(number):
                self.assertLessEqual(credit.relief, tax.before - without + D("0.05"))
                self.assertLessEqual(credit.relief, sum(one.creditable for one in run.every("uk.foreign-item")))
                self.assertGreaterEqual(credit.relief, credit.as_entered)
                better += credit.better > 0
        self.assertGreater(better, 0)  # the order of entry does not always do

    def test_tax_on_the_income_as_it_is_is_the_tax(self):
        for number in range(20):
            chance = random.Random(f"same {number}")
            run = result(
                pay(chance.randrange(150_000)), savings(chance.randrange(9_000)), dividends(chance.randrange(40_000))
            ).run
            tax = run.form("uk.income-tax")
            kinds = (tax.income.earned, tax.income.savings, tax.income.dividends)
            self.assertLessEqual(abs(tax.tax_if(kinds) - tax.before), D("0.02"))


class OrderTests(TestCase):
    def test_no_order_gives_more_than_the_best(self):
        """Every order of four items, against the tax of a person near the end of a band; some foreign tax is above it."""
        for number in range(12):
            chance = random.Random(f"orders {number}")
            kinds_of = [chance.choice(("dividends", "royalties", "interest")) for _ in range(4)]
            limit = {"limit_percent": "60", "limit_reason": "x"}
            items = [
                abroad(chance.randrange(500, 9_000), chance.randrange(100, 4_000), f"f{place}", kind=kind, **limit)
                for place, kind in enumerate(kinds_of)
            ]
            form = result(pay(chance.choice((9_000, 30_000, 48_000, 99_000))), *items).run.form("uk.foreign-credit")
            given, kinds, tax = form._items(), form._kinds(), form.income_tax.tax_if
            found = max(sum(reliefs_in(order, given, kinds, tax)) for order in permutations(range(len(given))))
            self.assertEqual(best_relief(given, kinds, tax), found, number)
