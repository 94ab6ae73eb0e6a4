"""Random households against the computations written apart: any difference is a defect of one of the two.

Each household comes from its number, so that one that differs can be looked at again; --search takes thousands of new ones.
"""

import random
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data
from taxcore.packs.us.tests.sampling import SEARCH
from taxcore.packs.us.tests.straight import child, facts, federal, states
from taxcore.packs.us.tests.straight.papers import papers


def numbers(few, many):
    """The same ones each time, or new ones."""
    begin = random.SystemRandom().randrange(1_000_000, 1_000_000_000) if SEARCH else 0
    return range(begin, begin + (many if SEARCH else few))


class FederalTests(TestCase):
    def test_a_computation_written_apart_agrees(self):
        for number in numbers(150, 6_000):
            with self.subTest(number=number):
                household = facts.Drawing(random.Random(number)).facts()
                found = compute(PACK, data(*papers(household), year=household.year))
                expected = federal.computed(household)
                self.assertEqual({address: found[address].value for address in expected}, expected)


class ChildTests(TestCase):
    def test_a_child_with_income_of_its_own(self):
        for number in numbers(60, 3_000):
            with self.subTest(number=number):
                one = child.draw(random.Random(number))
                found = compute(PACK, data(*child.papers(one), year=one.year))
                expected = child.computed(one)
                self.assertEqual({address: found[address].value for address in expected}, expected)


class StateTests(TestCase):
    def test_a_function_for_each_state_agrees(self):
        for authority in PACK.authorities:
            if authority.code == "us":
                continue
            home = authority.code.removeprefix("us-").upper()
            for number in numbers(16, 600):
                with self.subTest(home=home, number=number):
                    self.assertEqual(*self._both(authority, home, number))

    def _both(self, authority, home, number):
        """What is owed less what is refunded: (computed, by hand)."""
        household = facts.Drawing(random.Random(number)).plain(home, states.YEARS)
        entered = data(*papers(household), *states.questions(household), year=household.year)
        form = compute(PACK, entered).run.form(authority.form.code())
        by_hand = states.BY_HOME[home](household, federal.whole(household))
        return getattr(form, authority.owed) - getattr(form, authority.refund), by_hand
