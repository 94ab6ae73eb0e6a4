"""Every diagnostic of an S corporation's return speaks when it should, and is silent once that is mended."""

from unittest import TestCase

from taxcore.engine import ReturnData, compute
from taxcore.engine.pack import _needed
from taxcore.packs.us.entity.tests.test_closing import CODES as CLOSED
from taxcore.packs.us.entity.tests.test_correcting import CODES as CORRECTED
from taxcore.packs.us.entity.tests.test_plausible import CODES as PLAUSIBLE
from taxcore.packs.us.partnership.tests import test_checks as of_partnerships
from taxcore.packs.us.partnership.tests.test_worked import LET, house
from taxcore.packs.us.s_corporation import PACK
from taxcore.packs.us.s_corporation.tests.making import SHOP, about, ada, ben, books, filer, holder, paper, result, rows, shop
from taxcore.packs.us.s_corporation.tests.test_worked import alone, plain
from taxcore.packs.us.states.il.entities.tests.test_checks import CODES as OF_ILLINOIS

OFFICER = paper("officer", "o1", called="Ada Heron", number="900-00-0109", time=100, stock=60, pay=10_000)
NO_PAY = ("Officer's pay", "officers", 0, 0)
LARGE = ("Sales", "sales", -700_000, 0)

# code; papers about which it speaks; the same mended
CASES = (
    ("us.shareholder.no-shares", (ada(), ben(stakes=[])), ()),
    ("us.shareholder.days", (ada(stakes=rows({"shares": "60"}, {"since": "2026-01-01", "shares": "60"})), ben()), ()),
    ("us.shareholder.too-many", tuple(holder(f"h{n}", f"Holder {n}", 1, number=f"900-01-{n:04}") for n in range(101)), ()),
    ("us.shareholder.barred", (ada(), ben(sort="partnership")), ()),
    ("us.shareholder.number-twice", (ada(), ben(number="900-00-0109")), ()),
    ("us.shareholder.shares-move", (ada(stakes=rows({"shares": "60"}, {"since": "2025-07-01", "shares": "70"})), ben()), ()),
    ("us.1120s.no-pay", (shop(NO_PAY), ada(officer="yes"), ben()), (ada(officer="yes"), ben())),
    ("us.1120s.disproportionate", (ada(distributed=20_000), ben(distributed=10_000)), ()),
    ("us.1120s.draws-differ", (ada(distributed=9_000), ben(distributed=6_000)), ()),
    ("us.1120s.officers-differ", (paper("officer", "o1", called="Ada Heron", number="900-00-0109", pay=9_000),), (OFFICER,)),
    ("us.1120s.officers-missing", (shop(LARGE),), (shop(LARGE), OFFICER)),
    ("us.1120s.guaranteed", (shop(("Guaranteed", "guaranteed", 0, 0)),), ()),
    ("us.m1.unreconciled", (shop(*LET), house(23_000, taxes=9_000)), (shop(*LET), house(24_000, taxes=9_000))),
    ("us.1120s.retained-differ", (about(adjustments_before=26_000),), ()),
    ("us.1120s.beyond-accounts", (plain(5_000), alone(distributed=20_000), about(adjustments_before=10_000)), ()),
    ("us.1120s.dividends", (plain(5_000), alone(distributed=20_000), about(adjustments_before=10_000, earnings_before=3_000)), ()),
    ("us.1120s.built-in", (about(was_other="yes"),), ()),
    ("us.1120s.passive-receipts", (
        shop(("Rents of Slipway", "rental_income", -240_000, 0)), house(240_000),
        about(earnings_before=5)), (about(earnings_before=5), )),
    ("us.1120s.debt", (about(debt_cancelled="yes"),), ()),
    ("us.1120s.subsidiary", (about(subsidiary="yes"),), ()),
    ("us.1120s.k-2", (about(foreign_items="yes"),), ()),
    ("us.1120s.method", (about(method="other"),), ()),
    ("us.1120s.state-return", (about(state="WI"),), ()),
    ("us.1120s.late", (about(filed_in_time="no"),), ()),
    ("us.1120s.elected-later", (about(elected="2026-01-01"),), ()),
)  # fmt: skip


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for code, spoken, silent in CASES:
            with self.subTest(code):
                said = [one for one in result(*spoken).findings if one.code == code]
                self.assertNotEqual(said, [])
                self.assertTrue(all(len(one.says) > 25 for one in said))
                self.assertNotIn(code, [one.code for one in result(*silent).findings])

    def test_without_shareholders(self):
        bare = compute(PACK, ReturnData("us-1120s", 2025, (filer(), about(), books(*SHOP))))
        self.assertIn("us.shareholder.none", [one.code for one in bare.findings])

    def test_the_forms_of_planning_years_are_not_filed(self):
        self.assertIn("us.1120s.planning-year", [one.code for one in result(year=2026).findings])

    def test_every_one_has_a_case(self):
        of_fields = {one.code for one in PACK.diagnostics.values() if one.code.endswith("-missing") and one.code not in _own()}
        engine = {
            one.code for one in (PACK.unknown_paper, PACK.bad_value, PACK.unsettled, PACK.unconfirmed, PACK.unconfirmed_stops)
        }
        known = (
            {code for code, *_ in (*CASES, *of_partnerships.CASES)}
            | {"us.shareholder.none", "us.1120s.planning-year"}
            | OF_ILLINOIS
            | PLAUSIBLE
            | CORRECTED
            | CLOSED
        )
        self.assertEqual(set(PACK.diagnostics) - of_fields - engine - known - _declared_by_fields(), set())

    def test_the_shop_files_as_it_is(self):
        self.assertEqual([one.code for one in result().findings if one.weight == "stops"], [])


def _own():
    return {code for code, *_ in CASES}


def _declared_by_fields():
    return {one.code for declared in (PACK.people, *PACK.papers) for one in _needed(declared)}
