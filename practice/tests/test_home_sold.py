"""The return of a home within sixty days, in the application: opened by its day, filed, and credited on the year's return."""

from datetime import date

from django.test import override_settings

from practice.returns import issuing, rolling
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, save_field
from practice.returns.models import Return, Stage
from practice.tests.test_another_country import PAGES, nothing_american
from practice.tests.test_british import BritishPractice


@override_settings(PACK="uk", PACKS=["uk", "uk-home"])
class HomeSoldTests(BritishPractice):
    """Isla Weir sells a house: completed on 20 January 2026."""

    def open(self, day):
        self.client.force_login(self.signer)
        return self.client.post(f"/households/{self.return_.household_id}/returns", {"pack": "uk-home", "ends": day})

    def opened(self):
        self.open("20/1/2026")
        made = Return.objects.for_firm(self.firm).get(pack="uk-home")
        person = made.papers.get(kind="person")
        save_field(self.preparer, made.pk, person.pk, "reference", "1234567890", "")
        estimate = made.papers.filter(kind="estimate").first() or add_paper(self.preparer, made.pk, "estimate", "", {})[1]
        save_field(self.preparer, made.pk, estimate.pk, "income", "47430", "")
        home = {"asset": "Fell House", "bought": "2010-01-01", "sold": "2026-01-01", "proceeds": "392200", "costs": "100000",
                "periods": [{"why": "lived", "begun": "2010-01-01", "ended": "2017-12-31"}]}  # fmt: skip
        add_paper(self.preparer, made.pk, "home", "taxpayer", home)
        return Return.objects.for_firm(self.firm).get(pk=made.pk)

    def test_a_day_that_is_none_is_said_and_stays(self):
        answer = self.open("31/2/2026")
        self.assertEqual(answer.status_code, 422)
        page = answer.content.decode()
        self.assertIn("The day takes a date such as 14/3/1980.", page)
        self.assertIn('value="31/2/2026"', page)
        self.assertContains(self.open("1/5/2031"), "The law of 2031-32 is not in this program.", status_code=422)

    def test_several_in_a_year_and_one_for_a_day(self):
        first, again, other = self.open("20/1/2026"), self.open("20/1/2026"), self.open("11/2/2026")
        self.assertEqual(first.url, again.url)
        self.assertNotEqual(first.url, other.url)
        rows = Return.objects.for_firm(self.firm).filter(pack="uk-home")
        self.assertEqual({one.due for one in rows}, {date(2026, 3, 21), date(2026, 4, 12)})
        self.assertEqual({one.tax_year for one in rows}, {"sale of 20 January 2026", "sale of 11 February 2026"})

    def test_no_page_of_it_says_what_is_american(self):
        made = self.opened()
        pages = [one for one in PAGES if one != "flow"]
        nothing_american(self, (*(f"returns/{made.pk}/{name}" for name in pages), f"households/{made.household_id}"))

    def test_filed_and_credited_on_the_return_of_the_year(self):
        """Half of 16 years lived in, with the last nine months: what is taxed is paid now, and nothing of it again."""
        made = self.opened()
        self.assertEqual([one.says for one in result_of(made).findings if one.weight == "stops"], [])
        owed = result_of(made).run.form("uk.ppd").owed
        made = self.sent_and_accepted(made, "uk-ppd")
        self.assertEqual(made.stage, Stage.DELIVER)
        self.assertEqual(self.packed(made), "ready")
        self.assertEqual(issuing.hand_out(self.preparer, made.pk), 1)
        year = result_of(self.fresh()).run
        self.assertEqual(year.form("uk.gains-tax").paid_already, owed)
        self.assertEqual(year.form("uk.sa110").gains_tax, 0)

    def test_it_is_not_rolled_forward(self):
        with self.assertRaisesMessage(rolling.NotRolled, "made anew each time"):
            rolling.roll(self.signer, self.opened().pk)
