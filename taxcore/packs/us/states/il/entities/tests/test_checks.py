"""Every diagnostic of Illinois' returns of entities: once where it speaks, once where what it says was mended."""

from unittest import TestCase

from taxcore.packs.us.corporation.tests import making as c
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.partnership.tests.test_adjusted import GOODWILL
from taxcore.packs.us.s_corporation.tests import making as s
from taxcore.packs.us.states.il.entities.tests.making import (
    HERE,
    asked,
    corporation,
    losses,
    paper,
    partnership,
    receipts,
    rows,
    s_corporation,
)

TWICE = paper("receipts", rows=rows({"state": "IL", "amount": "150000"}, {"state": "IL", "amount": "50000"}))
OF_TRUST = (p.ada(**HERE), p.ben(sort="trust", number="00-7654321", **HERE))
MUCH = c.books(("Checking", "cash", 600_000, 0), ("Sales", "sales", -600_000, 0))
OLD = ((2003, 9_000), (2024, 100))


def unasked(*papers):
    """A partnership of Illinois of which nothing is known but its address."""
    return p.result(p.about(**HERE), p.ada(**HERE), p.ben(**HERE), *papers)


# Which return; code; papers with it; papers without
CASES = (
    (unasked, "us-il.entity.not-asked", (), (asked(),)),
    (partnership, "us-il.entity.nonbusiness", (asked(business_only="no"),), ()),
    (s_corporation, "us-il.entity.nonbusiness", (asked(business_only="no"),), ()),
    (corporation, "us-il.entity.nonbusiness", (asked(business_only="no"),), ()),
    (partnership, "us-il.entity.more", (asked(more="yes"),), ()),
    (partnership, "us-il.entity.adjusted-basis", (GOODWILL,), ()),
    (corporation, "us-il.entity.unitary", (asked(unitary="yes"),), (asked(unitary="no"),)),
    (partnership, "us-il.entity.lines", (), (p.about(),)),
    (partnership, "us-il.entity.own-tax", (), (asked(own_tax=0),)),
    (corporation, "us-il.entity.own-tax", (), (asked(own_tax=900),)),
    (partnership, "us-il.entity.sales-differ", (receipts(IL=100, WI=100),), (receipts(IL=150_000, WI=50_000),)),
    (partnership, "us-il.entity.no-sales", (receipts(IL=0),), (receipts(IL=200_000),)),
    (partnership, "us-il.entity.state-twice", (TWICE,), (receipts(IL=150_000, WI=50_000),)),
    (partnership, "us-il.entity.loss-expired", (asked(losses=losses(*OLD)),), (asked(losses=losses(OLD[1])),)),
    (corporation, "us-il.entity.loss-limited", (MUCH, asked(losses=losses((2022, 700_000)))), (MUCH, asked(losses=losses((2022, 400_000))))),
    (corporation, "us-il.entity.no-estimates", (), (asked(estimates=6_000),)),
    (partnership, "us-il.entity.no-estimates", (asked(entity_tax="yes"),), (asked(entity_tax="yes", estimates=3_700),)),
    (partnership, "us-il.entity.no-estimates", (asked(entity_tax="yes"),), ()),
    (partnership, "us-il.entity.pay-above-income", (asked(personal_service=90_000),), (asked(personal_service=9_000),)),
    (partnership, "us-il.entity.pay-open", (), (asked(personal_service=0),)),
    (partnership, "us-il.entity.trust", OF_TRUST, ()),
    (partnership, "us-il.entity.elected", (asked(entity_tax="yes"),), ()),
    (s_corporation, "us-il.entity.elected", (asked(entity_tax="yes"),), (asked(entity_tax="no"),)),
    (partnership, "us-il.entity.withheld", (p.ada(), p.ben()), ()),
    (s_corporation, "us-il.entity.withheld", (s.ada(), s.ben()), (s.ada(), s.ben(), asked(certified=rows({"owner": "ada"}, {"owner": "ben"})))),
    (corporation, "us.1120.state-return", (receipts(IL=150_000, WI=50_000),), (receipts(IL=150_000, FL=0, NV=50_000),)),
    (partnership, "us.1065.state-return", (receipts(IL=150_000, WI=50_000),), ()),
)  # fmt: skip
CODES = {code for _, code, *_ in CASES}


def spoken(found):
    return {one.code for one in found.findings}


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for result, code, with_it, without in CASES:
            with self.subTest(code, of=result.__name__):
                self.assertIn(code, spoken(result(*with_it)))
                self.assertNotIn(code, spoken(result(*without)))

    def test_none_without_a_return_of_illinois(self):
        for found in (p.result(), s.result(), c.result()):
            self.assertEqual({code for code in spoken(found) if code.startswith("us-il")}, set())
