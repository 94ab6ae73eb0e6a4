"""Silencing: on one return, for the practice, and never what stops filing."""

from practice.firm.permissions import Refused
from practice.returns.computing import result_of
from practice.review import silencing
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue

CODE = "us.person.no-mail-address"


def codes(return_):
    return {finding.code for finding in result_of(return_).findings}


class SilencingTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        person = self.return_.papers.get(kind="person")
        self.key("email", "", was=person.values["email"], paper=person)
        self.return_ = type(self.return_).objects.for_firm(self.firm).get(pk=self.return_.pk)

    def fresh(self):
        return type(self.return_).objects.for_firm(self.firm).select_related("firm").get(pk=self.return_.pk)

    def test_on_one_return(self):
        self.assertIn(CODE, codes(self.fresh()))
        silencing.silence_on_return(self.reviewer, self.return_.pk, CODE, "signs in the office")
        self.assertNotIn(CODE, codes(self.fresh()))
        self.assertEqual(self.fresh().silenced[CODE]["by"], self.reviewer.initials)
        self.assertEqual(
            self.fresh().summary["counts"]["idea"], sum(f.weight == "idea" for f in result_of(self.fresh()).findings)
        )
        silencing.hear_again_on_return(self.reviewer, self.return_.pk, CODE)
        self.assertIn(CODE, codes(self.fresh()))
        self.assertEqual(self.events("diagnostic no longer suppressed").count(), 1)

    def test_for_the_whole_practice_and_no_other(self):
        silencing.silence_for_firm(self.signer, CODE, "we ask by telephone")
        self.assertNotIn(CODE, codes(self.fresh()))
        self.stranger.firm.refresh_from_db()
        self.assertEqual(self.stranger.firm.silenced, {})
        entry = silencing.catalogue(self.fresh().firm, weight="silenced")
        self.assertEqual([one.of.code for one in entry], [CODE])
        silencing.hear_again_in_firm(self.signer, CODE)
        self.assertIn(CODE, codes(self.fresh()))

    def test_what_stops_filing_is_always_heard(self):
        code = "us.w2.employer-number-missing"
        for silence in (
            lambda: silencing.silence_for_firm(self.signer, code, "why"),
            lambda: silencing.silence_on_return(self.reviewer, self.return_.pk, code, "why"),
        ):
            with self.assertRaisesRegex(BadValue, "cannot be suppressed"):
                silence()
        self.key("employer_number", "")
        self.firm.silenced = {code: {"by": "X", "on": "", "why": "slipped in"}}  # even where a row got there another way
        self.firm.save()
        self.assertIn(code, codes(self.fresh()))

    def test_needs_a_reason_and_the_right_to_do_it(self):
        with self.assertRaisesRegex(BadValue, "Enter a reason"):
            silencing.silence_for_firm(self.signer, CODE, "  ")
        with self.assertRaises(Refused):
            silencing.silence_for_firm(self.reviewer, CODE, "why")
        with self.assertRaises(Refused):
            silencing.silence_on_return(self.preparer, self.return_.pk, CODE, "why")

    def test_the_catalogue_is_searched_by_words_weight_and_kind(self):
        found = silencing.catalogue(self.firm, "wash sale")
        self.assertTrue(found)
        self.assertTrue(all("wash" in one.of.title.lower() or "wash" in one.of.code for one in found))
        self.assertEqual({one.of.weight for one in silencing.catalogue(self.firm, weight="idea")}, {"idea"})
        self.assertEqual({one.of.kind for one in silencing.catalogue(self.firm, kind="next-year")}, {"next-year"})
