"""The map of squares: every state once, filled by income."""

from collections import Counter
from decimal import Decimal
from unittest import TestCase

from practice.us.state_tiles import SIDE, tiles
from taxcore.packs.us.base import STATES


class TilemapTests(TestCase):
    def test_every_state_has_one_square_and_no_two_lie_on_each_other(self):
        found = tiles({}, set())
        self.assertEqual(Counter(tile.state for tile in found), Counter(list(STATES)))
        self.assertEqual(len({(tile.x, tile.y) for tile in found}), len(STATES))

    def test_squares_are_filled_in_proportion_and_a_little_is_seen(self):
        totals = {"IL": (Decimal(100_000), Decimal(0)), "MO": (Decimal(50_000), Decimal(9)), "GA": (Decimal(1), Decimal(0))}
        found = {tile.state: tile for tile in tiles(totals, {"IL"})}
        self.assertEqual([found[state].filled for state in ("IL", "MO", "GA", "TX")], [SIDE, SIDE // 2, 2, 0])
        self.assertTrue(found["IL"].is_home and found["TX"].is_untaxed)
        self.assertEqual(found["MO"].says, "Missouri: 50,000 of income, 9 withheld")

    def test_losses_fill_nothing(self):
        found = {tile.state: tile for tile in tiles({"IL": (Decimal(-5), Decimal(0))}, set())}
        self.assertEqual(found["IL"].filled, 0)
