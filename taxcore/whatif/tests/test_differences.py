"""Differences laid over a return: none changes nothing, their order never matters, what they speak of may be gone."""

import random
from unittest import TestCase

from taxcore.engine import PaperValues, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import child, data, filing, interest, person, w2
from taxcore.whatif.columns import RETURN, Column, entered, lines, together, total_tax, value_at, worked_out
from taxcore.whatif.differences import ADDED, REMOVED, Difference, Place, place_of_mark, with_differences

HERE = data(person(), filing(), w2(60000, 8000, state_withheld="2800"), interest(500))
WAGES = Place("w2", "w1", "wages")


def amounts(result):
    return {cell.address: cell.value for cell in result.lines()}


class DifferenceTests(TestCase):
    def setUp(self):
        self.w2 = next(paper for paper in HERE.papers if paper.kind == "w2")
        self.wages = Place("w2", self.w2.id, "wages")
        self.bank = next(paper for paper in HERE.papers if paper.kind == "1099-int")

    def of(self, *differences):
        return with_differences(PACK, HERE, differences)

    def test_none_is_the_return(self):
        self.assertEqual(self.of(), HERE)

    def test_their_order_never_matters(self):
        state = Place("w2", self.w2.id, f"states.{self.w2.values['states'][0]['id']}.withheld")
        differences = [
            Difference(self.wages, "81000"), Difference(state, "3100"), Difference(Place("w2", self.w2.id, "federal_withheld"), ""),
            Difference(Place("1099-int", self.bank.id), REMOVED), Difference(Place("1099-div", "new-1"), ADDED),
            Difference(Place("1099-div", "new-1", "dividends"), "900"), Difference(Place("1099-div", "new-1", "payer"), "Ferry Fund"),
            Difference(Place("1099-g", "new-2"), ADDED), Difference(Place("1099-g", "new-2", "unemployment"), "4000"),
        ]  # fmt: skip
        wanted, chance = self.of(*differences), random.Random(5)
        for _ in range(40):
            chance.shuffle(differences)
            self.assertEqual(self.of(*differences), wanted)
        self.assertEqual(value_at(wanted, self.wages), "81000")
        self.assertEqual(value_at(wanted, state), "3100")
        self.assertNotIn("federal_withheld", next(one for one in wanted.papers if one.kind == "w2").values)
        self.assertEqual(value_at(wanted, Place("1099-div", "new-1", "dividends")), "900")
        self.assertNotIn("1099-int", {one.kind for one in wanted.papers})

    def test_what_is_gone_or_unknown_says_nothing(self):
        gone = (Place("w2", "left long ago", "wages"), Place("w2", self.w2.id, "no-such-field"), Place("nonsense", "x", "y"),
                Place("w2", self.w2.id, "states.1.nonsense"), Place("w2", self.w2.id, "wages.1.x"))  # fmt: skip
        self.assertEqual(self.of(*(Difference(place, "5") for place in gone)), HERE)

    def test_a_row_that_is_not_there_is_added(self):
        made = self.of(Difference(Place("w2", self.w2.id, "states.9.withheld"), "12"))
        self.assertEqual(next(one for one in made.papers if one.kind == "w2").values["states"][-1], {"id": "9", "withheld": "12"})

    def test_a_mark_is_read_back(self):
        for place in (self.wages, Place("w2", "a", "states.1.wages"), Place("w2", "a")):
            self.assertEqual(place_of_mark(place.mark), place)
        with self.assertRaises(ValueError):
            place_of_mark("nothing")


