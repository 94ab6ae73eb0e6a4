"""A couple's return in two: made, divided as said, changed and made again, filed on their own; and a joint return of two."""

from unittest import mock

from django.urls import reverse

from practice.clients.models import Person
from practice.dispatch import filing, tasks
from practice.dispatch.authority_client import Answer
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.intake.models import Attachment
from practice.returns import amending, parting
from practice.returns.changing import Settled
from practice.returns.computing import open_values, result_of
from practice.returns.entry import add_paper, add_spouse, save_field
from practice.returns.models import How, Paper, Return, Stage
from practice.returns.opening import open_household, open_return
from practice.returns.rolling import NotRolled, roll
from practice.review.notices import notices_of
from practice.signing import locking, requesting
from practice.tests.office import SIGNATURE, WAGES, OfficeTestCase
from practice.us import dividing, in_two, joining
from practice.us.models import CoupleDivision
from taxcore.engine import BadValue


class CoupleTestCase(OfficeTestCase):
    """Both live in Illinois: she has 61,480 of wages, he 40,000; a bank's interest is in both names."""

    def lay_out(self):
        super().lay_out()
        _, self.spouse = add_spouse(self.preparer, self.return_.pk)
        for name, value in {"first_name": "Wren", "number": "913228046", "birth_date": "1/5/1980"}.items():
            self.key(name, value, paper=self.spouse)
        self.key("status", "joint", paper=self.return_.papers.get(kind="filing"))
        pay = WAGES | {"wages": "40000.00", "federal_withheld": "3000"}
        _, self.his = add_paper(self.preparer, self.return_.pk, "w2", "spouse", pay)
        add_paper(self.preparer, self.return_.pk, "il-questions", "", {"use_tax": "0"})
        self.bank = add_paper(self.preparer, self.return_.pk, "1099-int", "joint", {"payer": "Ferry Bank", "interest": "900.01"})[
            1
        ]

    def split(self, again=""):
        return in_two.split(self.preparer, self.return_.pk, again)

    def edit(self, return_, kind, name, value):
        paper = return_.papers.get(kind=kind)
        save_field(self.preparer, return_.pk, paper.pk, name, value, open_values(paper.values).get(name, ""))
        return_.refresh_from_db()

    def notices(self, return_):
        return_ = Return.objects.for_firm(self.firm).get(pk=return_.pk)
        return {one.code: one.says for one in notices_of(return_, result_of(return_), ())}


