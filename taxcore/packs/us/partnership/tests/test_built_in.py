"""Property contributed with built-in gain or loss, by hand. IRC 704(c)(1)(A); 26 CFR 1.704-3.

Ada has 60 and Ben 40% of 65,000 of ordinary income; what Ben contributed is allocated as its method says.
"""

from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.entity.tests.test_closing import closing
from taxcore.packs.us.partnership.tests.making import ada, ben, paper, result, rows

BEN = ben(contributed_property=30_000, built_in="yes", built_in_after="17000")


def allocated(item, *parts, key="a1", **values):
    """(partner, amount) of what is moved among the partners."""
    made = rows(*({"partner": who, "amount": str(amount)} for who, amount in parts))
    return paper("built-in", key, **{"property": "Crane", "method": "traditional", "item": item, "rows": made} | values)


# Called; papers; line of the schedules; Ada's and Ben's
CASES = (
    # 39,000 less 3,000 of depreciation that is Ada's first; 26,000 without it
    ("depreciation goes to who did not contribute first", (allocated("1", ("ada", -3_000), ("ben", 3_000)),), "ordinary", (36_000, 29_000)),
    ("two things", (
        allocated("1", ("ada", -3_000), ("ben", 3_000)), allocated("1", ("ada", 500), ("ben", -500), key="a2")),
        "ordinary", (36_500, 28_500)),
    # Land sold: no gain of the books, 10,000 of tax gain are Ben's
    ("a remedial item where there is none to divide", (allocated("9a", ("ada", -4_000), ("ben", 4_000), method="remedial"),),
     "long_gain", (-4_000, 4_000)),
    ("self-employment income follows", (allocated("1", ("ada", -3_000), ("ben", 3_000)),), "self_employment", (46_000, 29_000)),
    ("qualified business income follows", (allocated("1", ("ada", -3_000), ("ben", 3_000)),), "qualified_income", (36_000, 29_000)),
    ("beside closed books", (closing(("2025-06-30", "1", 65_000)), allocated("1", ("ada", -3_000), ("ben", 3_000))), "ordinary", (36_000, 29_000)),
)  # fmt: skip


class BuiltInTests(TestCase):
    def test_worked_by_hand(self):
        for called, papers, name, wanted in CASES:
            with self.subTest(called):
                found = result(ada(), BEN, *papers)
                parts = tuple(getattr(one, name) for one in found.run.every("us.sch-k-1"))
                self.assertEqual(parts, wanted)
                self.assertEqual(sum(parts), getattr(found.run.form("us.sch-k"), name))

    def test_capital_on_the_tax_basis_moves_as_much(self):
        before, after = ([one.net for one in result(ada(), BEN, *papers).run.every("us.sch-k-1")] for papers in ((), CASES[0][1]))
        self.assertEqual([now - then for then, now in zip(before, after, strict=True)], [-3_000, 3_000])

    def test_it_is_let_out_with_item_n_and_stops_without(self):
        self.assertEqual(stops(result(ada(), BEN, *CASES[0][1])), set())
        bare = ben(contributed_property=30_000, built_in="yes")
        self.assertIn("us.1065.built-in", stops(result(ada(), bare, *CASES[0][1])))
        earlier = ben(built_in_before=20_000)  # contributed in an earlier year: its end is no silent zero
        self.assertIn("us.1065.built-in", stops(result(ada(), earlier, *CASES[0][1])))

    def test_item_n_is_told_and_begins_the_next_year(self):
        found = result(ada(), BEN, *CASES[0][1])
        lines = {cell.number: cell.value for cell in found.run.every("us.sch-k-1")[1].lines()}
        self.assertEqual((lines["N1"], lines["N2"]), (0, 17_000))
        rolled = roll_forward(found)
        values = next(one.values for one in rolled.data.papers if one.id == "ben")
        self.assertEqual((values["built_in_before"], values.get("built_in_after")), ("17000", None))

    def test_a_partner_is_chosen_by_name_alone(self):
        run = result(ada(), BEN, *CASES[0][1]).run
        field = run.papers("built-in")[0].rows[0].fields()["partner"]
        self.assertEqual([field.called(one) for one in field.among(run)], ["Ada Heron", "Ben Teal"])
        self.assertEqual(field.key_named(run, "ben teal"), "ben")

    def test_what_is_said(self):
        said = {one.code for one in result(ada(), BEN, allocated("1", ("ada", -3_000), ("ben", 2_000))).findings}
        self.assertIn("us.built-in.not-zero", said)
        said = {one.code for one in result(ada(), BEN, allocated("1", ("ada", "-0.50"), ("ben", "0.50"))).findings}
        self.assertIn("us.built-in.cents", said)
        self.assertIn("us.built-in.nothing", {one.code for one in result(ada(), BEN).findings})
        clean = {one.code for one in result(ada(), BEN, *CASES[0][1]).findings}
        self.assertEqual(clean & CODES, set())


def stops(found):
    return {one.code for one in found.findings if one.weight == "stops"}


CODES = {"us.built-in.not-zero", "us.built-in.cents", "us.built-in.nothing"}
