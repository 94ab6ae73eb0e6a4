"""Every diagnostic of a partnership's return speaks when it should, and is silent once that is mended."""

from dataclasses import replace
from unittest import TestCase

from taxcore.engine.pack import _needed
from taxcore.packs.us.entity.tests.test_closing import CODES as CLOSED
from taxcore.packs.us.entity.tests.test_correcting import CODES as CORRECTED
from taxcore.packs.us.entity.tests.test_plausible import CODES as PLAUSIBLE
from taxcore.packs.us.entity.tests.test_received import DIAGNOSTICS as RECEIVED
from taxcore.packs.us.entity.tests.test_withholding import DIAGNOSTICS as IN_STATES
from taxcore.packs.us.partnership import PACK
from taxcore.packs.us.partnership.tests.making import (
    SHOP,
    about,
    ada,
    asset,
    ben,
    books,
    entry,
    paper,
    partner,
    result,
    rows,
    shop,
)
from taxcore.packs.us.partnership.tests.test_adjusted import DIAGNOSTICS as ADJUSTED
from taxcore.packs.us.partnership.tests.test_built_in import CODES as BUILT_IN
from taxcore.packs.us.partnership.tests.test_worked import LET, allocation, house, plain
from taxcore.packs.us.states.il.entities.tests.test_checks import CODES as OF_ILLINOIS

MADE = {"initial": "no", "final": "no"}


def with_agreement(made):
    return replace(made, attached=1)


def account(row):
    """The shop's books with one more account, as it is written in a file."""
    given = books(*SHOP)
    return paper("books", rows=[*given.values["rows"], {"id": "99"} | row])


