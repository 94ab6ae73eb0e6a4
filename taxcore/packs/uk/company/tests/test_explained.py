"""Every figure of a company's return explains itself: its operands, put through its own arithmetic once more, give it again."""

from unittest import TestCase

from taxcore.packs.uk.company.tests.test_worked import CASES, result
from taxcore.packs.us.tests.explaining import assert_explained


class ExplainedTests(TestCase):
    def test_all_lines_of_every_worked_case(self):
        for catches, papers, options, _ in CASES:
            with self.subTest(catches):
                for form in result(*papers, **options).forms:
                    for cell in form.cells.values():
                        assert_explained(self, cell)
