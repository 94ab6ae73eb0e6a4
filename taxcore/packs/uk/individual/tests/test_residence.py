"""Private residence relief by hand, and that it is a part of the whole."""

import random
from datetime import date, timedelta
from unittest import TestCase

from taxcore.packs.uk.individual.residence import Period, relieved_days

D = date.fromisoformat


class DayTests(TestCase):
    def test_one_period(self):
        for catches, bought, sold, begun, ended, wanted in (
            ("lived in throughout", "2015-01-01", "2025-01-01", "2015-01-01", "2024-12-31", 3653),
            ("five years, and the last nine months: 1,826 and 275", "2015-01-01", "2025-01-01", "2015-01-01", "2019-12-31", 2101),
            ("left within the last nine months", "2015-01-01", "2025-01-01", "2015-01-01", "2024-09-30", 3653),
            ("moved in later", "2015-01-01", "2025-01-01", "2020-01-01", "2024-12-31", 1827),
            ("never lived in while it was owned", "2015-01-01", "2025-01-01", "2026-01-01", "2026-12-31", 0),
            ("nothing before 31 March 1982", "1972-03-31", "2022-03-31", "1972-03-31", "1992-03-30", 3653 + 274),
        ):
            with self.subTest(catches):
                self.assertEqual(relieved_days(D(bought), D(sold), [Period("lived", D(begun), D(ended))]), wanted)

    def test_a_part_of_the_whole_that_grows_with_each_day(self):
        for number in range(150):
            chance = random.Random(f"home {number}")
            bought = date(1975, 1, 1) + timedelta(days=chance.randrange(15_000))
            sold = bought + timedelta(days=chance.randrange(1, 9_000))
            periods = []
            for why in ("lived", chance.choice(("any", "abroad", "elsewhere", "lived")), "lived"):
                begun = bought + timedelta(days=chance.randrange(-500, 9_000))
                periods.append(Period(why, begun, begun + timedelta(days=chance.randrange(4_000))))
            days = relieved_days(bought, sold, periods)
            self.assertTrue(0 <= days <= (sold - bought).days)
            first = periods[0]
            longer = [Period(first.why, first.begun, first.ended + timedelta(days=30)), *periods[1:]]
            if not any(one.why != "lived" for one in periods):  # an absence may no longer begin after it
                self.assertGreaterEqual(relieved_days(bought, sold, longer), days)
