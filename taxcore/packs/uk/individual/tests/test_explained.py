"""Every figure of a British return explains itself: its operands, put through its own arithmetic once more, give it again."""

import random
from unittest import TestCase

from taxcore.packs.uk.individual.tests.test_foreign import abroad
from taxcore.packs.uk.individual.tests.test_straight import drawn, entered
from taxcore.packs.uk.individual.tests.test_worked import result, sold
from taxcore.packs.us.tests.explaining import assert_explained


class ExplainedTests(TestCase):
    def test_all_lines_of_twenty_returns(self):
        for number in range(20):
            facts = drawn(random.Random(f"explained {number}"))
            gains = sold(
                {"day": "2024-11-05", "proceeds": "20000", "costs": "3000"},
                {"day": "2024-05-05", "home": "yes", "proceeds": "90000", "costs": "1"},
            )
            found = result(*entered(facts), abroad(3_000, 400), gains, region=facts["region"], year=facts["year"])
            for form in found.forms:
                for cell in form.cells.values():
                    assert_explained(self, cell)
