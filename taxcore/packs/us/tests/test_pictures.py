"""The flow of every demo-like return keeps its money together; the guided questions lead to papers that exist."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data, filing, interest, person, w2

RETURNS = {
    "refund": data(person(), filing(), w2(61480, 5812, state_withheld="3043.26"), interest(90)),
    "to pay": data(person(), person("spouse"), filing("joint"), w2(161480, 5812), interest(9000)),
    "nothing": data(person(), filing()),
}


class FlowTests(TestCase):
    def flow(self, name):
        return PACK.flow(compute(PACK, RETURNS[name]))

    def test_what_leaves_a_well_was_in_it(self):
        for name in RETURNS:
            flow = self.flow(name)
            for well in flow.wells:
                out = sum(stream.amount for stream in flow.streams if stream.source == well.key and not stream.again)
                into = sum(stream.amount for stream in flow.streams if stream.target == well.key)
                with self.subTest(f"{name}: {well.key}"):
                    self.assertLessEqual(out, max(well.amount, into))

    def test_sources_make_the_total_income_and_ends_are_the_bottom_lines(self):
        for name, given in RETURNS.items():
            result, flow = compute(PACK, given), self.flow(name)
            wells = {well.key: well.amount for well in flow.wells}
            into = sum((stream.amount for stream in flow.streams if stream.target == "income"), Decimal(0))
            self.assertEqual(into, result["us.1040.9"].value)
            for line in result.bottom_lines:
                self.assertEqual(wells[f"{line.authority.code}-end"], abs(line.amount))

    def test_every_stream_joins_wells_and_every_well_opens_a_lineage(self):
        for name, given in RETURNS.items():
            flow, result = self.flow(name), compute(PACK, given)
            keys = [well.key for well in flow.wells]
            self.assertEqual(len(keys), len(set(keys)))
            for stream in flow.streams:
                self.assertLessEqual({stream.source, stream.target}, set(keys))
                self.assertGreater(stream.amount, 0)
            for well in flow.wells:
                self.assertIsNotNone(result.get(well.address), well)


class QuestionTests(TestCase):
    def test_each_leads_to_papers_that_exist(self):
        for question in PACK.questions:
            for kind in question.kinds:
                self.assertIsNotNone(PACK.paper(kind), kind)

    def test_each_is_asked_once_and_statements_of_payers_all_have_a_question(self):
        keys = [question.key for question in PACK.questions]
        self.assertEqual(len(keys), len(set(keys)))
        asked = {kind for question in PACK.questions for kind in question.kinds}
        statements = {paper.kind for paper in PACK.papers if paper.party and paper.group == "income"}
        self.assertEqual(statements - asked, set())