class ColumnTests(TestCase):
    def setUp(self):
        self.result = compute(PACK, HERE)
        w2 = next(paper for paper in HERE.papers if paper.kind == "w2")
        self.wages = Place("w2", w2.id, "wages")
        self.raised = Column("a", differences=(Difference(self.wages, "80000"),))

    def out(self, *columns):
        return worked_out(self.result, columns)

    def test_a_plan_without_a_difference_is_the_return_in_every_line(self):
        out = self.out(Column("a"), Column("b", "a"))
        for key in "ab":
            self.assertEqual(amounts(out[key].result), amounts(self.result))

    def test_a_column_adds_to_what_it_is_based_on_whatever_the_order(self):
        more = Column("b", "a", differences=(Difference(Place("w2", self.wages.paper, "federal_withheld"), "9500"),))
        one, two = self.out(self.raised, more), self.out(more, self.raised)
        # By hand: 80,000 + 500 - 15,750 = 64,750; the table between 64,750 and 64,800 says 9,165. Illinois: (80,500 - 2,850) at 4.95%
        self.assertEqual(total_tax(one["a"].result), 9165 + 3844)
        self.assertEqual(together(one["b"].result) - together(one["a"].result), 1500)
        self.assertEqual(amounts(one["b"].result), amounts(two["b"].result))

    def test_the_year_after_has_its_own_law_and_what_this_one_closes(self):
        later = (Column(key, on, 1) for key, on in ("cb", "dc", "ed", "fe", "gf"))
        out = self.out(self.raised, Column("b", "a", 1), *later)
        self.assertEqual(out["b"].result.year, 2026)
        # 80,500 less 16,100 = 64,400: 10% to 12,400, 12% to 50,400, 22% of the middle of the table's step, 64,425
        self.assertEqual(out["b"].result.cells["us.1040.16"].value, 8886)
        self.assertEqual(out["b"].result.cells["us-il.il-1040.25"].value, 2800)  # rows keep their amounts
        self.assertEqual([out[key].result.year for key in "cdef"], [2027, 2028, 2029, 2030])
        self.assertIn("The law of 2027 is assumed. Amounts of 2026 that follow prices rise by 2.5%", out["c"].remarks[0])
        source = out["d"].result.run.laws["us"].standard_deduction.basic.single.source
        self.assertTrue(source.startswith("Assumed: 16,100 of 2026 by an index of 1.050625; IRC 1(f)(7)"), source)
        self.assertIn("The law of 2031", out["g"].says)
        self.assertIsNone(out["g"].result)

    def test_only_what_moved_is_worked_out_again(self):
        other, onto = Column("o"), Column("b", "a")
        before = worked_out(self.result, [self.raised, onto, other])
        tax, untouched = total_tax(before["b"].result), before["o"].result
        raised = Column("a", differences=(Difference(self.wages, "90000"),))
        after = worked_out(self.result, [raised, onto, other], before)
        self.assertIs(after["o"].result, untouched)
        fresh = worked_out(self.result, [raised, onto, other])
        for key in "abo":
            self.assertEqual(amounts(after[key].result), amounts(fresh[key].result))
        self.assertNotEqual(total_tax(after["b"].result), tax)

    def test_after_any_edits_columns_are_what_computing_anew_gives(self):
        """Values, papers that come and go, columns that come and go, a year on."""
        chance, known, bank = random.Random(11), None, next(one.id for one in HERE.papers if one.kind == "1099-int")
        edits = {
            self.wages: ("81000", "20000", "250000"), Place("1099-int", bank): (REMOVED,), Place("1099-div", "n"): (ADDED,),
            Place("1099-div", "n", "dividends"): ("900", "12"), Place("filing", "filing", "status"): ("joint", "single"),
        }  # fmt: skip
        held = {key: {} for key in "abcd"}
        for _ in range(25):
            key, place = chance.choice("abcd"), chance.choice(list(edits))
            held[key][place] = chance.choice(edits[place])
            if chance.random() < 0.3:
                held[key].clear()
            columns = [
                Column(key, on, later, tuple(Difference(*one) for one in held[key].items()))
                for key, on, later in (("a", "", 0), ("b", "a", 0), ("c", "b", 1), ("d", "", 1))
            ]
            known = worked_out(self.result, columns, known)
            fresh = worked_out(self.result, columns)
            for key in "abcd":
                self.assertEqual(amounts(known[key].result), amounts(fresh[key].result), (key, columns))
            for one in fresh.values():
                one.result.take_apart()

    def test_a_column_that_hangs_in_the_air_says_so(self):
        out = self.out(Column("a", "gone"), Column("b", "a"), Column("c", "d"), Column("d", "c"))
        self.assertIn("removed", out["a"].says)
        self.assertIn("removed", out["b"].says)
        self.assertIn("each other", out["c"].says + out["d"].says)
        self.assertEqual({one.result for one in out.values()}, {None})

    def test_rows_of_what_differs_and_lines_of_what_comes_out(self):
        out = self.out(self.raised, Column("b", "a", differences=(Difference(self.wages, "70000"),)))
        (row,) = entered(self.result, list(out.values()))
        self.assertEqual((row.texts, row.own), ({RETURN: "60000", "a": "80000", "b": "70000"}, {"a", "b"}))
        found = {line.address: line for line in lines({RETURN: self.result} | {key: one.result for key, one in out.items()})}
        tax = found["us.1040.24"]
        self.assertEqual((tax.amounts[RETURN], tax.amounts["a"], tax.moves), (5135, 9165, True))
        self.assertFalse(found["us.1040.33"].moves)


