"""Due dates that weekends and legal holidays move: the days are those that the law gave, looked up in no program."""

from datetime import date
from unittest import TestCase

from taxcore.packs.us import PACK, extensions


class DueDateTests(TestCase):
    CASES = [  # why, authority, year of the return, home, due
        ("Saturday, Sunday, Emancipation Day kept on Monday", "us", 2022, "IL", date(2023, 4, 18)),
        ("Emancipation Day is the day after", "us", 2023, "IL", date(2024, 4, 15)),
        ("Patriots' Day falls on the 15th, Emancipation Day on the 16th", "us", 2023, "MA", date(2024, 4, 17)),
        ("the same in Maine", "us", 2023, "ME", date(2024, 4, 17)),
        ("an ordinary Tuesday", "us", 2024, "MA", date(2025, 4, 15)),
        ("states follow the federal day", "us-il", 2022, "IL", date(2023, 4, 18)),
        ("Virginia's first of May, a Monday", "us-va", 2022, "VA", date(2023, 5, 1)),
        ("Iowa's last of April, a Sunday", "us-ia", 2022, "IA", date(2023, 5, 1)),
    ]

    def test_each_day(self):
        for why, code, year, home, due in self.CASES:
            with self.subTest(why):
                self.assertEqual(PACK.authority(code).due_on(year, home), due)

    def test_the_later_date_moves_too(self):
        later = extensions.until(PACK.authority("us"), extensions.rules()["us"], 2022)
        self.assertEqual(later, date(2023, 10, 16))  # the 15th was a Sunday