class SplittingTests(CoupleTestCase):
    def test_each_is_complete_and_the_joint_return_untouched(self):
        before = self.again().version
        hers, his = self.split()
        found = [result_of(one) for one in (hers, his)]
        self.assertEqual([one["us.1040.1z"].value for one in found], [61_480, 40_000])
        self.assertEqual([one["us.1040.2b"].value for one in found], [450, 450])
        self.assertEqual([[line.authority.code for line in one.bottom_lines] for one in found], [["us", "us-il"]] * 2)
        self.assertEqual([one.run.single("filing").spouse_number for one in found], ["913-22-8046", "921-17-5580"])
        self.assertEqual([one.papers.get(kind="person").person.first_name for one in (hers, his)], ["Lorna", "Wren"])
        self.assertEqual((self.again().version, self.return_.given_up_at, hers.authorities), (before, None, "US, IL separate"))

    def test_how_a_value_came_comes_along_and_numbers_stay_sealed(self):
        hers, _ = self.split()
        wages = hers.papers.get(kind="w2")
        self.assertEqual(wages.provenance["wages"], self.return_.papers.get(pk=self.paper.pk).provenance["wages"])
        self.assertEqual(hers.papers.get(kind="1099-int").provenance["interest"]["how"], "imported")
        self.assertNotIn("913", str(hers.papers.get(kind="filing").values))

    def test_pages_beside_a_paper_are_on_both(self):
        row = self.attach(self.bank, "bank.pdf")
        made = self.split()
        self.assertEqual([list(one.attachments.values_list("name", "digest")) for one in made], [[("bank.pdf", row.digest)]] * 2)
        self.assertEqual([one.papers.get(kind="1099-int").attached for one in made], [1, 1])

    def attach(self, paper, name):
        row = Attachment.objects.create(
            firm=self.firm, of=self.return_, paper=paper, name=name, kind="pdf", file="x", size=9, digest="d" * 64,
            state=Attachment.State.READY, by=self.preparer,
        )  # fmt: skip
        paper.attached = 1
        paper.save(update_fields=["attached"])
        return row

    def test_shares_as_the_preparer_says(self):
        dividing.set_division(self.preparer, self.return_.pk, "spouse", {f"1099-int/{self.bank.key}": "25"})
        hers, his = self.split()
        amounts = [open_values(one.papers.get(kind="1099-int").values)["interest"] for one in (hers, his)]
        self.assertEqual(amounts, ["225.00", "675.01"])
        self.assertEqual([one.papers.filter(kind="il-questions").count() for one in (hers, his)], [1, 1])

    def test_a_share_that_is_none_keeps_nothing(self):
        for text in ("much", "120"):
            with self.subTest(text), self.assertRaises(dividing.NotDivided):
                dividing.set_division(self.preparer, self.return_.pk, "spouse", {f"1099-int/{self.bank.key}": text})
        self.assertFalse(CoupleDivision.objects.for_firm(self.firm).exists())
        with self.assertRaises(BadValue):
            dividing.set_division(self.preparer, self.return_.pk, "nobody", {})

    def test_the_spouse_becomes_a_client_where_there_is_none(self):
        self.return_.papers.filter(pk=self.spouse.pk).update(person=None)
        Person.objects.for_firm(self.firm).exclude(pk=self.client_person.pk).delete()
        _, his = self.split()
        self.assertEqual(his.papers.get(kind="person").person.full_name, "Wren Abernathy")

    def test_who_may_and_what_is_not_split(self):
        with self.assertRaises(Refused):
            in_two.split(self.reviewer, self.return_.pk)
        with self.assertRaises(NotOfThisFirm):
            in_two.split(self.stranger, self.return_.pk)
        hers, _ = self.split()
        for return_, words in ((hers, "not split again"), (self.return_, "are there already")):
            with self.assertRaisesRegex(in_two.NotSplit, words):
                in_two.split(self.preparer, return_.pk)
        self.key("status", "separate", paper=self.return_.papers.get(kind="filing"))
        with self.assertRaisesRegex(in_two.NotSplit, "filing status"):
            self.split("new")


