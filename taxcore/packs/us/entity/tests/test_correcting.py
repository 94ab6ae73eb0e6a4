"""Amended returns of partnerships and S corporations: what goes again, and what stops."""

from unittest import TestCase

from taxcore.engine import PaperValues, compute
from taxcore.engine.amending import goes_out
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.s_corporation.tests import making as s
from taxcore.packs.us.states.il.entities.tests import making as illinois
from taxcore.packs.us.tests.corrections import as_filed

WHY = PaperValues("amendment", "amendment", {"explanation": "A wage was booked twice."})
FEWER = p.shop(("Wages", "salaries", 39_000, 0))


def corrected(found, *papers, superseding=False):
    """A result again, with papers in place of those with their ids."""
    instead = {one.id for one in papers}
    kept = [one for one in found.run.everything.papers if one.id not in instead]
    data = found.run.everything.but(papers=(*kept, *papers, WHY), amends=as_filed(found, superseding=superseding))
    return compute(found.run.pack, data)


def stops(found):
    return {one.code for one in found.findings if one.weight == "stops"}


class CorrectingTests(TestCase):
    def test_the_whole_return_goes_again_with_its_shares(self):
        for made in (p.result(), s.result()):
            with self.subTest(made.run.pack.code):
                again = corrected(made, FEWER if made.run.pack.code == "us-1065" else s.shop(("Wages", "salaries", 39_000, 0)))
                self.assertEqual(stops(again), set())
                self.assertTrue(goes_out(again.run, again.run.pack.authorities[0]))
                self.assertEqual(again.run.form("us.sch-k").ordinary, 66_000)
                self.assertEqual([one.ordinary for one in again.run.every("us.sch-k-1")], [39_600, 26_400])

    def test_it_does_not_go_where_nothing_moved(self):
        again = corrected(p.result())
        self.assertFalse(goes_out(again.run, again.run.pack.authorities[0]))

    def test_the_explanation_is_asked_for(self):
        found = p.result()
        data = found.run.everything
        empty = PaperValues("amendment", "amendment", {})
        again = compute(found.run.pack, data.but(papers=(*data.papers, empty), amends=as_filed(found)))
        self.assertIn("us.amendment.explanation-missing", stops(again))

    def test_the_audit_regime_asks_for_something_else(self):
        made = p.result(p.about(elects_out="no", representative="Ada Heron"))
        self.assertIn("us.1065.amended-regime", stops(corrected(made, FEWER)))
        self.assertNotIn("us.1065.amended-regime", stops(corrected(made, FEWER, superseding=True)))
        self.assertNotIn("us.1065.amended-regime", stops(corrected(p.result(), FEWER)))

    def test_illinois_stops_where_its_figures_move(self):
        made = illinois.partnership()
        self.assertIn("us-il.entity.amended", stops(corrected(made, FEWER)))
        self.assertNotIn("us-il.entity.amended", stops(corrected(made)))


CODES = {"us.1065.amended-regime", "us-il.entity.amended"}
