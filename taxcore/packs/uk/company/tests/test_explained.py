"""Every figure of a company's return explains itself: its operands, put through its own arithmetic once more, give it again."""

from unittest import TestCase

from taxcore.packs.uk.company import PACK
from taxcore.packs.uk.company.tests.test_worked import CASES, result
from taxcore.packs.us.tests.explaining import assert_explained


class ExplainedTests(TestCase):
    def test_all_lines_of_every_worked_case(self):
        for catches, papers, options, _ in CASES:
            with self.subTest(catches):
                for form in result(*papers, **options).forms:
                    for cell in form.cells.values():
                        assert_explained(self, cell)


class PictureTests(TestCase):
    def test_the_flow_keeps_its_money_together(self):
        """What leaves a well is what it holds, or what comes in; every stream leads from one well to another."""
        for catches, papers, options, _ in CASES:
            flow = PACK.flow(result(*papers, **options))
            keys = {well.key for well in flow.wells}
            for well in flow.wells:
                into = sum(one.amount for one in flow.streams if one.target == well.key)
                out = sum(one.amount for one in flow.streams if one.source == well.key)
                with self.subTest(catches, well=well.key):
                    self.assertLessEqual(out, well.amount)
                    self.assertIn(into, (well.amount, 0))
            self.assertTrue(all({one.source, one.target} <= keys and one.amount > 0 for one in flow.streams), catches)

    def test_every_question_leads_to_papers(self):
        for question in PACK.questions:
            self.assertTrue(question.kinds and all(PACK.paper(kind) for kind in question.kinds), question.key)