class AgainTests(CoupleTestCase):
    def test_what_was_changed_by_hand_is_said_and_replaced_with_its_history(self):
        hers, _ = self.split()
        self.edit(hers, "1099-int", "interest", "500.00")
        add_paper(self.preparer, hers.pk, "1099-div", "taxpayer", {"payer": "Wrack", "dividends": "80"})
        self.assertEqual(
            [(one.paper, one.label) for one in in_two.edited(hers)], [("Ferry Bank", "Interest"), ("Wrack", "added")]
        )
        again, _ = self.split("replace")
        self.assertEqual(again.pk, hers.pk)
        hers = Return.objects.for_firm(self.firm).get(pk=hers.pk)
        self.assertEqual((list(in_two.edited(hers)), result_of(hers)["us.1040.2b"].value), ([], 450))
        self.assertEqual(list(hers.changes.filter(path="interest").values_list("before", "after")[:1]), [("500.00", "450.01")])
        self.assertIsNotNone(hers.papers.get(kind="1099-div").removed_at)

    def test_a_child_that_moves_to_the_other_is_the_same_client_there(self):
        child = {
            "first_name": "Pim",
            "birth_date": "2015-03-03",
            "relationship": "child",
            "months_at_home": "12",
            "resident": "yes",
        }
        client = Person.objects.create(firm=self.firm, household=self.household, first_name="Pim", last_name="Abernathy")
        Paper.objects.create(
            firm=self.firm, of=self.return_, kind="person", key="d1", values={"role": "dependant"} | child, person=client
        )
        self.again()
        _, his = self.split()
        self.assertFalse(his.papers.filter(key="d1").exists())
        dividing.set_division(self.preparer, self.return_.pk, "taxpayer", {"person/d1": "0"})
        self.split("replace")
        self.assertEqual(his.papers.get(key="d1").person, client)
        with self.assertRaisesRegex(NotRolled, "Separate returns were made"):
            roll(self.preparer, self.return_.pk)

    def test_new_versions_keep_the_old_ones(self):
        first = self.split()
        second = self.split("new")
        self.assertEqual(len({one.pk for one in (*first, *second)}), 4)
        for one in first:
            one.refresh_from_db()
            self.assertEqual((one.stage, one.state_note, one.given_up_at is None), (Stage.DONE, "canceled", False))
        self.assertEqual([one.pk for one in in_two.living(self.return_)], [one.pk for one in second])

    def test_a_change_of_the_joint_return_is_said_on_the_one_that_it_moves(self):
        hers, his = self.split()
        self.assertNotIn("joint-moved", self.notices(his))
        self.key("wages", "41000", paper=self.his)
        self.assertIn("Kittiwake", self.notices(his)["joint-moved"])
        self.assertNotIn("joint-moved", self.notices(hers))
        self.assertIn("in-two", self.notices(self.return_))

    def test_jointly_after_all(self):
        made = self.split()
        with self.assertRaisesRegex(Settled, "cancel them"):
            locking.lock_figures(self.signer, self.return_.pk)
        in_two.file_together(self.preparer, self.return_.pk)
        for one in made:
            with self.assertRaisesRegex(Settled, "canceled"):
                self.edit(one, "w2", "wages", "1")
        locking.lock_figures(self.signer, self.return_.pk)
        with self.assertRaises(in_two.NotSplit):
            in_two.file_together(self.preparer, self.return_.pk)


class OnTheirOwnTests(CoupleTestCase):
    def test_one_is_filed_corrected_and_rolled_forward(self):
        hers, his = self.split()
        self.file(hers)
        with self.assertRaisesRegex(Settled, "Lorna's separate return was filed"):
            in_two.file_together(self.preparer, self.return_.pk)
        with self.assertRaises(Settled):
            self.split("new")
        correction = amending.amend(self.preparer, hers.pk)
        self.assertEqual(
            (correction.apart_from_id, correction.apart_role, correction.purpose), (self.return_.pk, "taxpayer", "amending")
        )
        self.assertEqual(amending.amend(self.preparer, hers.pk).pk, correction.pk)
        self.assertEqual([one.pk for one in in_two.living(self.return_)], [hers.pk, his.pk])
        with self.assertRaisesRegex(NotRolled, "together"):
            roll(self.preparer, hers.pk)
        one, other = parting.part(self.signer, self.return_.pk)
        self.assertEqual([made.origin.source_id for made in (one, other)], [hers.pk, his.pk])
        self.assertEqual([made.household.name for made in (one, other)], [self.household.name, "Abernathy, Wren"])

    def file(self, return_):
        """Signed by its one filer and accepted by both authorities."""
        self.assertEqual([one.says for one in result_of(return_).findings if one.weight == "stops"], [])
        requesting.ask_for_signature(self.signer, return_.pk)
        for code in ("us", "us-il"):
            requesting.sign_in_office(self.administrator, return_.pk, self.client_person.pk, code, SIGNATURE, None, "41706")
        federal, state = filing.file_return(self.signer, return_.pk)
        for submission in (federal, state):
            submission.refresh_from_db()
            with mock.patch.object(tasks, "hand_in", return_value=f"R-{submission.authority}"):
                tasks.send(submission.pk)
            with mock.patch.object(tasks, "ask", return_value=Answer("accepted", raw={})):
                tasks.poll(submission.pk)
        return_.refresh_from_db()
        self.assertEqual(return_.stage, Stage.DELIVER)


