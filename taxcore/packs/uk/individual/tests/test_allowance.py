"""The annual allowance of pension savings, worked by hand."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.uk.individual.tests.test_worked import paper, pay, result

D = Decimal


def saved(amount, *unused, **values):
    rows = [{"id": str(year), "of_year": str(year), "amount": str(left)} for year, left in unused]
    return paper("pension-savings", input=str(amount), unused=rows, **values)


# What it catches; papers; {attribute of the form: amount}
CASES = (
    ("10,000 above 60,000 at the higher rate", (pay(100_000), saved(70_000)), {"excess": "10000", "charge": "4000.00"}),
    ("what was unused three years ago comes first", (pay(100_000), saved(70_000, (2022, 8_000))), {"excess": "2000", "charge": "800.00"}),
    ("of four years ago nothing is left", (pay(100_000), saved(70_000, (2021, 8_000))), {"excess": "10000"}),
    ("tapered: 330,000 is 70,000 above, half of it off: 25,000", (pay(290_000), saved(40_000)), {
        "adjusted": "330000", "allowance": "25000", "charge": "6750.00"}),
    ("never below 10,000", (pay(400_000), saved(12_000)), {"allowance": "10000", "charge": "900.00"}),
    ("threshold income of 195,000: no taper, whatever the employer pays", (pay(195_000), saved(70_000)), {
        "allowance": "60000", "charge": "4500.00"}),
    ("own payments count once in adjusted income", (pay(290_000), saved(40_000, own="10000")), {"adjusted": "320000", "allowance": "30000"}),
    ("salary given up for pension counts for the threshold", (pay(190_000), saved(90_000, sacrificed="20000")), {
        "threshold": "210000", "adjusted": "280000", "allowance": "50000"}),
    ("the excess runs over the basic band: 270 at 20%, 730 at 40%", (pay(50_000), saved(61_000)), {"charge": "346.00"}),
    ("relief at source lowers threshold income and widens the bands", (pay(50_000), saved(61_000), paper("reliefs", relief_at_source="800")), {
        "threshold": "49000", "charge": "200.00"}),
    ("money purchase savings above their own 10,000 after drawing flexibly", (pay(50_000), saved(12_000, money_purchase="12000")), {
        "excess": "2000"}),
    ("the greater way of the two: 10,000 above 10,000, and 42,000 within 50,000", (pay(100_000), saved(62_000, money_purchase="20000")), {
        "excess": "10000"}),
    ("contributions under net pay are added back", (pay(250_000), saved(30_000, own="20000", net_pay="20000")), {"adjusted": "280000"}),
)  # fmt: skip


class AllowanceTests(TestCase):
    def test_by_hand(self):
        for catches, papers, wanted in CASES:
            form = result(*papers).run.form("uk.annual-allowance")
            for name, amount in wanted.items():
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(form, name), D(amount))

    def test_it_is_part_of_what_is_due_unless_the_scheme_pays(self):
        plain = result(pay(100_000)).run.form("uk.sa110").charged
        self.assertEqual(result(pay(100_000), saved(70_000)).run.form("uk.sa110").charged, plain + 4_000)
        self.assertEqual(result(pay(100_000), saved(70_000, scheme_pays="3000")).run.form("uk.sa110").charged, plain + 1_000)

    def test_what_is_unused_is_kept_for_three_years(self):
        """Of 60,000 are 20,000 left; of the years before 5,000 of 2021 expire, 4,000 of 2022 and 3,000 of 2023 stay."""
        here = result(pay(100_000), saved(40_000, (2021, 5_000), (2022, 4_000), (2023, 3_000)), year=2024)
        rows = next(one for one in roll_forward(here).data.papers if one.kind == "pension-savings").values["unused"]
        self.assertEqual(
            [(row["of_year"], D(row["amount"])) for row in rows], [("2022", 4_000), ("2023", 3_000), ("2024", 20_000)]
        )

    def test_what_stops(self):
        for papers, code in (
            ((saved(70_000, (2030, 1)),), "uk.unused-year"), ((saved(9_000, own="10000"),), "uk.own-above-input"),
            ((saved(9_000, scheme_pays="10"),), "uk.scheme-pays-above"), ((saved(9_000, money_purchase="10000"),), "uk.money-purchase-above"),
        ):  # fmt: skip
            with self.subTest(code):
                self.assertIn(code, {one.code for one in result(pay(100_000), *papers).findings if one.weight == "stops"})
