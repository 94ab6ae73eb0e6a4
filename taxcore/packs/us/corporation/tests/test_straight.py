"""A corporation's tax a second time, as a straight line from amounts to tax, against random corporations. IRC 11, 170, 172, 243, 246."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from taxcore.packs.us.corporation.tests.making import carried, dividends, result
from taxcore.packs.us.corporation.tests.test_worked import profit
from taxcore.packs.us.tests.explaining import assert_explained
from taxcore.packs.us.tests.sampling import examples

D = Decimal


def straight(earned, small, large, gifts, gifts_before, old_loss, later_loss):
    """(contributions, losses, special deduction, taxable income, tax) in whole dollars, by repeating until gifts hold still."""
    before, taken = D(earned + small + large), D(0)
    given = D(0)
    for _ in range(60):
        income = before - given
        full = _whole(small * D("0.5")) + _whole(large * D("0.65"))
        if full > income:
            special = full
        else:
            first = min(_whole(large * D("0.65")), income * D("0.65"))
            special = _whole(first + min(_whole(small * D("0.5")), max(income - large, D(0)) * D("0.5")))
        room = max(income - special, D(0))
        old = min(D(old_loss), room)
        taken = _whole(old + min(D(later_loss), (room - old) * D("0.8")))
        again = min(D(gifts + gifts_before), _whole(max(before - taken, D(0)) * D("0.1")))
        if again == given:
            break
        given = again
    taxable = before - given - special - taken
    return given, taken, special, taxable, _whole(max(taxable, D(0)) * D("0.21"))


def _whole(amount):
    return D(int(amount + D("0.5"))) if amount >= 0 else -D(int(-amount + D("0.5")))


AMOUNT = st.integers(0, 60_000)


class StraightTests(TestCase):
    @settings(max_examples=examples(150), deadline=None)
    @given(st.integers(-60_000, 99_000), AMOUNT, AMOUNT, st.integers(0, 20_000), st.integers(0, 5_000), AMOUNT, AMOUNT)
    def test_a_computation_written_apart_agrees(self, earned, small, large, gifts, gifts_before, old_loss, later_loss):
        accounts = [("Dividends", "dividends", -(small + large), 0), ("Donations", "contributions", gifts, 0)]
        papers = (
            profit(earned, *(one for one in accounts if one[2])),
            dividends(("Pier Co", "5", small), ("Wharf Co", "30", large)),
            carried(losses=[(2016, old_loss), (2022, later_loss)], gifts=[(2023, gifts_before)]),
        )
        found = result(*papers).run
        page = found.form("us.1120")
        wanted = straight(earned, small, large, gifts, gifts_before, old_loss, later_loss)
        ours = (page.contributions, page.operating_loss, page.special, page.taxable_income, page.tax)
        for one, other in zip(ours, wanted, strict=True):
            self.assertLessEqual(abs(one - other), 1, (ours, wanted))

    @settings(max_examples=examples(25), deadline=None)
    @given(st.integers(-60_000, 99_000), AMOUNT, AMOUNT, st.integers(0, 20_000), AMOUNT)
    def test_every_figure_follows_from_its_operands(self, earned, small, large, gifts, loss):
        papers = (
            profit(earned, ("Donations", "contributions", gifts, 0)),
            dividends(("Pier Co", "5", small), ("Wharf Co", "30", large)),
        )
        for form in result(*papers, carried(losses=[(2022, loss)])).forms:
            for cell in form.cells.values():
                assert_explained(self, cell)
