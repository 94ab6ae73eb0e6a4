"""Every diagnostic of a corporation's return speaks when it should, and is silent once that is mended."""

from unittest import TestCase

from taxcore.engine.pack import _needed
from taxcore.packs.us.corporation import PACK
from taxcore.packs.us.corporation.tests.making import about, asset, carried, dividends, paper, result, shop
from taxcore.packs.us.corporation.tests.test_amended import CODES as AMENDED
from taxcore.packs.us.corporation.tests.test_carried_back import CODES as BACK
from taxcore.packs.us.corporation.tests.test_worked import estimated, profit
from taxcore.packs.us.entity.tests.test_plausible import CODES as PLAUSIBLE
from taxcore.packs.us.partnership.tests import test_checks as of_partnerships
from taxcore.packs.us.states.il.entities.tests.test_checks import CODES as OF_ILLINOIS

OFFICER = paper("officer", "o1", called="Ada Heron", number="900-00-0109", time=100, stock=60, pay=10_000)
LARGE = ("Sales", "sales", -700_000, 0)
PAID = ("Dividends", "dividends", -10_000, 0)
WHARF = dividends(("Wharf Co", "10", 10_000))

# code; papers about which it speaks; the same mended
CASES = (
    ("us.1120.dividends-missing", (profit(50_000, PAID),), (profit(50_000, PAID), WHARF)),
    ("us.1120.dividends-differ", (profit(50_000, PAID), dividends(("Wharf Co", "10", 9_000))), (profit(50_000, PAID), WHARF)),
    ("us.1120.affiliated", (profit(50_000, PAID), dividends(("Wharf Co", "80", 10_000))), (profit(50_000, PAID), WHARF)),
    ("us.1120.dividends-limited", (profit(-4_000, PAID), WHARF), (profit(50_000, PAID), WHARF)),
    ("us.1120.gifts-wait", (profit(50_000, ("Donations", "contributions", 9_000, 0)),), ()),
    ("us.1120.loss-waits", (profit(-20_000),), ()),
    ("us.1120.capital-loss", (profit(50_000, ("Shares sold", "short_gain", 8_000, 0)),), ()),
    ("us.1120.later-year", (carried(gifts=[(2025, 5)]),), (carried(gifts=[(2024, 5)]),)),
    ("us.1120.ended", (carried(gifts=[(2019, 5)]),), (carried(gifts=[(2020, 5)]),)),
    ("us.1120.estimates", (profit(50_000),), (profit(50_000), about(estimates=10_500))),
    ("us.1120.estimates", (profit(50_000),), (profit(50_000), estimated(prior_tax=0))),
    ("us.1120.estimates", (about(estimates=8_000), estimated(prior_tax=0)), (about(estimates=8_000), estimated(("2025-04-15", 8_000), prior_tax=0))),
    ("us.1120.estimates-twice", (about(estimates=900), estimated(("2025-04-15", 950), prior_tax=0)), (about(estimates=950), estimated(("2025-04-15", 950)))),
    ("us.1120.penalty", (estimated(prior_tax=8_000),), (estimated(prior_tax=8_000), about(penalty=384))),
    ("us.1120.officers-differ", (paper("officer", "o1", called="Ada Heron", number="900-00-0109", pay=9_000),), (OFFICER,)),
    ("us.1120.officers-missing", (shop(LARGE),), (shop(LARGE), OFFICER)),
    ("us.1120.guaranteed", (shop(("Guaranteed", "guaranteed", 0, 0)),), ()),
    ("us.1120.retained-differ", (shop(("Retained earnings", "retained", -28_000, -27_000)),), ()),
    ("us.1120.consolidated", (about(consolidated="yes"),), ()),
    ("us.1120.holding", (about(holding="yes"),), ()),
    ("us.1120.closely-held", (about(closely_held="yes"),), ()),
    ("us.1120.personal-service", (about(personal_service="yes"),), ()),
    ("us.1120.foreign-owner", (about(foreign_owner="yes"),), ()),
    ("us.1120.method", (about(method="other"),), ()),
    ("us.1120.section-291", (asset(90_000, "nonresidential", in_service="2015-05-10", sold="2025-06-01", sold_for=95_000),), (asset(90_000),)),
    ("us.1120.foreign-tax", (shop(("Tax abroad", "foreign_tax", 500, 0)),), ()),
    ("us.1120.state-return", (about(state="WI"),), (about(state="NV"),)),
)  # fmt: skip


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for code, spoken, silent in CASES:
            with self.subTest(code):
                said = [one for one in result(*spoken).findings if one.code == code]
                self.assertNotEqual(said, [])
                self.assertTrue(all(len(one.says) > 25 for one in said))
                self.assertNotIn(code, [one.code for one in result(*silent).findings])

    def test_the_forms_of_planning_years_are_not_filed(self):
        self.assertIn("us.1120.planning-year", [one.code for one in result(year=2026).findings])

    def test_every_one_has_a_case(self):
        of_fields = {one.code for declared in (PACK.people, *PACK.papers) for one in _needed(declared)}
        engine = {
            one.code for one in (PACK.unknown_paper, PACK.bad_value, PACK.unsettled, PACK.unconfirmed, PACK.unconfirmed_stops)
        }
        known = (
            {code for code, *_ in (*CASES, *of_partnerships.CASES)}
            | {"us.1120.planning-year"}
            | OF_ILLINOIS
            | PLAUSIBLE
            | AMENDED
            | BACK
        )
        self.assertEqual(set(PACK.diagnostics) - of_fields - engine - known, set())

    def test_the_shop_files_as_it_is(self):
        self.assertEqual([one.code for one in result().findings if one.weight == "stops"], [])
