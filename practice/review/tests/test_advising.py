"""Advice chosen for a client, and answers given once for all returns."""

from practice.firm.permissions import Refused
from practice.returns.computing import result_of
from practice.returns.drawing import paper_view
from practice.returns.entry import add_paper
from practice.returns.models import Return
from practice.review import advising, practice_answers
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class AdviceTests(OfficeTestCase):
    def items(self):
        return {one.of.key: one for one in advising.items_of(self.again(), result_of(self.again()))}

    def test_an_item_is_switched_off_and_leaves_the_page(self):
        self.assertTrue(self.items()["ira-taxpayer"].shown)
        advising.choose(self.preparer, self.return_.pk, "ira-taxpayer", False)
        self.assertFalse(self.items()["ira-taxpayer"].shown)
        self.assertEqual(self.items()["ira-taxpayer"].by, self.preparer.initials)
        page = advising.page_of(self.again(), result_of(self.again()))
        self.assertNotIn("ira-taxpayer", [one.key for one in page["items"]])
        advising.choose(self.preparer, self.return_.pk, "bands", True)
        self.assertIn("bands", [one.key for one in advising.page_of(self.again(), result_of(self.again()))["items"]])

    def test_an_item_that_the_return_does_not_have_is_refused(self):
        with self.assertRaises(BadValue):
            advising.choose(self.preparer, self.return_.pk, "sep-taxpayer", True)

    def test_the_page_is_made_as_a_pdf(self):
        self.client.force_login(self.preparer)
        answer = self.client.get(f"/returns/{self.return_.pk}/advice/page.pdf")
        self.assertEqual(answer["Content-Type"], "application/pdf")
        self.assertTrue(answer.content.startswith(b"%PDF"))


class AnswerTests(OfficeTestCase):
    FIELD = "us.business.method"

    def fresh(self):
        return Return.objects.for_firm(self.firm).select_related("firm").get(pk=self.return_.pk)

    def node(self):
        return result_of(self.fresh()).run.papers("business")[0]

    def test_counts_where_nothing_is_keyed_and_says_whose_it_is(self):
        _, paper = add_paper(self.preparer, self.return_.pk, "business", "taxpayer", {"activity": "Repair", "code": "811490"})
        self.assertEqual(self.node().method, "")
        practice_answers.answer(self.signer, self.FIELD, "cash")
        self.assertEqual((self.node().method, self.node().cell("method").how), ("cash", "answered"))
        view = paper_view(self.fresh(), paper, result_of(self.fresh()))
        field = next(one for one in view.fields if one.path == "method")
        self.assertEqual((field.value, field.computed), ("", "Cash"))
        self.assertIn(self.signer.initials, field.help)
        self.key("method", "accrual", paper=paper)
        self.assertEqual(self.node().method, "accrual")
        practice_answers.answer(self.signer, self.FIELD, "")
        self.key("method", "", paper=paper)
        self.assertEqual(self.node().method, "")

    def test_only_questions_that_are_alike_everywhere_and_only_fitting_answers(self):
        with self.assertRaisesRegex(BadValue, "for all returns"):
            practice_answers.answer(self.signer, "us.diligence.knowledge", "yes")
        with self.assertRaises(BadValue):
            practice_answers.answer(self.signer, self.FIELD, "by guess")
        with self.assertRaises(Refused):
            practice_answers.answer(self.preparer, self.FIELD, "cash")

    def test_nothing_of_due_diligence_can_be_answered_in_advance(self):
        self.assertFalse([one.field for one in practice_answers.questions(self.firm) if "diligence" in one.field])
