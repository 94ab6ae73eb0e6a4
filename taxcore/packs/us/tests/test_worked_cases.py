"""Returns worked out by hand, line by line: the engine must give the same, explain each figure, and stop only where it is said."""

from unittest import TestCase

from taxcore.engine import compute, document
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.worked import all_cases, rounded_as, worked_out

CASES = list(all_cases())


class WorkedCaseTests(TestCase):
    def test_each_line_is_what_the_hand_found(self):
        for case in CASES:
            result = compute(PACK, document.read(case.document))
            for address, text in case.lines.items():
                with self.subTest(f"{case.topic}/{case.name}: {case.why}", address=address):
                    cell = result[address]
                    self.assertEqual(cell.value, rounded_as(cell, worked_out(text, result)), text)

    def test_each_stops_where_it_says_and_nowhere_else(self):
        for case in CASES:
            with self.subTest(f"{case.topic}/{case.name}"):
                found = compute(PACK, document.read(case.document)).findings
                self.assertEqual({one.code for one in found if one.weight == "stops"}, set(case.stops))

    def test_every_figure_is_reproduced_by_its_operands(self):
        for case in CASES:
            for cell in compute(PACK, document.read(case.document)).lines():
                with self.subTest(f"{case.topic}/{case.name}", address=cell.address):
                    assert_explained(self, cell)

    def test_there_are_enough_of_them_over_all_years(self):
        self.assertGreaterEqual(len(CASES), 120)
        self.assertEqual({case.document["year"] for case in CASES}, set(PACK.years))
