"""The page that compares: figures of both ways, whose a paper is, and why there is no comparison."""

from django.urls import reverse

from practice.returns.entry import remove_paper
from practice.us.tests.test_separate_returns import ApartTestCase


class PageTests(ApartTestCase):
    def page(self, **given):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        return self.client.get(reverse("both-ways", args=[self.return_.pk]), given)

    def test_texas_is_a_community_property_state(self):
        self.assertContains(self.page(), "Texas is a community property state")

    def test_both_ways_beside_each_other(self):
        remove_paper(self.preparer, self.return_.pk, self.return_.papers.get(kind="residency").pk)
        self.key("residence", "IL", paper=self.return_.papers.get(kind="filing"))
        page = self.page()
        self.assertContains(page, "Wren, separately")
        self.assertContains(page, ">Ferry Bank</label>")
        self.assertContains(page, "1040")

    def test_what_if_leads_there(self):
        self.page()
        self.assertContains(self.client.get(reverse("what-if", args=[self.return_.pk])), "Jointly or separately</a>")

    def test_one_alone_is_not_compared(self):
        self.key("status", "separate", paper=self.return_.papers.get(kind="filing"))
        self.assertContains(self.page(), "choose that filing status first")
