"""All documents of a client over the years, found by the words of their pages."""

from django.urls import reverse

from practice.intake import attaching, drawing, searching
from practice.intake.models import Attachment
from practice.tests.office import OfficeTestCase


class SearchingTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        for name, words in (
            ("1099.pdf", "River Bend Savings\n1 Interest income 212.40"),
            ("lease.pdf", "Rent of the boathouse, 640 a month"),
        ):
            row = attaching.attach(self.preparer, self.return_.pk, self.paper.pk, name, b"%PDF-1.4 " + name.encode())
            drawing._keep(drawing.words_name(row), words.encode())
        Attachment.objects.for_firm(self.firm).update(state="ready", pages=1, drawn=1)

    def names(self, words=""):
        return [(one.row.name, one.line) for one in searching.documents(self.preparer, self.household, words)]

    def test_words_of_pages_and_names_are_found(self):
        self.assertEqual([name for name, _ in self.names()], ["lease.pdf", "1099.pdf"])
        self.assertEqual(self.names("BOATHOUSE month"), [("lease.pdf", "Rent of the boathouse, 640 a month")])
        self.assertEqual(self.names("river 212.40"), [("1099.pdf", "")])  # on two lines of one page
        self.assertEqual(self.names("lease"), [("lease.pdf", "")])
        self.assertEqual(self.names("kittiwake"), [])

    def test_the_page_shows_ones_own_clients_documents_only(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("documents", args=[self.household.pk])
        self.assertContains(self.client.get(page), "lease.pdf")
        found = self.client.get(page, {"q": "boathouse <b>"})
        self.assertContains(found, "No page has these words")
        self.assertNotContains(self.client.get(page, {"q": "boathouse"}), "1099.pdf")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(page).status_code, 404)
