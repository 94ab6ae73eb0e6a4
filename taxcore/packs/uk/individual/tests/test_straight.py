"""Random British returns against the straight line, and what must hold of every one."""

import random
from decimal import Decimal
from unittest import TestCase

from taxcore.packs.uk.individual.tests import straight
from taxcore.packs.uk.individual.tests.test_worked import dividends, paper, pay, result, savings, trade

_AMOUNTS = (0, 0, 900, 4_000, 9_000, 14_000, 30_000, 52_000, 99_000, 131_000, 240_000)


def drawn(chance):
    facts = {name: chance.choice(_AMOUNTS) + chance.randrange(900) for name in ("pay", "trade", "savings", "dividends")}
    facts["savings"], facts["dividends"] = (
        facts["savings"] // chance.choice((1, 4, 20)),
        facts["dividends"] // chance.choice((1, 4, 20)),
    )
    facts |= {"rents": chance.choice((0, 0, 7_321)), "gifts": chance.choice((0, 0, 800)), "pension": chance.choice((0, 0, 3_200))}
    return facts | {"region": chance.choice(("england", "scotland", "wales")), "year": chance.choice((2023, 2024, 2025))}


def entered(facts):
    made = [pay(facts["pay"]), trade(facts["trade"]), savings(facts["savings"]), dividends(facts["dividends"])]
    made += [
        paper("property", rents=str(facts["rents"])),
        paper("reliefs", gifts=str(facts["gifts"]), relief_at_source=str(facts["pension"])),
    ]
    return made


class StraightTests(TestCase):
    def test_income_tax_and_contributions(self):
        """Fifty returns; a penny for each rate of dividends, which the straight line rounds one by one."""
        for number in range(50):
            facts = drawn(random.Random(f"british {number}"))
            found = result(*entered(facts), region=facts["region"], year=facts["year"]).run
            with self.subTest(number):
                tax = found.form("uk.income-tax")
                self.assertLessEqual(abs(tax.before - straight.income_tax(facts)), Decimal("0.03"), facts)
                self.assertEqual(found.form("uk.allowances").personal, straight.personal_allowance(facts))
                self.assertEqual(found.form("uk.national-insurance").class_4, straight.class_4(facts))

    def test_the_best_division_is_never_worse_than_a_fixed_one(self):
        """Against earned income first, then savings, then dividends, as a worksheet would."""
        for number in range(40):
            facts = drawn(random.Random(f"divided {number}"))
            found = result(*entered(facts), region=facts["region"], year=facts["year"]).run
            tax, rest = found.form("uk.income-tax"), found.form("uk.allowances").set_against
            kinds = [tax.income.earned, tax.income.savings, tax.income.dividends]
            for place, kind in enumerate(kinds):
                taken = min(kind, rest)
                kinds[place], rest = kind - taken, rest - taken
            self.assertLessEqual(tax.before, tax._tax_of(tuple(kinds)) + Decimal("0.02"), number)

    def test_order_of_papers_never_matters_and_income_never_lowers_tax(self):
        for number in range(25):
            chance = random.Random(f"order {number}")
            facts = drawn(chance)
            papers = entered(facts)
            one = result(*papers, region=facts["region"], year=facts["year"]).run.form("uk.sa110").charged
            chance.shuffle(papers)
            self.assertEqual(result(*papers, region=facts["region"], year=facts["year"]).run.form("uk.sa110").charged, one)
            more = facts | {"pay": facts["pay"] + 100}
            self.assertGreaterEqual(
                result(*entered(more), region=facts["region"], year=facts["year"]).run.form("uk.sa110").charged, one
            )
