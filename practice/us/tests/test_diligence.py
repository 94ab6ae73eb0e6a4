"""Due diligence on its own page: every question at once, and who, when and how entered once."""

from django.urls import reverse

from practice.returns.entry import add_paper
from practice.tests.office import OfficeTestCase
from practice.us import diligence_record
from taxcore.engine import BadValue

CHILD = {"first_name": "Wren", "last_name": "Abernathy", "number": "914-33-0001", "birth_date": "2015-01-05", "relationship": "child",
         "months_at_home": "12", "resident": "yes"}  # fmt: skip


class DiligencePageTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        for name in ("Wren", "Teal"):
            add_paper(
                self.preparer, self.return_.pk, "person", "", CHILD | {"first_name": name, "number": f"914-33-000{len(name)}"}
            )
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.url = reverse("review-diligence", args=[self.return_.pk])

    def sheets(self):
        return self.return_.papers.filter(kind__startswith="diligence", removed_at=None)

    def test_all_questions_are_opened_at_once_and_empty(self):
        self.assertContains(self.client.get(self.url), "Open all questions")
        self.client.post(reverse("add-diligence", args=[self.return_.pk]))
        self.assertEqual(sorted(one.kind for one in self.sheets()), ["diligence", "diligence-child", "diligence-child"])
        self.assertEqual(diligence_record.open_all(self.preparer, self.return_.pk), 0)
        page = self.client.get(self.url)
        self.assertNotContains(page, "Open all questions")
        self.assertContains(page, "Form".lower(), status_code=200)
        self.assertContains(page, reverse("save-field", args=[self.return_.pk, self.sheets()[0].pk]))

    def test_who_when_and_how_once_and_what_differs_stays(self):
        diligence_record.open_all(self.preparer, self.return_.pk)
        given = {"asked": "Lorna Abernathy", "asked_on": "2/3/2026", "manner": "person"}
        self.assertEqual(diligence_record.record_for_all(self.preparer, self.return_.pk, given), 9)
        other = self.sheets().filter(kind="diligence-child").first()
        self.key("asked", "Her mother", paper=other)
        self.client.post(reverse("record-diligence", args=[self.return_.pk]), given | {"asked_on": "Feb 4, 2026"})
        self.assertEqual([one.values["asked_on"] for one in self.sheets()], ["2026-02-04"] * 3)
        other.refresh_from_db()
        self.assertEqual(other.values["asked"], "Her mother")

    def test_what_cannot_be_read_is_said_and_nothing_is_lost(self):
        diligence_record.open_all(self.preparer, self.return_.pk)
        with self.assertRaises(BadValue):
            diligence_record.record_for_all(self.preparer, self.return_.pk, {"asked_on": "yesterday"})
        page = self.client.post(reverse("record-diligence", args=[self.return_.pk]), {"asked": "Lorna", "asked_on": "yesterday"})
        self.assertContains(page, "takes a date", status_code=422)
        self.assertContains(page, 'value="Lorna"', status_code=422)


class TableTotalTests(OfficeTestCase):
    def test_the_total_of_a_table_moves_with_each_save(self):
        paper = add_paper(self.preparer, self.return_.pk, "w2", "taxpayer",
                          {"codes": [{"code": "D", "amount": "100.00"}, {"code": "AA", "amount": "50.00"}]})[1]  # fmt: skip
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        answer = self.client.post(reverse("save-field", args=[self.return_.pk, paper.pk]),
                                  {"path": "codes.1.amount", "value": "700", "was": "100.00"}, headers={"HX-Request": "true"})  # fmt: skip
        self.assertContains(answer, f'<tr class="sum" id="sum-{paper.pk}-codes" hx-swap-oob="outerHTML">')
        self.assertContains(answer, "750.00")
