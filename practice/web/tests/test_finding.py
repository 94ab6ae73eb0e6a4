"""The command line in the trade's words; a household's name; what an import adds up to; undo of a row and of a sender."""

from django.urls import reverse

from practice.clients import keeping
from practice.returns import arranging
from practice.returns.computing import pack_of
from practice.returns.entry import add_paper, add_row
from practice.returns.undoing import undo_last
from practice.tests.office import WAGES, OfficeTestCase
from practice.web import find
from taxcore.engine import BadValue


class FindingTests(OfficeTestCase):
    def found(self, words, inside=True):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        given = {"q": words} | ({"in": self.return_.pk} if inside else {})
        return self.client.get(reverse("find"), given).content.decode()

    WORDS = [("agi", "Adjusted gross income"), ("w2", "W-2"), ("extension", "Extension"), ("efile", "Sign and file"),
             ("amend", "Sign and file"), ("diligence", "Due diligence"), ("estimates", "stimated")]  # fmt: skip

    def test_abbreviations_of_the_trade_and_actions(self):
        for words, wanted in self.WORDS:
            with self.subTest(words):
                self.assertIn(wanted, self.found(words))

    def test_every_abbreviation_stands_for_words_that_are_somewhere(self):
        pack = pack_of(self.return_)
        kinds = [*pack.papers, pack.people]
        known = [
            f"{kind.name} {kind.official} {form}" for kind in kinds for form in (spec.label for spec in kind.fields().values())
        ]
        known += [f"{form.number} {form.name}" for form in pack.forms]
        known += [spec.label for form in pack.forms for spec in form.specs.values()]
        for words, meaning in find.MEANS.items():
            with self.subTest(words):
                does = meaning in self.found(words).lower()
                self.assertTrue(does or any(meaning in one.lower() for one in known))

    def test_returns_by_household_and_year(self):
        self.assertIn("Abernathy, Lorna 2025", self.found("abernathy 2025", inside=False))
        self.assertNotIn("Abernathy, Lorna 2024", self.found("abernathy 2024", inside=False))


class HouseholdNameTests(OfficeTestCase):
    def name(self):
        self.household.refresh_from_db()
        return self.household.name

    def test_it_follows_its_people_until_it_has_a_name_of_its_own(self):
        person = self.return_.papers.get(kind="person")
        self.key("last_name", "Abernathy-Osei", paper=person)
        self.assertEqual(self.name(), "Abernathy-Osei, Lorna")
        keeping.rename(self.preparer, self.household.pk, "The lighthouse keepers")
        self.key("last_name", "Abernathy", paper=person)
        self.assertEqual(self.name(), "The lighthouse keepers")
        keeping.rename(self.preparer, self.household.pk, "")
        self.assertEqual(self.name(), "Abernathy, Lorna")

    def test_what_is_no_name_is_refused_on_the_page(self):
        with self.assertRaises(BadValue):
            keeping.rename(self.preparer, self.household.pk, "x" * 121)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.post(reverse("rename-household", args=[self.household.pk]), {"name": "x" * 121})
        self.assertContains(page, "longer than 120", status_code=422)


class OneStepTests(OfficeTestCase):
    def test_undo_takes_back_a_row_that_was_added(self):
        add_row(self.preparer, self.return_.pk, self.paper.pk, "codes")
        self.assertEqual(self.paper.changes.first().how, "row added")
        self.paper.refresh_from_db()
        self.assertEqual(len(self.paper.values["codes"]), 1)
        undo_last(self.preparer, self.return_.pk)
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["codes"], [])

    def test_what_came_with_a_known_sender_goes_in_one_step(self):
        _, other = add_paper(self.preparer, self.return_.pk, "w2", "taxpayer", {"employer_number": WAGES["employer_number"]})
        arranging.take_party(self.preparer, self.return_.pk, other.pk)
        other.refresh_from_db()
        self.assertEqual((other.values["employer"], other.values["employer_city"]), (WAGES["employer"], "Savanna"))
        undo_last(self.preparer, self.return_.pk)
        other.refresh_from_db()
        self.assertEqual((other.values.get("employer"), other.values.get("employer_city")), (None, None))

    def test_the_ripple_says_what_a_code_means_and_leaves_out_what_came_with_nothing(self):
        filing = self.return_.papers.get(kind="filing")
        saved = self.key("status", "separate", paper=filing)
        self.assertIn("Married", saved.says)
        from taxcore.engine import ripple

        self.assertTrue(all((one.before or 0) != (one.after or 0) for one in ripple(saved.before, saved.after)))

    def test_the_state_lived_in_is_proposed_from_the_address(self):
        from practice.returns.opening import open_return

        made = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        filing = made.papers.get(kind="filing")
        self.assertEqual((filing.values["residence"], filing.provenance["residence"]["how"]), ("IL", "rolled"))

    def test_an_accepted_return_says_so_and_is_not_edited(self):
        from practice.dispatch.models import State, Submission
        from practice.signing.locking import lock_figures

        snapshot = lock_figures(self.signer, self.return_.pk)
        for code in ("us", "us-il"):
            Submission.objects.create(firm=self.firm, of=self.return_, snapshot=snapshot, authority=code, document=b"x",
                                      by=self.signer, state=State.ACCEPTED, receipt=f"R-{code}")  # fmt: skip
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk])).content.decode()
        self.assertIn("This return was accepted. Changes belong in an amended return.", page)
        self.assertNotIn("Add a paper", page)
        self.assertRegex(page, r'aria-label="Wages, tips, other compensation"[^>]* disabled')
