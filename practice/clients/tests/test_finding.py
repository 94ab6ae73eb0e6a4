"""Clients are found by name, mail address, telephone and whole number, within the firm alone."""

from practice.clients.finding import households_like
from practice.tests.office import OfficeTestCase


class FindingTests(OfficeTestCase):
    def found(self, words, actor=None):
        return [one.name for one in households_like(actor or self.preparer, words)]

    def test_by_name_mail_and_number_however_it_is_written(self):
        for words in ("aberna", "Lorna", "lorna@abernathy", "921-17-5580", "921175580", "921 17 5580"):
            self.assertEqual(self.found(words), ["Abernathy, Lorna"], words)

    def test_by_telephone_however_it_is_written(self):
        self.client_person.telephone = "(815) 555-0142"
        self.client_person.save()
        for words in ("815-555-0142", "555 0142", "8155550142"):
            self.assertEqual(self.found(words), ["Abernathy, Lorna"], words)
        self.assertEqual(self.found("555-0143"), [])

    def test_not_by_a_part_of_the_number_and_not_by_another_firm(self):
        self.assertEqual(self.found("5580"), [])
        self.assertEqual(self.found("921-17-5581"), [])
        self.assertEqual(self.found("921-17-5580", self.stranger), [])

    def test_on_the_pages(self):
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get("/households/?q=921-17-5580"), "Abernathy, Lorna")
        self.assertContains(self.client.get("/find?q=921-17-5580"), "Abernathy, Lorna")
        self.assertNotContains(self.client.get("/households/?q=921-17-5581"), "Abernathy, Lorna")
