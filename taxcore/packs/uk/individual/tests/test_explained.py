"""Every figure of a British return explains itself: its operands, put through its own arithmetic once more, give it again."""

import random
from unittest import TestCase

from taxcore.packs.uk.individual import PACK
from taxcore.packs.uk.individual.tests import test_allowance, test_gains, test_losses, test_trades
from taxcore.packs.uk.individual.tests.test_foreign import abroad
from taxcore.packs.uk.individual.tests.test_gains import LIVED, home
from taxcore.packs.uk.individual.tests.test_straight import drawn, entered
from taxcore.packs.uk.individual.tests.test_worked import dividends, pay, result, savings, sold, trade
from taxcore.packs.us.tests.explaining import assert_explained


class ExplainedTests(TestCase):
    def test_all_lines_of_twenty_returns(self):
        for number in range(20):
            facts = drawn(random.Random(f"explained {number}"))
            gains = sold(
                {"day": "2024-11-05", "proceeds": "20000", "costs": "3000"},
                {"day": "2024-05-05", "kind": "residential", "proceeds": "90000", "costs": "1"},
            )
            found = result(*entered(facts), abroad(3_000, 400), gains, region=facts["region"], year=facts["year"])
            for form in found.forms:
                for cell in form.cells.values():
                    assert_explained(self, cell)

    def test_those_of_worked_cases(self):
        cases = [(papers, options) for _, papers, options, _ in (*test_trades.CASES, *test_gains.CASES, *test_losses.CASES)]
        cases += [(papers, {}) for _, papers, _ in test_allowance.CASES]
        for papers, options in cases:
            for form in result(*papers, **options).forms:
                for cell in form.cells.values():
                    assert_explained(self, cell)


class PictureTests(TestCase):
    """The flow keeps its money together, the questions lead to papers, and what comes next year is said."""

    RETURNS = (
        result(pay(60_000, "11432"), savings(1_500)),
        result(pay(60_000, "15000"), dividends(9_000)),
        result(trade(40_000, transition_part="10000"), year=2023),
        result(pay(30_000), home(*LIVED)),
        result(),
    )

    def test_what_leaves_a_well_was_in_it_and_streams_join_wells(self):
        for number, found in enumerate(self.RETURNS):
            flow = PACK.flow(found)
            keys = [well.key for well in flow.wells]
            self.assertEqual(len(keys), len(set(keys)))
            for well in flow.wells:
                out = sum(one.amount for one in flow.streams if one.source == well.key and not one.again)
                into = sum(one.amount for one in flow.streams if one.target == well.key)
                with self.subTest(number, well=well.key):
                    self.assertLessEqual(out, max(well.amount, into))
                    self.assertIsNotNone(found.get(well.address))
            for stream in flow.streams:
                self.assertLessEqual({stream.source, stream.target}, set(keys))
                self.assertGreater(stream.amount, 0)
            end = next(well for well in flow.wells if well.key == "end")
            self.assertEqual(end.amount, abs(found.bottom_lines[0].amount))

    def test_questions_lead_to_papers(self):
        self.assertEqual([kind for one in PACK.questions for kind in one.kinds if PACK.paper(kind) is None], [])
        self.assertEqual(len({one.key for one in PACK.questions}), len(PACK.questions))

    def test_two_payments_on_account(self):
        """Of 7,131.80 one half each; none of a return that owes nothing."""
        found = PACK.to_come(result(trade(40_000)).run)
        self.assertEqual(
            [(one.day.isoformat(), str(one.amount)) for one in found], [("2027-01-31", "3565.90"), ("2027-07-31", "3565.90")]
        )
        self.assertEqual(PACK.to_come(self.RETURNS[0].run), ())