class JoiningTests(CoupleTestCase):
    def test_the_two_become_one_again_with_what_was_changed(self):
        hers, his = self.split()
        self.edit(hers, "1099-int", "interest", "500.00")
        self.edit(his, "w2", "wages", "42000")
        both = joining.join(self.preparer, his.pk, hers.pk)
        found = result_of(both)
        self.assertEqual((found["us.1040.1z"].value, found["us.1040.2b"].value), (103_480, 950))
        self.assertEqual(both.papers.get(kind="1099-int").values["owner"], "joint")
        self.assertEqual([one.person.first_name for one in both.papers.filter(kind="person")], ["Lorna", "Wren"])
        for one in (hers, his, self.return_):
            one.refresh_from_db()
            self.assertIsNotNone(one.given_up_at)
        self.assertEqual((both.origin.how, both.origin.amends), (How.JOINED, {"second": his.pk}))


class TwoClientsTests(OfficeTestCase):
    def test_their_returns_become_one_in_the_first_ones_household(self):
        home = open_household(self.preparer, "Ivo Fell", [{"first_name": "Ivo", "last_name": "Fell", "number": "914-55-0002"}])
        his = open_return(self.preparer, home.pk, 2025, [(home.people.get().pk, "taxpayer")])
        add_paper(self.preparer, his.pk, "w2", "taxpayer", WAGES | {"wages": "30000"})
        both = joining.join(self.preparer, self.return_.pk, his.pk)
        self.assertEqual(result_of(both)["us.1040.1z"].value, 91_480)
        self.assertEqual(both.papers.get(kind="person", key="spouse").person.household_id, self.return_.household_id)
        self.assertEqual([one.values["owner"] for one in both.papers.filter(kind="w2")], ["taxpayer", "spouse"])
        with self.assertRaisesRegex(Settled, "in place of this one"):
            joining.join(self.preparer, self.return_.pk, his.pk)

    def test_what_makes_no_joint_return(self):
        with self.assertRaisesRegex(joining.NotJoined, "other person's"):
            joining.join(self.preparer, self.return_.pk, self.return_.pk)
        with self.assertRaises(NotOfThisFirm):
            joining.join(self.stranger, self.return_.pk, self.return_.pk)


class PageTests(CoupleTestCase):
    def test_divide_split_and_join_from_the_page(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("both-ways", args=[self.return_.pk])
        self.assertContains(self.client.get(page), "Make two returns")
        bad = self.client.post(
            reverse("divide-couple", args=[self.return_.pk]), {"holder": "spouse", f"share 1099-int/{self.bank.key}": "x"}
        )
        self.assertContains(bad, "Enter a percent", status_code=422)
        self.client.post(
            reverse("divide-couple", args=[self.return_.pk]), {"holder": "spouse", f"share 1099-int/{self.bank.key}": "30"}
        )
        self.assertContains(self.client.get(page), 'value="30"')
        self.client.post(reverse("split-return", args=[self.return_.pk]))
        hers, his = in_two.living(self.return_)
        self.edit(his, "1099-int", "interest", "1.00")
        self.assertContains(self.client.get(page), "changed there: Ferry Bank, Interest")
        self.assertContains(self.client.get(reverse("both-ways", args=[hers.pk])), "Make one joint return")
        answer = self.client.post(reverse("join-returns", args=[hers.pk]), {"other": "Nobody known"})
        self.assertContains(answer, "No client with a 2025 return", status_code=422)
        done = self.client.post(reverse("join-returns", args=[hers.pk]), {"other": str(his.pk)})
        self.assertEqual(done.status_code, 302)
