"""Shares of partnerships that an entity owns, by hand: on every line of its return where a box belongs. IRC 702(b).

The shop's own figures stand in each kind's worked cases; what is told here is what the share adds to them.
"""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.corporation.tests import making as c
from taxcore.packs.us.partnership.issuing import issues
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.partnership.tests.test_adjusted import GOODWILL, YES
from taxcore.packs.us.s_corporation.tests import making as s

BOXES = {
    "ordinary": 10_000, "guaranteed": 1_000, "rental": 700, "interest": 300, "dividends": 50, "qualified_dividends": 40,
    "royalties": 25, "short_gain": 60, "long_gain": 400, "collectibles": 5, "unrecaptured": 30, "section_1231": 90,
    "cash_gifts": 20, "investment_interest": 12, "portfolio_deductions": 8, "minimum_tax": 3, "exempt_interest": 15,
    "nondeductible": 6, "foreign_tax": 4, "qualified_income": 9_800, "qualified_wages": 4_000, "property_basis": 7_000,
}  # fmt: skip
# 11,000 + 700 + 300 + 50 + 25 + 60 + 400 + 90 - 20 - 12 - 8 - 4
NET = 12_581
PASSED_ON = {
    "ordinary": 11_000, "rental": 700, "interest": 300, "dividends": 50, "qualified_dividends": 40, "royalties": 25,
    "short_gain": 60, "long_gain": 400, "collectibles": 5, "unrecaptured": 30, "section_1231": 90, "contributions": 20,
    "investment_interest": 12, "portfolio_costs": 8, "minimum_tax": 3, "exempt_interest": 15, "nondeductible": 6, "foreign_tax": 4,
    "qualified_income": 9_800, "wages_paid": 4_000, "property_basis": 7_000, "net": NET,
}  # fmt: skip
# Of a corporation's page 1; 700 of rents with the 11,000 of businesses, gains of 460 and 90, 12 + 8 + 4 deducted where they belong
TAXED = {
    "other_income": 11_700, "interest_income": 300, "dividends": 50, "royalties": 25, "capital_gain": 550, "taxes": 4,
    "interest": 12, "others": 8, "given": 20, "income": 12_625,
}  # fmt: skip


def share(key="k1", **boxes):
    given = {"entity": "Pelican Partners", "entity_number": "00-7654321"}
    return p.paper("k1-1065", key, **given | boxes)


def added(result, form, names, *papers):
    """What papers add to lines of a form."""
    before, after = (result(*given).run.form(form) for given in ((), papers))
    return {name: getattr(after, name) - getattr(before, name) for name in names}


class PassedOnTests(TestCase):
    def test_of_a_partnership_and_an_s_corporation(self):
        for result in (p.result, s.result):
            with self.subTest(result.__module__):
                self.assertEqual(added(result, "us.sch-k", PASSED_ON, share(**BOXES)), PASSED_ON)

    def test_page_1_and_form_8825_say_it_on_their_own_lines(self):
        run = p.result(share(**BOXES)).run
        self.assertEqual((run.form("us.1065").from_entities, run.form("us.8825").of_shares), (11_000, 700))
        self.assertTrue(run.form("us.8825").required())
        self.assertFalse(p.result(share(ordinary=5)).run.form("us.8825").required())

    def test_owners_have_their_parts_of_it(self):
        shares = p.result(share(**BOXES)).run.every("us.sch-k-1")
        self.assertEqual([one.ordinary for one in shares], [45_600, 30_400])  # of 65,000 and 11,000
        self.assertEqual([one.self_employment for one in shares], [55_600, 30_400])
        self.assertEqual([one.qualified_income for one in shares], [44_880, 29_920])  # of 65,000 and 9,800

    def test_two_shares(self):
        both = (share(**BOXES), share("k2", entity_number="00-7654322", ordinary=-1_000, covered="yes", adjusted_business=-50))
        self.assertEqual(added(p.result, "us.sch-k", ("ordinary", "net"), *both), {"ordinary": 9_950, "net": NET - 1_050})


class TaxedTests(TestCase):
    def test_of_a_corporation(self):
        self.assertEqual(added(c.result, "us.1120", TAXED, share(**BOXES)), TAXED)

    def test_a_loss_of_section_1231_is_ordinary(self):
        lost = share(section_1231=-500, covered="yes")
        self.assertEqual(added(c.result, "us.1120", ("capital_gain", "income"), lost), {"capital_gain": 0, "income": -500})


class BooksTests(TestCase):
    """However the books have it, Schedule M-1 explains the rest."""

    def test_not_booked_booked_as_it_is_and_otherwise(self):
        for making in (p, s, c):
            plain = making.result().run.form("us.sch-m-1").unreconciled
            for booked in (None, NET + 15, NET + 15 - 6, 14_000):
                books = () if booked is None else (making.shop(("Income from partnerships", "share_income", -booked, 0)),)
                with self.subTest(making.__name__, booked=booked):
                    run = making.result(share(**BOXES), *books).run
                    self.assertEqual(run.form("us.sch-m-1").unreconciled, plain)
                    self.assertEqual(run.form("us.sch-m-1").shares_differ, NET + 15 - (booked or 0))
                    self.assertEqual(run.form("us.sch-l").difference, 0)

    def test_what_is_booked_is_not_taxed_again(self):
        booked = p.shop(("Income from partnerships", "share_income", -NET, 0))
        self.assertEqual(added(p.result, "us.sch-k", ("ordinary", "net"), booked), {"ordinary": 0, "net": 0})


