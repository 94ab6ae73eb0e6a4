"""Evaluation, lineage, overrides, loops, addresses: with Tinyland's law only."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import Form, Loop, Override, PaperValues, ReturnData, compute, fact, line, ripple, total, words
from taxcore.engine.run import Run, UndeclaredLoop
from taxcore.engine.tests.tinyland import TINYLAND, Harvest


def basket(key="a", **values):
    return PaperValues(key, "basket", values)


def harvest(*papers, year=2001, **overrides):
    people = PaperValues("taxpayer", "person", {"role": "taxpayer", "first_name": "Wim"})
    made = {address: Override(Decimal(amount), "because") for address, amount in overrides.items()}
    return compute(TINYLAND, ReturnData("ti", year, (people, *papers), made))


class EvaluationTests(TestCase):
    CASES = [  # why                                        berries  eaten   left  tax  back  owed
        ("nothing entered is nothing owed",                   "",      "",        0,   0,    0,    0),
        ("the first band is free up to its edge",           "100",   "",      100,   0,   10,    0),
        ("one above the edge bears the second band",        "110",   "",      110,   1,   10,    0),
        ("the third band begins at 200",                    "210",   "",      210,  15,    6,    0),
        ("cents are dropped by the nearest whole",          "100.40", "0.30", 100,   0,   10,    0),
        ("what was eaten cannot make less than nothing",    "5",     "9",       0,   0,    1,    0),
    ]  # fmt: skip

    def test_lines_follow_the_law(self):
        for why, berries, eaten, left, tax, back, owed in self.CASES:
            with self.subTest(why):
                result = harvest(basket(berries=berries, eaten=eaten))
                found = [result[f"ti.harvest.{number}"].amount for number in "34"]
                found += [result["ti.harvest.6"].amount, result["ti.harvest.7"].amount]
                self.assertEqual([left, tax, back, owed], found)

    def test_cents_are_kept_while_adding_and_rounded_once(self):
        self.assertEqual(harvest(basket("a", berries="0.40"), basket("b", berries="0.40"))["ti.harvest.1"].amount, 1)

    def test_the_same_input_gives_the_same_output(self):
        one, other = harvest(basket(berries="150")), harvest(basket(berries="150"))
        self.assertEqual([(c.address, c.value) for c in one.lines()], [(c.address, c.value) for c in other.lines()])

    def test_each_line_is_evaluated_once(self):
        calls = []

        class Counting(Form):
            jurisdiction, number = "ti", "Counting"

            @line("1", "One")
            def one(self):
                calls.append(1)
                return total(1)

            @line("2", "Two")
            def two(self):
                return total(self.one, self.one)

        run = Run(TINYLAND, ReturnData("ti", 2001))
        self.assertEqual(Counting(run).two, 2)
        self.assertEqual(len(calls), 1)


class AddressTests(TestCase):
    def test_line_numbers_follow_the_year(self):
        self.assertEqual(harvest(basket(eaten="3"), year=2001)["ti.harvest.2"].amount, 3)
        self.assertEqual(harvest(basket(eaten="3"), year=2003)["ti.harvest.2a"].amount, 3)

    def test_a_line_that_is_not_on_the_years_form_is_not_listed(self):
        self.assertNotIn("ti.harvest.2b", [cell.address for cell in harvest(year=2001).lines()])
        self.assertIn("ti.harvest.2b", [cell.address for cell in harvest(year=2003).lines()])

    def test_forms_exist_per_paper_and_per_person(self):
        result = harvest(basket("a", berries="80", owner="taxpayer"), basket("b", berries="20", owner="joint"))
        self.assertEqual(result["ti.basket-slip[a].1"].amount, 50)
        self.assertEqual(result["ti.basket-slip[b].1"].amount, 20)
        self.assertEqual(result["ti.person-slip[taxpayer].1"].amount, 80)

    def test_rows_have_addresses_of_their_own(self):
        result = harvest(basket(places=[{"id": "7", "glade": "N", "berries": "4"}]))
        found = result.run.papers("basket")[0].places[0]
        self.assertEqual(found.address("berries"), "ti.basket[a].places[7].n")
        self.assertEqual(found.berries, 4)

    def test_what_is_asked_for_after_the_others_were_listed_is_found_too(self):
        result = harvest(basket(berries="3"))
        self.assertIsNone(result.get("ti.harvest.anything"))
        self.assertTrue(result.run.form("ti.harvest").anything)
        self.assertTrue(result["ti.harvest.anything"].value)
        with self.assertRaises(KeyError):
            result["ti.harvest.nothing"]

    def test_an_owner_is_taken_for_granted_only_where_there_is_no_choice(self):
        self.assertEqual(harvest(basket()).run.papers("basket")[0].owner, "taxpayer")


class LineageTests(TestCase):
    def test_a_line_knows_what_it_read(self):
        result = harvest(basket("a", berries="80"), basket("b", berries="20"))
        read = [cell.address for cell in result["ti.harvest.1"].sources()]
        self.assertEqual(read, ["ti.basket[a].1", "ti.basket[b].1"])

    def test_the_way_up_ends_at_the_bottom_line(self):
        result = harvest(basket(berries="500", tithe="0"))
        way = [cell.address for cell in result.way_up(result["ti.basket[a].1"])]
        self.assertEqual(way[0], "ti.basket[a].1")
        self.assertEqual(way[-1], "ti.harvest.7")

    def test_explanations_reproduce_every_line(self):
        result = harvest(basket("a", berries="480", eaten="7.25"), basket("b", berries="33.10"), year=2003)
        for cell in result.lines():
            if cell.because is not None:
                redone = cell.because.again()
                self.assertEqual(redone, cell.computed, cell.address)

    def test_the_words_name_the_amounts_and_the_winner(self):
        result = harvest(basket(berries="80"))
        self.assertIn("The smallest of berries 80", words.plain(result["ti.basket-slip[a].1"]))
        parts = words.sentences(result["ti.basket-slip[a].1"])[0].parts
        self.assertEqual([part.won for part in parts], [False, True])
        self.assertEqual(parts[1].source, "Jam Act 2")

    def test_a_zero_says_which_condition_failed(self):
        self.assertIn("nobody asked for it", words.plain(harvest(year=2003)["ti.harvest.2b"]))


class ComputedFieldTests(TestCase):
    def test_a_field_is_computed_until_it_is_keyed(self):
        computed = harvest(basket(berries="80")).run.papers("basket")[0].cell("tithe")
        self.assertEqual((computed.value, computed.how), (8, "computed"))
        keyed = harvest(basket(berries="80", tithe="3")).run.papers("basket")[0].cell("tithe")
        self.assertEqual((keyed.value, keyed.how), (3, "keyed"))


class OverrideTests(TestCase):
    def test_an_overridden_line_keeps_both_amounts_and_moves_what_follows(self):
        result = harvest(basket(berries="210"), **{"ti.harvest.3": "100"})
        cell = result["ti.harvest.3"]
        self.assertEqual((cell.value, cell.computed, cell.how, cell.reason), (100, 210, "overridden", "because"))
        self.assertEqual(result["ti.harvest.4"].amount, 0)

    def test_an_override_inside_a_loop_stands(self):
        result = harvest(basket(berries="110"), year=2003, **{"ti.jam.1": "30"})
        self.assertEqual(result["ti.harvest.3"].amount, 80)


class LoopTests(TestCase):
    def test_a_declared_loop_settles_whichever_end_is_asked_first(self):
        for first in ("ti.harvest", "ti.jam"):
            with self.subTest(first):
                run = Run(TINYLAND, ReturnData("ti", 2003, (basket(berries="110"),)))
                run.form(first).cell("left" if first == "ti.harvest" else "gift")
                # left = 110 - left / 10, so left is 100 and the gift 10
                self.assertEqual(run.form("ti.harvest").left, 100)
                self.assertAlmostEqual(run.form("ti.jam").gift, Decimal(10), 1)

    def test_the_figures_of_a_settled_loop_agree_with_each_other(self):
        result = harvest(basket(berries="1110"), year=2003)
        left, gift = result["ti.harvest.3"], result["ti.jam.1"]
        self.assertIs(left.because.operands[1].value.because.operands[1].value.cell, gift)

    def test_an_undeclared_loop_names_its_members(self):
        class Circle(Form):
            jurisdiction, number = "ti", "Circle"

            @line("1", "Hen")
            def hen(self):
                return total(self.egg)

            @line("2", "Egg")
            def egg(self):
                return total(self.hen)

        with self.assertRaises(UndeclaredLoop) as caught:
            Circle(Run(TINYLAND, ReturnData("ti", 2001))).cell("hen")
        self.assertEqual(caught.exception.members, ["ti.circle.1", "ti.circle.2", "ti.circle.1"])

    def test_a_loop_that_runs_away_is_a_finding_and_no_error(self):
        class Away(Harvest):
            number = "Harvest"

            @line("9", "More", loop=Loop(Decimal("0.01"), start=Decimal(1)))
            def more(self):
                return total(self.again, 1)

            @fact("Again")
            def again(self):
                return total(self.more)

        result = compute(replace(TINYLAND, forms=(Away, *TINYLAND.forms[1:])), ReturnData("ti", 2001))
        self.assertEqual([(f.code, f.at) for f in result.findings], [("ti.unsettled", ("ti.harvest.9",))])


class RippleTests(TestCase):
    def test_only_lines_that_moved_are_listed(self):
        moved = ripple(harvest(basket(berries="100")), harvest(basket(berries="110")))
        self.assertEqual([(m.number, m.before, m.after) for m in moved if m.form == "Harvest"],
                         [("1", 100, 110), ("3", 100, 110), ("4", 0, 1), ("5", 10, 11)])  # fmt: skip

    def test_a_line_that_appears_has_no_before(self):
        moved = ripple(harvest(), harvest(basket(berries="1")))
        self.assertIn(None, [m.before for m in moved])


class FindingTests(TestCase):
    CASES = [  # why                                     values                                     code
        ("a needed row field is empty",                  {"places": [{"id": "1"}]},                 "ti.basket.glade-missing"),
        ("an amount is not a number",                    {"berries": "many"},                       "ti.bad-value"),
        ("an amount is negative where it may not be",    {"berries": "-1"},                         "ti.bad-value"),
        ("infinity is no amount",                        {"berries": "Infinity"},                   "ti.bad-value"),
        ("an amount is larger than any form",            {"berries": "999999999999"},               "ti.bad-value"),
        ("a text does not fit its pattern",              {"of": "R2D2"},                            "ti.bad-value"),
        ("a code is not on the list",                    {"places": [{"id": "1", "glade": "W"}]},   "ti.bad-value"),
        ("a check finds what does not add up",           {"berries": "1", "eaten": "2"},            "ti.eaten-more"),
    ]  # fmt: skip

    def test_bad_input_becomes_a_finding_at_its_field(self):
        for why, values, code in self.CASES:
            with self.subTest(why):
                found = [finding for finding in harvest(basket(**values)).findings if finding.code == code]
                self.assertEqual(len(found), 1)
                self.assertTrue(found[0].at[0].startswith("ti.basket[a]."))

    def test_an_unknown_paper_stops_filing(self):
        result = harvest(PaperValues("x", "balloon", {}))
        self.assertEqual([f.code for f in result.findings if f.weight == "stops"], ["ti.unknown-paper"])

    def test_findings_come_heaviest_first(self):
        result = harvest(basket("a", berries="1", eaten="1"), basket("b", berries="1", eaten="2"))
        self.assertEqual([finding.weight for finding in result.findings], ["stops", "check"])