class PlanTests(TestCase):
    """Plans of two years, by hand from the law of each: 2025 and 2026, single, Illinois."""

    def years(self, *papers, now=(), then=()):
        """(this year with the first differences, the next on it with the second)."""
        base = compute(PACK, data(*papers))
        out = worked_out(base, [Column("a", differences=tuple(now)), Column("b", "a", 1, tuple(then))])
        return out["a"].result, out["b"].result

    def test_a_child_turns_seventeen(self):
        """2,200 below seventeen, 500 from then on: IRC 24(a), (h)(4). The head of a household keeps the status."""
        now, then = self.years(person(), filing("head_of_household"), w2(70_000), child(born="2009-03-01"))
        self.assertEqual([one["us.1040.19"].value for one in (now, then)], [2200, 500])

    def test_somebody_turns_sixty_five(self):
        """2026: 16,100 and 2,050 more for who is sixty-five by the year's end. IRC 63(f)(1)(A); Rev. Proc. 2025-32, sec. 4.14."""
        now, then = self.years(person(born="1961-07-04"), filing(), w2(60_000))
        self.assertEqual([one["us.1040.12e"].value for one in (now, then)], [15_750, 18_150])

    def test_a_loss_is_carried_into_the_next_year_and_the_sale_is_not_made_again(self):
        """10,000 of long-term loss: 3,000 now, 3,000 of the 7,000 that are left then. IRC 1211(b), 1212(b)."""
        sale = {"id": "1", "box": "D", "description": "Shares", "acquired": "2020-01-05", "sold": "2025-05-05", "proceeds": "0",
                "basis": "10000"}  # fmt: skip
        broker = PaperValues("b1", "1099-b", {"owner": "taxpayer", "payer": "Sandbar", "sales": [sale]})
        now, then = self.years(person(), filing(), w2(60_000), broker)
        self.assertEqual([one["us.1040.7a"].value for one in (now, then)], [-3000, -3000])
        self.assertEqual(
            next(one.values for one in then.run.everything.papers if one.kind == "capital-carryover"), {"long_term": "7000"}
        )

    def test_what_differs_now_is_there_next_year_and_can_differ_again(self):
        """Wages of 80,000 from this year on, of which 5,000 less next year: 75,000 - 16,100 = 58,900, by the table's middle, 58,925:
        1,240 + 4,560 + 22% of 8,525."""
        wages = Place("w2", "w1", "wages")
        _, then = self.years(person(), filing(), w2(60_000), now=[Difference(wages, "80000")], then=[Difference(wages, "75000")])
        self.assertEqual(then["us.1040.16"].value, 7676)
