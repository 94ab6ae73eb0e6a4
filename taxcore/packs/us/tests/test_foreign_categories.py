"""Foreign tax in two categories, each with its own limit, by hand from IRC 904(d) for 2025.

Single, wages of 100,000 at home and interest of 10,000 abroad; 40,000 of pay for work abroad in the second category.
Wages 140,000, interest 10,000: taxable 150,000 less 15,750 is 134,250, tax 25,067. Gross income 150,000.
"""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, wage
from taxcore.packs.us.tests.returns import codes

P, G, S = "us.1116.", "us.1116-category[g].", "us.sch-3."
PAY = wage(140_000)


def interest(tax):
    return paper("1099-int", "i1", owner="taxpayer", payer="Banco do Cais", interest=10_000, foreign_tax=tax)


def passive(**values):
    given = {"category": "passive", "gross_income": 10_000} | values
    return PaperValues("foreign-tax", "foreign-tax", {name: str(value) for name, value in given.items()})


def general(tax=9_000, **values):
    given = {"category": "general", "country": "Portugal", "gross_income": "40000", "other_tax": str(tax)}
    return PaperValues("g", "foreign-category", given | values)


CASES = (
    # Passive: 10,000 less 15,750 x .0667 = 1,051: 8,949; of 134,250 .0667: 1,672. General: 40,000 less 4,200 (.2667): 35,799; .2667: 6,685
    ("each has its own limit", (PAY, interest(2_500), passive(), general()), 2025, {
        P + "3f": Decimal("0.0667"), P + "7": 8_949, P + "21": 1_672, P + "24": 1_672, G + "3f": Decimal("0.2667"), G + "3g": 4_201, G + "7": 35_799,
        G + "21": 6_685, G + "24": 6_685, P + "32": 8_357, P + "35": 8_357, S + "1": 8_357}),
    ("room of one is not the other's", (PAY, interest(200), passive(), general()), 2025, {P + "24": 200, G + "24": 6_685, P + "35": 6_885}),
    ("payers' statements need the form once there is another category", (PAY, interest(200), general(3_000)), 2025, {P + "24": 0, G + "24": 3_000}),
    ("with what earlier years left", (PAY, interest(2_500), passive(), general(5_000, carried=[{"id": "1", "from_year": "2023", "amount": "4000"}])), 2025, {
        G + "14": 9_000, G + "24": 6_685}),
)  # fmt: skip


class CategoryTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_what_is_left_stays_of_its_category_and_year(self):
        run = result(*CASES[3][1]).run
        self.assertEqual(
            [(row["from_year"], row["amount"]) for row in run.form("us.1116-category", "g").left_by_year()], [("2023", "2315")]
        )
        self.assertEqual(run.form("us.1116").left, 828)

    def test_the_same_category_twice_is_said(self):
        self.assertIn("us.1116.category-twice", codes(result(PAY, passive(), general(category="passive"))))
        self.assertNotIn("us.1116.category-twice", codes(result(PAY, passive(), general())))
