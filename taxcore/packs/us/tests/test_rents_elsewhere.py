"""Rents of a house in another state: that state's from everybody, the home state's of who lives there, with its credit."""

from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us import places
from taxcore.packs.us.property.tests.test_worked import agree, house, result, wage
from taxcore.packs.us.tests.returns import codes, filing, w2

LET = {"rents": 20_000, "taxes": 8_000, "insurance": 500, "mortgage_interest": 0}


def there(state, **values):
    return house(**{**LET, "insurance": 0, "state": state, "rented_days": "365", **values})


def here(found, state):
    return found.run.form(f"us-{state.lower()}.income-here")


# They go all the way in ops/filing; their state figures are below
CASES = (
    ("a house in Wisconsin of somebody from Texas", (there("WI"), wage(60_000)), 2025, {"us.sch-e.26": 12_000}),
    ("of somebody from Illinois", (filing(), there("WI"), w2(60_000, 6_000, state_withheld=2_000)), 2025, {"us.sch-e.26": 12_000}),
    ("a loss of a house in Iowa", (filing(), there("IA", taxes=23_000), w2(60_000, 6_000, state_withheld=2_000)), 2025, {"us.sch-e.26": -3_000}),
)  # fmt: skip


def moved(*papers):
    """Somebody who lived in Illinois until the end of June, 181 days, and then in Texas."""
    stays = [{"id": "1", "person": "taxpayer", "state": "IL", "last": "2025-06-30"},
             {"id": "2", "person": "taxpayer", "state": "TX", "first": "2025-07-01"}]  # fmt: skip
    return result(filing(residence="", state="TX"), PaperValues("residency", "residency", {"rows": stays}), *papers)


class RentsElsewhereTests(TestCase):
    def test_the_federal_amounts(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_the_state_where_it_lies_taxes_the_net_rents_of_somebody_from_elsewhere(self):
        found = result(there("WI"), wage(60_000))
        self.assertEqual([(one.state, one.kind) for one in places.wanted(found.run)], [("WI", places.NONE)])
        self.assertEqual((here(found, "WI").entities, here(found, "WI").agi), (12_000, 12_000))
        self.assertNotIn("us.rental.elsewhere", codes(found))

    def test_at_home_they_count_too_and_the_other_states_tax_is_credited(self):
        """Illinois: 72,000 less 2,850, at 4.95%: 3,423; of it 12,000 of 72,000 at most."""
        found = result(filing(), there("WI"), w2(60_000, 6_000, state_withheld=2_000))
        (elsewhere,) = places.taxed_elsewhere(found.run, "IL")
        self.assertEqual((elsewhere.state, elsewhere.income), ("WI", 12_000))
        credit = found.run.form("us-il.sch-cr").credit
        self.assertEqual(credit, min(elsewhere.tax, round(3_423 * 12_000 / 72_000)))
        self.assertGreater(credit, 0)

    def test_a_loss_is_the_other_states_too(self):
        found = result(there("WI", taxes=23_000), wage(60_000))
        self.assertEqual(here(found, "WI").entities, -3_000)

    def test_a_mover_has_those_of_the_old_state_all_year_there_and_by_days_at_home(self):
        """In Illinois until the end of June (181 days), then in Texas: the house in Wisconsin is Wisconsin's, 181/365 Illinois'."""
        found = moved(there("WI"))
        self.assertEqual(here(found, "WI").entities, 12_000)
        self.assertEqual(here(found, "IL").entities, round(12_000 * 181 / 365))
        self.assertEqual(round(here(found, "IL").counted_of("WI")), round(12_000 * 181 / 365))

    def test_a_house_where_one_moved_from_stays_that_states(self):
        found = moved(there("IL"))
        self.assertEqual(here(found, "IL").entities, 12_000)

    def test_losses_that_wait_stop_where_income_is_divided(self):
        found = result(there("WI", taxes=60_000), wage(300_000))
        self.assertIn("us.rental.elsewhere", codes(found))
        self.assertNotIn(
            "us.rental.elsewhere", codes(result(filing(), house(**{**LET, "taxes": 60_000, "state": "IL"}), w2(300_000)))
        )

    def test_a_state_that_is_not_made_stops_by_its_name(self):
        self.assertIn("us.unsupported.state", codes(result(there("OH"), wage(60_000))))
