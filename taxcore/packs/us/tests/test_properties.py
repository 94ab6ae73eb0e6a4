"""What must hold for any return: generated ones, against the law's shape and against a computation written apart."""

import random
from datetime import date
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as some

from taxcore.engine import PaperValues, ReturnData, compute
from taxcore.engine.figures import Explained, Figure
from taxcore.packs.us import PACK
from taxcore.packs.us.base import STATUSES
from taxcore.packs.us.tests.returns import data, filing, interest, person, w2
from taxcore.packs.us.tests.straight_line import by_hand

cents = some.integers(0, 30_000_000).map(lambda amount: f"{Decimal(amount) / 100:.2f}")
small = some.integers(0, 900_000).map(lambda amount: f"{Decimal(amount) / 100:.2f}")
born = some.dates(min_value=date(1930, 1, 1), max_value=date(2004, 12, 31)).map(str)
yes = some.sampled_from(["", "yes"])


@some.composite
def returns(draw):
    status = draw(some.sampled_from(list(STATUSES)))
    people = [person(born=draw(born), blind=draw(yes), claimed_by_other=draw(yes))]
    if status == "joint":
        people.append(person("spouse", born=draw(born), blind=draw(yes), claimed_by_other=draw(yes)))
    papers = [w2(draw(cents), draw(small), f"w{n}", state_withheld=draw(small)) for n in range(draw(some.integers(0, 4)))]
    papers += [
        interest(draw(small), f"i{n}", withheld=draw(small), exempt_interest=draw(small), government_interest=draw(small),
                 early_withdrawal=draw(some.sampled_from(["0", "12.34"])))
        for n in range(draw(some.integers(0, 3)))
    ]  # fmt: skip
    return data(*people, filing(status), *papers, year=draw(some.sampled_from([2022, 2023, 2024, 2025])))


class PropertyTests(TestCase):
    @given(returns())
    @settings(max_examples=400, deadline=None)
    def test_a_computation_written_apart_agrees(self, given_):
        found = compute(PACK, given_)
        if (
            any(D(paper.values.get("early_withdrawal") or 0) for paper in given_.papers)
            and found.run.form("us.1040").total_income <= 100
        ):
            return  # a penalty above all income: the yardstick does not know negative income's way through the state
        for address, expected in by_hand(given_).items():
            self.assertEqual(found[address].amount, expected, address)

    @given(status=some.sampled_from(list(STATUSES)), wages=some.integers(0, 900_000), more=some.integers(1, 50_000))
    @settings(max_examples=200, deadline=None)
    def test_tax_never_falls_as_income_rises(self, status, wages, more):
        taxes = [compute(PACK, data(filing(status), w2(amount)))["us.1040.24"].amount for amount in (wages, wages + more)]
        self.assertLessEqual(taxes[0], taxes[1])

    @given(given_=returns(), more=some.integers(1, 50_000))
    @settings(max_examples=100, deadline=None)
    def test_more_withheld_is_exactly_that_much_more_back(self, given_, more):
        extra = PaperValues("extra", "w2", {"owner": "taxpayer", "employer": "X", "wages": "0", "federal_withheld": str(more)})
        before, after = (
            compute(PACK, ReturnData("us", given_.year, papers)) for papers in (given_.papers, (*given_.papers, extra))
        )
        balance = [r["us.1040.34"].amount - r["us.1040.37"].amount for r in (before, after)]
        self.assertEqual(balance[1] - balance[0], more)

    @given(given_=returns(), seed=some.integers(0, 10**6))
    @settings(max_examples=100, deadline=None)
    def test_the_order_of_papers_never_matters(self, given_, seed):
        shuffled = list(given_.papers)
        random.Random(seed).shuffle(shuffled)
        one, other = compute(PACK, given_), compute(PACK, given_.but(papers=tuple(shuffled)))
        self.assertEqual({c.address: c.value for c in one.lines()}, {c.address: c.value for c in other.lines()})
        self.assertEqual({f.code for f in one.findings}, {f.code for f in other.findings})

    @given(returns())
    @settings(max_examples=100, deadline=None)
    def test_the_operands_of_an_explanation_reproduce_the_value(self, given_):
        for cell in compute(PACK, given_).lines():
            self.check_explained(cell)

    def check_explained(self, cell):
        if cell.because is None:
            self.assertIsInstance(cell.computed, (Figure, Decimal), cell.address)
            self.assertTrue(
                hasattr(cell.computed, "cell") or hasattr(cell.computed, "source"), f"{cell.address} explains nothing"
            )
            return
        self.check_steps(cell.because, cell.computed, cell.address)

    def check_steps(self, because, outcome, address):
        self.assertEqual(because.redo(*(operand.value for operand in because.operands)), outcome, address)
        for operand in because.operands:
            if isinstance(operand.value, Explained):
                self.check_steps(operand.value.because, operand.value, address)

    hostile = some.one_of(
        some.text(max_size=40), some.sampled_from(["NaN", "-Infinity", "1e999", "-1", "0x10", "١٢", "9" * 400, "2025-13-45", "yes "]),
        some.integers(), some.none(), some.booleans(), some.lists(some.dictionaries(some.text(max_size=5), some.text(max_size=5)), max_size=2),
    )  # fmt: skip

    @given(some.data())
    @settings(max_examples=250, deadline=None)
    def test_hostile_values_give_a_figure_or_a_finding_and_never_an_error(self, draws):
        papers = []
        for paper in (PACK.people, *PACK.papers):
            names = list(paper.fields())
            values = {name: draws.draw(self.hostile) for name in draws.draw(some.lists(some.sampled_from(names), max_size=6))}
            papers.append(PaperValues(paper.kind, paper.kind, {"role": "taxpayer"} | values))
        found = compute(PACK, ReturnData("us", 2025, tuple(papers)))
        for cell in found.lines():
            if cell.is_amount:
                self.assertTrue(cell.value.is_finite(), cell.address)
        self.assertGreaterEqual(found["us.1040.24"].amount, 0)
        self.assertTrue(all(finding.says for finding in found.findings))


D = Decimal
