"""What an entity's return in Illinois means to its owners' own: rows that are issued, and the lines that read them."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.property.tests.test_worked import agree
from taxcore.packs.us.s_corporation.tests import making as s
from taxcore.packs.us.states.il.entities.tests.making import HERE, asked, partnership, receipts, rows, s_corporation
from taxcore.packs.us.tests.diagnosed.making import paper
from taxcore.packs.us.tests.returns import codes, filing, result, w2

R = "us-il.il-1040."


def issued(found, named="Ben Teal"):
    """The rows by state of one owner's Schedule K-1."""
    papers = [one for one in found.run.pack.issues(found.run) if one.named == named and one.kind.startswith("k1")]
    return {row.pop("state"): row for row in (dict(row) for row in papers[0].values.get("states", ()))}


def share(*by_state, **values):
    given = {"owner": "taxpayer", "entity": "Heron", "entity_number": "00-4455668", "participates": "yes", "ordinary": "30600"}
    return paper("k1-1065", "k1", states=rows(*by_state), **given | values)


class IssuedTests(TestCase):
    def test_rows_of_illinois(self):
        self.assertEqual(issued(partnership()), {"IL": {"id": "1", "income": "26000"}})
        of_florida = partnership(p.ada(**HERE), p.ben(), asked(own_tax=1_000))
        # 4.95% of 25,720 and 400
        self.assertEqual(issued(of_florida), {"IL": {"id": "1", "income": "26000", "withheld": "1293", "modified": "400"}})

    def test_entity_tax_comes_as_a_credit(self):
        self.assertEqual(
            issued(s_corporation(asked(entity_tax="yes")))["IL"], {"id": "1", "income": "26000", "entity_tax": "1273"}
        )

    def test_other_states_by_receipts(self):
        found = issued(partnership(receipts(IL=150_000, WI=50_000)))
        self.assertEqual({state: row["income"] for state, row in found.items()}, {"IL": "19500", "WI": "6500"})

    def test_a_nonresident_has_illinois_part_of_additions(self):
        found = s_corporation(s.ada(**HERE), s.ben(), asked(own_tax=1_000), receipts(IL=150_000, WI=50_000))
        self.assertEqual((issued(found)["IL"]["modified"], issued(found, "Ada Heron")["IL"]["modified"]), ("300", "600"))

    def test_the_owners_document_has_it(self):
        """Ben: 40% of 64,300, with 400 of Illinois' tax; 4.95% of 26,120 is withheld."""
        found = partnership(p.ada(**HERE), p.ben(), asked(own_tax=1_000))
        (_, bens) = found.run.pack.outgoing.statements(found)
        table = next(one for one in bens.tables if one.title.startswith("Illinois"))
        self.assertEqual([row[2] for row in table.rows], [26_120, 26_120, 400, 1_293])
        plain = p.result()
        self.assertNotIn("Illinois", str([one.title for one in plain.run.pack.outgoing.statements(plain)[0].tables]))

    def test_exempt_interest_is_told_once_to_a_resident(self):
        """Box 18A brings it to Form IL-1040, line 2; somebody elsewhere has Illinois' part of it here alone."""
        bonds = p.shop(("Municipal interest", "exempt_interest", -1_000, 0))
        self.assertNotIn("modified", issued(partnership(bonds))["IL"])
        self.assertEqual(issued(partnership(bonds, p.ada(**HERE), p.ben()))["IL"]["modified"], "400")

    def test_none_without_a_return_of_illinois(self):
        self.assertEqual(issued(p.result()), {})


class OwnerTests(TestCase):
    def test_a_resident(self):
        found = result(
            w2(40_000, 4_000, state_withheld=1_900),
            share({"state": "IL", "income": "30600", "entity_tax": "2405", "modified": "1100"}),
        )
        agree(self, "credit of entity tax", found.run, {
            R + "1": 70_600, R + "3": 1_100, R + "9": 71_700, R + "11": 68_850, R + "12": 3_408, R + "25": 1_900, R + "27": 0, R + "28": 2_405,
            R + "31": 4_305, R + "32": 897})  # fmt: skip

    def test_less_is_counted(self):
        found = result(share({"state": "IL", "income": "30600", "modified": "-200"}))
        agree(self, "subtraction", found.run, {R + "3": 0, R + "7": 200, R + "9": 30_400})

    def test_somebody_of_florida(self):
        found = result(
            filing(residence="FL", state="FL"), share({"state": "IL", "income": "30600", "withheld": "1273", "modified": "400"})
        )
        agree(self, "withheld by the entity", found.run, {R + "25": 0, R + "27": 1_273})
        self.assertEqual(found.run.form("us-il.sch-nr").base_income, Decimal(31_000))

    def test_a_credit_of_another_state_stops(self):
        row = {"state": "WI", "income": "30600", "entity_tax": "900"}
        self.assertIn("us.unsupported.share-state", codes(result(share(row))))
        self.assertIn("us.unsupported.share-state", codes(result(share(row | {"entity_tax": "", "modified": "5"}))))
        self.assertNotIn("us.unsupported.share-state", codes(result(share(row | {"state": "IL"}))))
