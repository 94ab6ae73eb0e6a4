"""More time to file: what each authority's rule asks for, what is owed with it, and where the payment ends up."""

from datetime import date
from pathlib import Path
from unittest import TestCase

from lxml import etree

from taxcore.engine import Override, compute
from taxcore.packs.us import PACK, extensions
from taxcore.packs.us.corporation import PACK as CORPORATION
from taxcore.packs.us.partnership import PACK as PARTNERSHIP
from taxcore.packs.us.s_corporation import PACK as S_CORPORATION
from taxcore.packs.us.states import all_states
from taxcore.packs.us.tests.diagnosed.making import rows, single
from taxcore.packs.us.tests.returns import filing, result, w2

AUTHORITIES = {one.code: one for pack in (PACK, PARTNERSHIP, S_CORPORATION, CORPORATION) for one in pack.authorities}


def at(*given):
    return {"states": rows(*({"state": s, "state_number": "1", "wages": str(w), "withheld": str(h)} for s, w, h in given))}


def asked(**values):
    return single("extension", asked="yes", **values)


def of(state, *papers, home="", **wage):
    """One authority's extension of somebody who earns 50,000 there."""
    found = result(
        filing(residence=home or state, state=home or state),
        w2(50_000, 9_000, **at((state, 50_000, wage.get("withheld", 0)))),
        *papers,
    )
    return {one.code: one for one in extensions.of_return(found.run)}


def pays(state, amount, **more):
    return single("state-extensions", rows=rows({"state": state, "paying": str(amount), **more}))


class RuleTests(TestCase):
    CASES = [  # why                                                        state  withheld  papers                            sends      form
        ("federal: always a form, though nothing is owed",                  "us",   9_000, (asked(),),                        "form",    "4868"),
        ("automatic, nothing paid: nothing goes",                           "IL",       0, (),                                "nothing", "IL-505-I"),
        ("automatic, paid: the payment goes",                               "IL",       0, (pays("IL", 900),),                "payment", "IL-505-I"),
        ("follows the federal one, which there is none of",                 "GA",       0, (),                                "form",    "IT-303"),
        ("follows the federal one",                                         "GA",       0, (asked(),),                        "nothing", "IT-303"),
        ("follows the federal one, and something is paid",                  "GA",       0, (asked(), pays("GA", 500)),        "payment", "IT-560"),
        ("the federal one is enough where nothing is owed",                 "MO",   3_000, (asked(),),                        "nothing", "MO-60"),
        ("the federal one is not enough where something is owed",           "MO",       0, (asked(),),                        "form",    "MO-60"),
        ("nothing is owed, but there is no federal one either",             "MO",   3_000, (),                                "form",    "MO-60"),
    ]  # fmt: skip

    def test_each_rule(self):
        for why, state, withheld, papers, sends, form in self.CASES:
            with self.subTest(why):
                found = of("IL" if state == "us" else state, *papers, withheld=withheld)
                one = found["us" if state == "us" else f"us-{state.lower()}"]
                self.assertEqual((one.sends, one.form), (sends, form))

    def test_every_state_that_is_made_has_a_rule_with_its_source(self):
        codes = {state.jurisdiction for state in all_states()} | AUTHORITIES.keys()
        self.assertEqual(set(extensions.rules()), codes)
        self.assertTrue(all(rule["source"] and rule["form"] for rule in extensions.rules().values()))

    def test_the_later_day_is_later_and_never_on_a_weekend(self):
        for year in PACK.years:
            for code, rule in extensions.rules().items():
                day = extensions.until(AUTHORITIES[code], rule, year)
                self.assertLess(day.weekday(), 5)
                self.assertGreater(day, date(year + 1, 5, 1))
        self.assertEqual(extensions.until(PACK.authority("us"), {"until": [11, 1]}, 2024), date(2025, 11, 3))  # a Saturday


