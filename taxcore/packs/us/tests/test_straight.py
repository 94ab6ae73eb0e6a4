"""Random households against the computations written apart: any difference is a defect of one of the two.

Each household comes from its number, so that one that differs can be looked at again; --search takes thousands of new ones.
"""

import os
import random
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data
from taxcore.packs.us.tests.straight import facts, federal

SEARCH = os.environ.get("IMPUESTO_SEARCH") == "1"


def numbers(few, many):
    """The same ones each time, or new ones."""
    begin = random.SystemRandom().randrange(1_000_000, 1_000_000_000) if SEARCH else 0
    return range(begin, begin + (many if SEARCH else few))


class FederalTests(TestCase):
    def test_a_computation_written_apart_agrees(self):
        for number in numbers(400, 6_000):
            with self.subTest(number=number):
                household = facts.Drawing(random.Random(number)).facts()
                found = compute(PACK, data(*facts.papers(household), year=household.year))
                expected = federal.computed(household)
                self.assertEqual({address: found[address].value for address in expected}, expected)
