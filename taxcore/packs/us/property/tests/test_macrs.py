"""Depreciation of one thing over its life, against the law's formula written apart, and tables that come to all of it."""

import random
from decimal import ROUND_HALF_UP, Decimal
from unittest import TestCase

from taxcore.packs.us.property.macrs import TABLES, Life

D = Decimal


def by_formula(years, factor, first):
    """Percent a year: declining balance, or what is left over the years that are left once that is more."""
    found = [100 * D(factor) / years * first]
    gone = first
    while gone < years:
        left, part = 100 - sum(found), min(D(1), years - gone)
        found.append(left if part == years - gone else part * max(left * D(factor) / years, left / (years - gone)))
        gone += part
    return found


class TableTests(TestCase):
    def test_every_published_table_comes_to_the_whole(self):
        for name in ("half_year", "mid_quarter"):
            for years, table in TABLES[name].items():
                if years == "source":
                    continue
                for rates in table if name == "mid_quarter" else [table]:
                    with self.subTest(name, years=years):
                        self.assertEqual(sum(rates), 100)

    def test_each_rate_is_what_the_formula_gives_to_the_second_place(self):
        firsts = (D("0.875"), D("0.625"), D("0.375"), D("0.125"))
        for years, factor in TABLES.classes.factors.items():
            tables = [(D("0.5"), TABLES.half_year[years])]
            if years in TABLES.mid_quarter:
                tables += list(zip(firsts, TABLES.mid_quarter[years], strict=True))
            for first, rates in tables:
                exact = by_formula(D(years), factor, first)
                with self.subTest(years, first=first):
                    self.assertEqual(len(exact), len(rates))
                    for said, worked_out in zip(rates, exact, strict=True):
                        self.assertLessEqual(abs(said - worked_out), D("0.014"))

    def test_a_building_by_the_month(self):
        life = Life(D("27.5"), "residential", month=7)
        self.assertEqual([life.rate(1), life.rate(2), life.rate(10), life.rate(11)],
                         [D("1.667"), D("3.636"), D("3.636"), D("3.637")])  # fmt: skip
        early = Life(D("27.5"), "residential", month=1)
        self.assertEqual([early.rate(1), early.rate(10), early.rate(11)], [D("3.485"), D("3.637"), D("3.636")])
        self.assertEqual(Life(D(39), "nonresidential", month=12).rate(2), D("2.564"))


class LifeTests(TestCase):
    def test_a_whole_life_comes_to_the_basis_exactly(self):
        for number in range(2_000):
            draw = random.Random(number)
            basis = D(draw.randrange(1, 900_000))
            kind = draw.choice(("general", "general", "straight", "150", "residential", "nonresidential"))
            years = D(draw.choice((3, 5, 7, 10, 15, 20)))
            if kind in ("residential", "nonresidential"):
                life = Life(D("27.5") if kind == "residential" else D(39), kind, month=draw.randint(1, 12))
            else:
                life = Life(years, kind, quarter=draw.choice((0, 0, 1, 2, 3, 4)))
            taken, year = D(0), 0
            while taken < basis:
                year += 1
                amount = life.amount(basis, year, taken)
                self.assertGreaterEqual(amount, 0)
                self.assertEqual(amount, amount.quantize(D(1), ROUND_HALF_UP))
                taken += amount
                self.assertLessEqual(year, 42)
            with self.subTest(number, kind=kind, years=years):
                self.assertEqual(taken, basis)
                self.assertEqual(year, life.last)