class IssuedTests(TestCase):
    """A partnership's own Schedules K-1 to partners that are entities."""

    def test_to_the_return_of_each_kind_with_all_its_boxes(self):
        for sort, pack in (("corporation", "us-1120"), ("s-corporation", "us-1120s"), ("partnership", "us-1065")):
            with self.subTest(sort):
                ben = p.ben(sort=sort, number="00-7654321", general="no")
                issued = [one for one in issues(p.result(p.ada(), ben, YES, GOODWILL).run) if one.number == "00-7654321"]
                self.assertEqual([(one.pack, one.kind, one.known_by) for one in issued], [(pack, "k1-1065", "entity_number")])
                told = {name: Decimal(issued[0].values[name]) for name in ("ordinary", "adjusted_business", "distributed")}
                self.assertEqual(told, {"ordinary": 26_000, "adjusted_business": -2_000, "distributed": 10_000})
                self.assertIn("us.sch-k-1", issued[0].lines["ordinary"])

    def test_every_field_that_is_told_is_there(self):
        from taxcore.packs import pack_named

        ben = p.ben(sort="corporation", number="00-7654321")
        told = set(next(one for one in issues(p.result(share(**BOXES), p.ada(), ben).run) if one.pack == "us-1120").values)
        for code in ("us-1065", "us-1120s", "us-1120"):
            self.assertEqual(told - set(pack_named(code).paper("k1-1065").fields()), set())

    def test_through_two_partnerships_to_a_person(self):
        """26,000 of the lower one are the upper one's; of 91,000 its partners have 60 and 40%."""
        lower = p.result(p.ada(), p.ben(sort="partnership", number="00-7654321"))
        told = next(one for one in issues(lower.run) if one.pack == "us-1065")
        upper = p.result(p.filer(number="00-7654321", company="Teal Holdings LLC"), p.paper("k1-1065", "k1", **told.values))
        self.assertEqual([one.ordinary for one in upper.run.every("us.sch-k-1")], [54_600, 36_400])

    def test_nothing_goes_to_a_shareholder_that_may_not_be_one(self):
        """A corporation holds no shares of an S corporation, and its return has no paper for them. IRC 1361(b)(1)(B)."""
        held = s.result(s.ada(), s.ben(sort="corporation", number="00-7654321"))
        self.assertNotIn("00-7654321", [one.number for one in held.run.pack.issues(held.run)])

    def test_a_trust_has_no_return_here(self):
        ben = p.ben(sort="trust", number="00-7654321")
        self.assertNotIn("00-7654321", [one.number for one in issues(p.result(p.ada(), ben).run)])


_BOOKED = p.shop(("Income from partnerships", "share_income", -500, 0))
# For each list of all diagnostics: code, papers about which it speaks, the same mended
DIAGNOSTICS = (
    ("us.received.missing", (_BOOKED,), (_BOOKED, share(ordinary=500))),
    ("us.received.loss", (share(ordinary=-5),), (share(ordinary=-5, covered="yes"),)),
    ("us.received.loss", (share(ordinary=300, adjusted_business=-500),), (share(ordinary=600, adjusted_business=-500),)),
    ("us.received.expensed", (share(section_179=5),), (share(ordinary=5),)),
    ("us.received.more", (share(not_made=5),), (share(ordinary=5),)),
    ("us.received.not-booked", (share(ordinary=500),), (_BOOKED, share(ordinary=500))),
    ("us.received.trades", (share(qualified_income=500),), (share(ordinary=5),)),
)  # fmt: skip


class RollingTests(TestCase):
    def test_the_same_partnership_is_expected_again_without_its_amounts(self):
        for result in (p.result, s.result, c.result):
            with self.subTest(result.__module__):
                rolled = roll_forward(result(share(**BOXES | {"dividends": 0})))
                (again,) = (one.values for one in rolled.data.papers if one.kind == "k1-1065")
                kept = {name: value for name, value in again.items() if value}
                self.assertEqual(kept, {"entity": "Pelican Partners", "entity_number": "00-7654321"})


class FilingTests(TestCase):
    def test_it_is_let_out(self):
        for result in (p.result, s.result, c.result):
            stop = [one.code for one in result(share(**BOXES | {"dividends": 0})).findings if one.weight == "stops"]
            self.assertEqual(stop, [])

    def test_what_stops_each_kind(self):
        for code, spoken, _ in DIAGNOSTICS[1:5]:
            for result in (p.result, s.result, c.result):
                with self.subTest(code, of=result.__module__):
                    self.assertIn(code, [one.code for one in result(*spoken).findings])
