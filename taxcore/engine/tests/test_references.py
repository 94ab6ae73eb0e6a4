"""References between papers, forms that nothing calls for, forms of several kinds, ratios and shares: with Tinyland's law."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import (
    Amount,
    Form,
    Loop,
    Paper,
    PaperValues,
    Refer,
    ReturnData,
    compute,
    fact,
    full_steps,
    line,
    pro_rata,
    ratio,
    total,
    words,
)
from taxcore.engine.tests.tinyland import TINYLAND, whole


class Jar(Paper):
    jurisdiction, kind, name, heading = "ti", "jar", "Jar", "label"
    sugar = Amount("1", "Sugar")
    basket = Refer("2", "Basket", ("basket",))
    helper = Refer("3", "Helper", ("person",), optional=True)


class Sweet(Form):
    jurisdiction, number, name, needs = "ti", "Sweet", "Sweet things", ("jar",)
    rounding = staticmethod(whole)

    @line("1", "Sugar")
    def sugar(self):
        return total([jar.sugar for jar in self.papers("jar")])


class Slip(Form):
    jurisdiction, number, per = "ti", "Any slip", ("basket", "jar")

    @line("1", "Kind")
    def which(self):
        return total(1 if self.run.by_key(("basket",), self.key) else 2)


class Summary(Form):
    jurisdiction, number = "ti", "Summary"

    @line("1", "Sugar of the sweet things")
    def sugar(self):
        return self.brought("ti.sweet", "sugar")


PACK = replace(TINYLAND, papers=(*TINYLAND.papers, Jar), forms=(*TINYLAND.forms, Sweet, Slip, Summary))


def kitchen(*papers):
    people = PaperValues("taxpayer", "person", {"role": "taxpayer", "first_name": "Wim"})
    return compute(PACK, ReturnData("ti", 2001, (people, *papers)))


def basket(key="b1"):
    return PaperValues(key, "basket", {"of": "Wim", "berries": "9"})


def jar(**values):
    return PaperValues("j1", "jar", {"sugar": "5"} | values)


class ReferenceTests(TestCase):
    def test_the_only_one_is_meant_when_nothing_is_said(self):
        found = kitchen(basket(), jar()).run.papers("jar")[0]
        self.assertEqual((found.basket, found.cell("basket").how), ("b1", "computed"))

    def test_of_several_one_must_be_named(self):
        found = kitchen(basket("b1"), basket("b2"), jar()).run.papers("jar")[0]
        self.assertEqual(found.basket, "")
        self.assertEqual(kitchen(basket("b1"), basket("b2"), jar(basket="b2")).run.papers("jar")[0].basket, "b2")

    def test_an_optional_one_is_never_supposed(self):
        self.assertEqual(kitchen(jar()).run.papers("jar")[0].helper, "")
        self.assertEqual(kitchen(jar(helper="taxpayer")).run.papers("jar")[0].helper, "taxpayer")

    def test_what_is_not_on_the_return_is_a_finding_at_its_field(self):
        found = kitchen(basket(), jar(basket="b7"))
        self.assertEqual([one.at for one in found.findings if one.code == "ti.bad-value"], [("ti.jar[j1].2",)])


class IdleTests(TestCase):
    def test_a_form_nothing_calls_for_is_not_worked_out(self):
        result = kitchen(basket())
        self.assertEqual(result["ti.summary.1"].value, 0)
        self.assertNotIn("ti.sweet.1", result.cells)
        self.assertIn("nothing on this return calls for Sweet", words.plain(result["ti.summary.1"]))

    def test_with_its_paper_it_is(self):
        result = kitchen(jar())
        self.assertEqual((result["ti.summary.1"].value, result["ti.sweet.1"].value), (5, 5))

    def test_one_form_stands_on_papers_of_several_kinds(self):
        result = kitchen(basket(), jar())
        self.assertEqual([result[f"ti.any-slip[{key}].1"].value for key in ("b1", "j1")], [1, 2])


class ArithmeticTests(TestCase):
    CASES = [  # why                                          made                                          amount
        ("halves go up at the last place",                    ratio(Decimal(1), over=8, places=2),          "0.13"),
        ("nothing over nothing is nothing",                   ratio(Decimal(5), over=0),                    "0"),
        ("as much of 90 as 1 is of 3",                        pro_rata(Decimal(90), 1, 3),                  "30"),
        ("a part of nothing is nothing",                      pro_rata(Decimal(90), 1, 0),                  "0"),
        ("a step that is not full does not count",            full_steps(Decimal("1999.99"), of=Decimal(1000)), "1"),
        ("nothing below zero",                                full_steps(Decimal(-5), of=Decimal(1000)),    "0"),
    ]  # fmt: skip

    def test_each_computes_and_can_do_it_again(self):
        for why, made, amount in self.CASES:
            with self.subTest(why):
                self.assertEqual(made, Decimal(amount))
                self.assertEqual(made.because.again(), made)


class WholeLoop(Form):
    """What is left of 101 after a tenth of it, in whole berries: comes to rest exactly."""

    jurisdiction, number = "ti", "Whole loop"
    rounding = staticmethod(whole)

    @line("1", "A tenth of what is left", loop=Loop(Decimal(1)))
    def tenth(self):
        return total(Decimal("0.1") * self.left)

    @fact("Left")
    def left(self):
        return 101 - self.tenth


class AskedLoop(WholeLoop):
    """The same, where what is left is an answer about the return as a whole, and asked for by others too."""

    number = "Asked loop"

    @fact("Left")
    def left(self):
        return total(self.run.once(_left)[0])


def _left(run):
    return (101 - run.form("ti.asked-loop").tenth,)


class LoopTests(TestCase):
    def test_an_answer_that_read_a_guess_is_asked_again_each_round(self):
        pack = replace(TINYLAND, forms=(*TINYLAND.forms, AskedLoop))
        result = compute(pack, ReturnData("ti", 2001, ()))
        self.assertEqual((result["ti.asked-loop.1"].value, result.run.once(_left)), (9, (92,)))

    def test_whole_figures_come_to_rest_exactly_not_only_within_the_tolerance(self):
        pack = replace(TINYLAND, forms=(*TINYLAND.forms, WholeLoop))
        result = compute(pack, ReturnData("ti", 2001, ()))
        self.assertEqual(result["ti.whole-loop.1"].value, 9)
        self.assertEqual(result.run.unsettled, [])