class AmountTests(TestCase):
    def test_balance_is_what_the_return_would_owe(self):
        """Illinois: 47,150 at 4.95% is 2,334."""
        one = of("IL", withheld=1_000)["us-il"]
        self.assertEqual((one.expected, one.paid, one.balance, one.paying), (2_334, 1_000, 1_334, 0))
        self.assertIn("1,334", one.warns)

    def test_the_payment_ends_the_balance_and_stands_on_the_final_return(self):
        one = of("IL", pays("IL", 1_334), withheld=1_000)["us-il"]
        self.assertEqual((one.paid, one.balance, one.paying, one.warns), (1_000, 1_334, 1_334, ""))
        asked_for = result(w2(50_000, 9_000, state_withheld=1_000), pays("IL", 1_334))
        self.assertEqual(asked_for["us-il.il-1040.41"].value, 1_334)  # it does not count before it is made
        found = result(w2(50_000, 9_000, state_withheld=1_000), pays("IL", 1_334, paid="yes"))
        self.assertEqual(found["us-il.il-1040.26"].value, 1_334)
        self.assertEqual(found["us-il.il-1040.41"].value, 0)

    def test_a_refund_has_no_balance(self):
        one = of("IL", withheld=3_000)["us-il"]
        self.assertEqual((one.paid, one.balance), (3_000, 0))

    def test_an_expected_tax_that_is_keyed_goes_before_the_computed_one(self):
        keyed = single("state-extensions", rows=rows({"state": "IL", "expected_tax": "5000"}))
        self.assertEqual(of("IL", keyed, withheld=1_000)["us-il"].balance, 4_000)

    def test_what_the_federal_extension_pays_counts_until_something_else_is_keyed(self):
        self.assertEqual(result(w2(50_000), asked(paying="700", paid="yes"))["us.sch-3.10"].value, 700)
        self.assertEqual(result(w2(50_000), asked(paying="700"))["us.sch-3.10"].value, 0)  # only asked for
        self.assertEqual(result(w2(50_000), single("extension", paying="700"))["us.sch-3.10"].value, 0)
        both = (asked(paying="700", paid="yes"), single("estimates", with_extension="650"))
        self.assertEqual(result(w2(50_000), *both)["us.sch-3.10"].value, 650)

    def test_a_state_may_be_asked_before_anything_of_it_is_keyed(self):
        row = single("state-extensions", rows=rows({"state": "GA", "expected_tax": "900", "paying": "900"}))
        one = {one.code: one for one in extensions.of_return(result(w2(50_000), row).run)}["us-ga"]
        self.assertEqual((one.asked, one.made, one.balance, one.sends), (True, False, 900, "form"))

    def test_a_state_whose_rule_is_not_known_sends_nothing_and_says_so(self):
        one = of("OH")["us-oh"]
        self.assertEqual((one.sends, one.until), ("nothing", None))
        self.assertIn("not known", one.says)

    def test_states_without_a_tax_are_not_on_the_list(self):
        self.assertEqual(set(of("TX", withheld=0)), {"us"})

    def test_an_override_on_the_return_moves_the_balance(self):
        data = result(w2(50_000, 9_000, state_withheld=1_000)).run.data.but(
            overrides={"us-il.il-1040.12": Override(3_000, "Court")}
        )
        one = next(one for one in extensions.of_return(compute(PACK, data).run) if one.code == "us-il")
        self.assertEqual(one.balance, 2_000)


class DocumentTests(TestCase):
    def test_it_is_valid_against_what_the_authority_publishes(self):
        schema = etree.XMLSchema(etree.parse(Path(__file__).resolve().parents[4] / "authority" / "schemas" / "extension.xsd"))
        found = result(w2(50_000, 9_000), asked(paying="700"))
        for one in extensions.of_return(found.run):
            root = etree.fromstring(extensions.document(found.run, one, "7"))
            schema.assertValid(root)
            self.assertEqual(root.get("form"), one.form)
