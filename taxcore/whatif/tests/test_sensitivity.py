"""Which fields move a figure most, against differences worked out by hand."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data, filing, interest, person, w2
from taxcore.whatif.sensitivity import movers
from taxcore.whatif.trials import Trials


class MoverTests(TestCase):
    def setUp(self):
        self.data = data(person(), filing(), w2(120000, 20000), interest(500))
        self.result = compute(PACK, self.data)

    def found(self, address):
        return {mover.address.rpartition(".")[2]: mover.per_unit for mover in movers(self.result, address, Trials(PACK))}

    def test_a_hundred_more_of_wages_is_taxed_in_its_band(self):
        self.assertEqual(self.found("us.1040.16")["1"], Decimal("0.24"))  # 24% above 103,350 of taxable income

    def test_withholding_moves_the_refund_one_to_one_and_not_the_tax(self):
        bottom = self.result.bottom_lines[0].address
        self.assertEqual(abs(self.found(bottom)["2"]), 1)
        self.assertNotIn("2", self.found("us.1040.16"))

    def test_the_strongest_comes_first_and_rows_of_tables_are_tried_too(self):
        with_state = data(person(), filing(), w2(120000, 20000, state_withheld="5000"), interest(500))
        result = compute(PACK, with_state)
        state = next(line for line in result.bottom_lines if line.authority.code == "us-il")
        found = movers(result, state.address, Trials(PACK))
        self.assertEqual((found[0].label, abs(found[0].per_unit)), ("Tax withheld", 1))
        self.assertEqual(sorted((abs(one.per_unit) for one in found), reverse=True), [abs(one.per_unit) for one in found])

    def test_what_is_no_amount_is_refused(self):
        with self.assertRaises(ValueError):
            movers(self.result, "us.1040.999", Trials(PACK))
