"""The page that compares kinds of entity: figures of all four, what is typed badly, what is left out."""

from django.urls import reverse

from practice.returns.entry import add_paper
from practice.tests.office import OfficeTestCase


class PageTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")

    def page(self, **given):
        return self.client.get(reverse("entity-choice", args=[self.return_.pk]), given)

    def test_without_a_business_a_profit_is_asked_about(self):
        page = self.page()
        self.assertContains(page, 'name="profit" value="100000"')
        for kind in ("Sole proprietorship", "Partnership of two", "S corporation", "C corporation"):
            self.assertContains(page, kind)

    def test_the_business_of_the_return(self):
        books = {"activity": "Repair", "code": "811490", "participates": "yes", "receipts": "80000.00"}
        add_paper(self.preparer, self.return_.pk, "business", "taxpayer", books)
        page = self.page(pay="30000")
        self.assertContains(page, 'name="profit" value="80000"')
        self.assertContains(page, 'name="pay" value="30000')
        self.assertContains(page, "<svg")

    def test_a_share_of_an_s_corporation_with_its_wages(self):
        share = {"entity": "Quay Inc", "entity_number": "00-7140362", "ordinary": "20000.00", "participates": "yes"}
        add_paper(self.preparer, self.return_.pk, "k1-1120s", "taxpayer", share)
        page = self.page()
        self.assertContains(page, "Quay Inc")
        self.assertContains(page, 'name="profit" value="86225"')  # with wages of 61,480, 4,703.22 of payroll tax and 42
        self.assertContains(page, 'name="pay" value="61480')

    def test_what_is_typed_badly_is_said(self):
        for given, words in (({"profit": "pear"}, "pear"), ({"profit": "50000", "pay": "49000"}, "more than the profit")):
            with self.subTest(given):
                answer = self.page(**given)
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, 'role="alert"', status_code=422)
