"""The best of the law's choices: worked by hand, never worse than the return, and no better one among all combinations."""

import itertools
import random
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.elections import elections
from taxcore.packs.us.tests.diagnosed.making import paper, single
from taxcore.packs.us.tests.returns import child, data, filing, interest, person, result, w2
from taxcore.packs.us.tests.straight.facts import Drawing
from taxcore.packs.us.tests.straight.papers import papers as papers_of
from taxcore.whatif import choosing
from taxcore.whatif.choosing import best_of
from taxcore.whatif.columns import together
from taxcore.whatif.differences import Difference, place_of_mark, with_differences
from taxcore.whatif.trials import Trials


def best(found):
    return best_of(found, Trials(PACK), elections(found.run))


def ways(chosen):
    """{title of an election: (words of each way, what it brings alone, whether it is the best)}"""
    return {one.title: [(each.way.words, each.brings, each.best) for each in compared] for one, compared in chosen.elections}


def studying(**values):
    base = {"payer": "Galena College", "payer_number": "00-1122335", "student": "d1", "half_time": "yes", "degree": "yes",
            "four_years_done": "no", "convicted": "no", "graduate": "no", "years_claimed": "0"}  # fmt: skip
    return paper("1098-t", "t1", **base | values)


class WorkedTests(TestCase):
    def test_a_credit_chosen_against_the_better_one(self):
        """4,000 paid: the American opportunity credit is 2,500, lifetime learning 20%, 800. Single, Illinois, tax of 5,075 and more."""
        found = best(
            result(person(), w2(60_000, 9_000), child(born="2006-05-05", student="yes"), studying(paid="4000", credit="lifetime"))
        )
        self.assertEqual(ways(found)["Education credit, Ada"],
                         [("American opportunity credit", 1_700, True), ("Lifetime learning credit", 0, False), ("None", -800, False)])  # fmt: skip
        self.assertEqual((found.brings, found.differences), (1_700, {"1098-t/t1/credit": "american"}))
        ((american, *_),) = (compared for _, compared in found.elections)
        self.assertTrue(american.asks and not american.stops, american.asks)

    def test_what_is_best_already_is_left_as_it_stands(self):
        found = best(result(person(), w2(60_000), single("itemized", property_tax="9000", medical="100")))
        self.assertEqual((found.brings, found.differences), (0, {}))
        # 15,750 against 9,000: 6,750 more at 12% and 22% of what is above 48,475. 44,250 by the table 5,075; 51,000 by the table 6,140
        self.assertEqual(ways(found)["Standard or itemized deduction"], [("Standard", 0, False), ("Itemized", -1_065, False)])

    def test_itemizing_with_less_pays_where_a_state_follows(self):
        """Georgia itemizes only with the federal return: 12,000 against 15,000 given. Federally 15,750 against 15,000."""
        given = paper("gift", "g1", charity="Lamplighters", gift_kind="cash", amount="15000", acknowledged="yes")
        found = best(result(person(), filing(residence="GA", state="GA"), w2(60_000, state="GA"), given))
        compared = dict(ways(found))["Standard or itemized deduction"]
        self.assertEqual(compared[1][2], compared[1][1] > 0)
        self.assertEqual(found.brings, max(0, compared[1][1]))

    def test_foreign_tax_as_a_credit_or_deducted(self):
        """200 of foreign tax: a credit of 200 without Form 1116; deducted it adds nothing to a standard deduction."""
        fund = paper("1099-div", "v1", payer="Heron", dividends="2000", foreign_tax="200", foreign_country="Norway")
        found = best(result(person(), w2(60_000), fund, single("foreign-tax", deduct_instead="yes")))
        self.assertEqual(ways(found)["Foreign tax"], [("Credit", 200, True), ("Deduction", 0, False)])
        self.assertEqual(found.differences["foreign-tax/foreign-tax/deduct_instead"], "no")

    def test_why_and_where_filing_would_stop(self):
        books = paper("business", "b1", activity="Repair", code="811490", participates="yes", service_trade="no", receipts="50000",
                      home_area="200", home_total="2000", home_direct="4000", home_method="simplified")  # fmt: skip
        (one, compared), *_ = [each for each in best(result(person(), books)).elections if each[0].title.startswith("Home")]
        regular = compared[1]
        self.assertEqual((one.cites, regular.way.words), ("Rev. Proc. 2013-13; IRC 280A(c)", "Regular method"))
        self.assertGreater(regular.brings, 0)
        self.assertTrue(any("Additional income" in label for label, _, _ in regular.because), regular.because)


class SearchTests(TestCase):
    def households(self, most):
        seen = 0
        for number in range(400):
            facts = Drawing(random.Random(f"elections {number}")).facts()
            found = compute(PACK, data(*papers_of(facts), year=facts.year))
            offered = elections(found.run)
            if len(offered) > 1:
                seen += 1
                yield found, offered
            if seen == most:
                return

    def test_no_combination_is_better(self):
        """Every combination of every way, computed anew, against what was found."""
        for found, offered in self.households(4):
            chosen = best_of(found, Trials(PACK), offered)
            here, stops = together(found), choosing._stops(found)
            most = here
            for ways_ in itertools.product(*((None, *one.ways) for one in offered)):
                said = {mark: value for way in ways_ if way is not None for mark, value in way.differences.items()}
                places = [Difference(place_of_mark(mark), value) for mark, value in said.items()]
                outcome = compute(PACK, with_differences(PACK, found.run.everything, places))
                if choosing._stops(outcome) <= stops:
                    most = max(most, together(outcome))
            self.assertEqual(here + chosen.brings, most)

    def test_one_after_another_is_never_worse_than_the_return(self):
        before, choosing._EVERY_WAY = choosing._EVERY_WAY, 0
        try:
            for found, offered in self.households(6):
                heard = []
                chosen = best_of(found, Trials(PACK), offered, lambda done, of, heard=heard: heard.append((done, of)))
                self.assertGreaterEqual(chosen.brings, 0)
                places = [Difference(place_of_mark(mark), value) for mark, value in chosen.differences.items()]
                again = compute(PACK, with_differences(PACK, found.run.everything, places))
                self.assertEqual(together(again) - together(found), chosen.brings)
                self.assertTrue(heard and all(done <= of for done, of in heard))
        finally:
            choosing._EVERY_WAY = before

    def test_nothing_to_choose(self):
        found = result(w2(50_000), interest(20))
        self.assertEqual((elections(found.run), best(found).brings), ((), 0))
