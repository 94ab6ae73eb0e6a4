"""Private residence relief by hand, and that it is a part of the whole."""

import random
from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from taxcore.packs.uk.individual.residence import relieved_part
from taxcore.packs.uk.individual.tests.test_worked import pay, result, sold

D = date.fromisoformat


class PartTests(TestCase):
    def test_by_hand(self):
        for catches, days, wanted in (
            ("lived in throughout", ("2015-01-01", "2025-01-01", "2015-01-01", "2024-12-31"), Decimal(1)),
            ("five years, and the last nine months: 1,826 and 275 of 3,653", ("2015-01-01", "2025-01-01", "2015-01-01", "2019-12-31"),
             Decimal(2101) / 3653),
            ("left within the last nine months: they are not counted twice", ("2015-01-01", "2025-01-01", "2015-01-01", "2024-09-30"), Decimal(1)),
            ("moved in later", ("2015-01-01", "2025-01-01", "2020-01-01", "2024-12-31"), Decimal(1827) / 3653),
            ("never lived in", ("2015-01-01", "2025-01-01", "2026-01-01", "2026-12-31"), Decimal(0)),
            ("nothing before 31 March 1982", ("1972-03-31", "2022-03-31", "1972-03-31", "1992-03-30"), Decimal(3653 + 274) / 14610),
        ):  # fmt: skip
            with self.subTest(catches):
                self.assertEqual(relieved_part(*map(D, days)), wanted)

    def test_a_part_of_the_whole(self):
        for number in range(300):
            chance = random.Random(f"home {number}")
            bought = date(1975, 1, 1) + timedelta(days=chance.randrange(15_000))
            sold_on = bought + timedelta(days=chance.randrange(1, 9_000))
            first = bought + timedelta(days=chance.randrange(-500, 9_000))
            last = first + timedelta(days=chance.randrange(4_000))
            part = relieved_part(bought, sold_on, first, last)
            self.assertTrue(0 <= part <= 1)
            self.assertGreaterEqual(relieved_part(bought, sold_on, first, last + timedelta(days=30)), part)


class ReturnTests(TestCase):
    def test_on_the_return(self):
        """A gain of 365,300, of which 2,101 of 3,653 days: 155,200 less 3,000 exempt, 24%."""
        home = {"day": "2025-06-01", "home": "yes", "proceeds": "365300", "costs": "0"}
        lived = {"bought": "2015-06-02", "lived_from": "2015-06-02", "lived_until": "2020-05-31"}
        found = result(pay(60_000), sold(home | lived))
        days, owned = (
            (D("2020-06-01") - D("2015-06-02")).days + (D("2025-06-01") - D("2024-09-01")).days,
            (D("2025-06-01") - D("2015-06-02")).days,
        )
        relief = -(-365_300 * days // owned)
        self.assertEqual(found.run.form("uk.sa108").gains, 365_300 - relief)
        self.assertNotIn("uk.lived-in", {one.code for one in found.findings})
        self.assertIn("uk.lived-in", {one.code for one in result(pay(60_000), sold(home)).findings})
        wrong = result(pay(60_000), sold(home | lived | {"lived_until": ""}))
        self.assertIn("uk.residence-days", {one.code for one in wrong.findings})