# code; papers about which it speaks; the same mended
CASES = (
    ("us.books.unbalanced", (account({"account": "Petty", "tax_line": "cash", "debit": "5"}),), ()),
    ("us.books.beginning-unbalanced", (account({"account": "Petty", "tax_line": "cash", "before": "5"}),), ()),
    ("us.books.account-twice", (account({"account": "checking", "tax_line": "cash"}),), ()),
    ("us.books.suggested", (account({"account": "Office rent"}),), (account({"account": "Office rent", "tax_line": "rent"}),)),
    ("us.books.negative-asset", (shop(("Parts on hand", "inventory", -6_000, 5_000)),), ()),
    ("us.books.result-carried", (account({"account": "Tools", "tax_line": "repairs", "before": "5"}),), ()),
    ("us.entry.unbalanced", (entry("adjusting", ("Wages", 5), ("Suppliers", -4)),), (entry("adjusting", ("Wages", 5), ("Suppliers", -5)),)),
    ("us.entry.account", (entry("adjusting", ("Wage", 5), ("Suppliers", -5)),), (entry("adjusting", ("Wages", 5), ("Suppliers", -5)),)),
    ("us.entry.tax-on-balance", (entry("tax", ("Checking", 5), ("Suppliers", -5)),), (entry("tax", ("Wages", 5), ("Suppliers", -5)),)),
    ("us.partner.none", None, ()),
    ("us.partner.one", (ada(100),), ()),
    ("us.partner.not-hundred", (ada(61), ben()), ()),
    ("us.partner.stake-days", (ada(stakes=rows({"profit": "60"}, {"since": "2026-01-01", "profit": "60"})), ben()), ()),
    ("us.partner.number-twice", (ada(), ben(number="900-00-0109")), (ada(), ben())),
    ("us.partner.no-stake", (ada(100), ben(stakes=[])), ()),
    ("us.partner.limited-active", (ada(), ben(general="no", active="yes"), about(entity_kind="limited")), (ada(), ben(general="no"), about(entity_kind="limited"))),
    ("us.partner.general-passive", (ada(), ben(active="no")), ()),
    ("us.allocation.not-hundred", (ada(), ben(), allocation("5", ada="0", ben="99")), (ada(), ben(), allocation("5", ada="0", ben="100"))),
    ("us.allocation.twice", (ada(), ben(), allocation("5", ben="100"), replace(allocation("5", ben="100"), id="s2")), (ada(), ben(), allocation("5", ben="100"))),
    ("us.allocation.effect", (ada(), ben(), allocation("5", ben="100")), (ada(), ben(), with_agreement(allocation("5", ben="100")))),
    ("us.capital.not-tied", (ada(capital_before=21_000), ben()), ()),
    ("us.m1.unreconciled", (shop(*LET), house(23_000, taxes=9_000)), (shop(*LET), house(24_000, taxes=9_000))),
    ("us.capital.negative", (ada(distributed=70_000), ben()), ()),
    ("us.draws.differ", (ada(distributed=19_000), ben()), ()),
    ("us.guaranteed.differ", (ada(services=9_000), ben()), ()),
    ("us.contributed.differ", (shop(("Capital of the year", "contributed", -5_000, 0)),), (shop(("Capital of the year", "contributed", -5_000, 0)), ada(contributed=5_000), ben())),
    ("us.8825.differ", (shop(*LET), house(23_000, taxes=9_000)), (shop(*LET), house(24_000, taxes=9_000))),
    ("us.8825.costs-differ", (shop(*LET), house(24_000, taxes=8_000)), (shop(*LET), house(24_000, taxes=9_000))),
    ("us.8825.none", (shop(*LET),), (shop(*LET), house(24_000, taxes=9_000))),
    ("us.1065.k-2", (about(foreign_items="yes"),), ()),
    ("us.1065.debt", (about(debt_cancelled="yes"),), ()),
    *ADJUSTED,
    *RECEIVED,
    *IN_STATES,
    ("us.1065.foreign", (about(entity_kind="foreign"),), ()),
    ("us.entity.fiscal-year", (about(fiscal="yes"),), ()),
    ("us.1065.method", (about(method="other"),), ()),
    ("us.1065.state-return", (about(state="WI"),), ()),
    ("us.1065.built-in", (ada(contributed_property=9, built_in="yes"), ben()), (ada(contributed_property=9, built_in="no"), ben())),
    ("us.1065.distributed-property", (ada(distributed_property=9, distributed_as="hot"), ben()), (ada(distributed_property=9, distributed_as="plain"), ben())),
    ("us.1065.property-basis", (ada(distributed_property=9, distributed_as="plain"), ben()), ()),
    ("us.1065.late-shares", (about(filed_in_time="no"),), ()),
    ("us.1065.partners-cannot-elect", (ada(), ben(sort="trust", number="00-7654321")), (ada(), ben(sort="trust", number="00-7654321"), about(elects_out="no", representative="Ada"))),
    ("us.1065.half-owner", (about(owned_half="no"),), ()),
    ("us.1065.small", (), (about(filed_in_time="no"),)),
    ("us.1065.loss-limits", (plain(-90_000), ada(services=0), ben()), ()),
    ("us.asset.entity-fallen", (asset(9_000, sort="car", fell_in=2025, share_before=90, business_share=40),), (asset(9_000, sort="car"),)),
    ("us.asset.entity-books", (), (asset(9_000),)),
)  # fmt: skip


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for code, spoken, silent in CASES:
            with self.subTest(code):
                found = result(paper("rental", "x", address_line="-")) if spoken is None else result(*spoken)
                if spoken is None:
                    found = _nobody()
                said = [one for one in found.findings if one.code == code]
                self.assertNotEqual(said, [])
                self.assertTrue(all(len(one.says) > 25 for one in said))
                self.assertNotIn(code, [one.code for one in result(*silent).findings])

    def test_the_forms_of_planning_years_are_not_filed(self):
        self.assertIn("us.1065.planning-year", [one.code for one in result(year=2026).findings])
        self.assertNotIn("us.1065.planning-year", [one.code for one in result().findings])

    def test_every_one_has_a_case(self):
        elsewhere = {"us.1065.planning-year"} | OF_ILLINOIS | PLAUSIBLE | CORRECTED | CLOSED | BUILT_IN
        of_fields = {one.code for paper in (PACK.people, *PACK.papers) for one in _needed(paper)}
        engine = {
            one.code for one in (PACK.unknown_paper, PACK.bad_value, PACK.unsettled, PACK.unconfirmed, PACK.unconfirmed_stops)
        }
        own = set(PACK.diagnostics) - of_fields - engine
        self.assertEqual(own - elsewhere - {code for code, *_ in CASES}, set())

    def test_the_shop_files_as_it_is(self):
        self.assertEqual([one.code for one in result().findings if one.weight == "stops"], [])


def _nobody():
    from taxcore.engine import ReturnData, compute
    from taxcore.packs.us.partnership.tests.making import filer

    return compute(PACK, ReturnData("us-1065", 2025, (filer(), about(), books(*SHOP))))


__all__ = ["MADE", "partner"]
