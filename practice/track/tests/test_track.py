"""The track: what each step says, whose turn it is, what moves it by itself, what is left out or added."""

from datetime import timedelta

from django.db import IntegrityError, connection, transaction
from django.urls import reverse

from practice.firm.models import Event
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.gather import answering, lettering, requesting
from practice.portal.models import PortalLink
from practice.returns.leaving import leave
from practice.returns.models import Return
from practice.signing import locking
from practice.signing.requesting import ask_for_signature, sign_in_office
from practice.tests.office import SIGNATURE, OfficeTestCase
from practice.track import keeping
from practice.track.models import LeftOut, Track
from practice.track.steps import steps_of
from taxcore.engine import BadValue


class TrackTestCase(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(
            stage="gather", guide={"answers": {"wages": {"yes": True}}}
        )

    def step(self, code):
        return next((one for one in steps_of(self.again()) if one.code == code), None)

    def state(self, code):
        found = self.step(code)
        return found and found.state

    def track(self):
        return keeping.track_of(self.again())

    def turn(self):
        found = self.track()
        return found["waits"], found["next"].code if found["next"] else None

    @property
    def link(self):
        return PortalLink.objects.for_firm(self.firm).select_related("of", "client", "firm").latest("pk")


class StepTests(TrackTestCase):
    def test_the_whole_way_moves_by_itself(self):
        lettering.write(self.signer, "us", "engagement", "Dear {client}")
        self.assertEqual(self.turn(), ("office", "letter"))
        (letter,) = lettering.send(self.preparer, self.return_.pk, ["engagement"])
        self.assertEqual(self.step("letter").says, "Lorna has not signed")
        lettering.sign(self.link, letter.pk, SIGNATURE, None)
        self.assertEqual((self.state("letter"), self.turn()), ("done", ("office", "documents")))
        requesting.drafted(self.preparer, self.return_.pk)
        item = requesting.add_item(self.preparer, self.return_.pk, "document", "The lease")
        self.assertEqual(self.turn(), ("office", "documents"))  # a draft is nothing that a client could do something about
        requesting.send(self.preparer, self.return_.pk)
        self.assertEqual((self.turn(), self.step("documents").says), (("client", "documents"), "0 of 1 in"))
        answering.not_so(self.link, item.pk, "We bought the house")
        self.assertEqual((self.turn(), self.step("documents").does), (("office", "documents"), "See 1 new"))
        requesting.accept(self.preparer, self.return_.pk, item.pk)
        self.assertEqual((self.state("documents"), self.turn()), ("done", ("office", "entered")))
        locking.lock_figures(self.signer, self.return_.pk)
        self.assertEqual([self.state(one) for one in ("entered", "clean", "lock")], ["done"] * 3)
        ask_for_signature(self.preparer, self.return_.pk)
        self.assertEqual(self.turn()[0], "client")
        for place, authority in enumerate(("us", "us-il")):
            if authority in {line["code"] for line in self.again().snapshot.bottom_lines}:
                sign_in_office(
                    self.administrator, self.return_.pk, self.client_person.pk, authority, SIGNATURE, "127.0.0.1", f"4170{place}"
                )
        self.assertEqual((self.state("signatures"), self.turn()[0]), ("done", "office"))

    def test_a_question_back_is_the_offices_turn(self):
        requesting.drafted(self.preparer, self.return_.pk)
        item = requesting.add_item(self.preparer, self.return_.pk, "question", "Did you move?")
        requesting.send(self.preparer, self.return_.pk)
        answering.ask_back(self.link, item.pk, "Within the state?")
        self.assertEqual((self.turn(), self.step("questions").says), (("office", "questions"), "0 of 1 answered, 1 new"))

    def test_clients_who_left_and_plans_wait_for_nobody(self):
        leave(self.signer, self.household.pk)
        self.assertEqual(self.turn(), ("nobody", None))
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(purpose="planning")
        self.assertIsNone(keeping.refresh(self.return_.pk))

    def test_steps_that_the_practice_does_without_are_none(self):
        self.assertIsNotNone(self.step("documents"))
        self.firm.steps_off = ["documents"]
        self.firm.save()
        self.assertIsNone(self.step("documents"))


class KeptTests(TrackTestCase):
    def test_days_are_counted_from_when_the_turn_changed(self):
        self.assertEqual(self.track()["days"], 0)
        self.firm.training_day = self.firm.today() + timedelta(days=9)
        self.firm.save()
        self.assertEqual(self.track()["days"], 9)
        requesting.drafted(self.preparer, self.return_.pk)
        requesting.add_item(self.preparer, self.return_.pk, "document", "The lease")
        requesting.send(self.preparer, self.return_.pk)
        self.assertEqual((self.track()["days"], self.turn()[0]), (0, "client"))

    def test_what_happens_refreshes_it_once_when_it_is_stored(self):
        connection.run_on_commit.clear()  # of what was made for all tests, never run
        with self.captureOnCommitCallbacks() as waiting:
            requesting.drafted(self.preparer, self.return_.pk)
            requesting.add_item(self.preparer, self.return_.pk, "document", "The lease")
            requesting.send(self.preparer, self.return_.pk)
        ours = [one for one in waiting if isinstance(one, keeping._Refresh)]
        self.assertEqual(len(ours), 1)
        ours[0]()
        self.assertEqual(Track.objects.for_firm(self.firm).get(of=self.return_).waits, "client")

    def test_missing_ones_are_made_and_nothing_is_made_twice(self):
        Track.objects.for_firm(self.firm).delete()
        self.assertEqual((keeping.make_missing(), keeping.make_missing()), (1, 0))


class ByHandTests(TrackTestCase):
    def test_a_step_is_left_out_for_a_client_with_a_reason_and_asked_for_again(self):
        with self.assertRaisesMessage(BadValue, "Say why"):
            keeping.leave_out(self.preparer, self.return_.pk, "documents", " ")
        with self.assertRaises(Cannot):
            keeping.leave_out(self.preparer, self.return_.pk, "lock", "No need")
        for _ in range(2):
            keeping.leave_out(self.preparer, self.return_.pk, "documents", "Brings them in person")
        self.assertEqual((self.state("documents"), self.step("documents").says), ("out", "Brings them in person"))
        self.assertEqual(LeftOut.objects.for_firm(self.firm).count(), 1)
        keeping.take_back(self.preparer, self.return_.pk, "documents")
        self.assertEqual(self.state("documents"), "open")
        keeping.leave_out(self.preparer, self.return_.pk, "documents", "Again")
        self.assertEqual(self.events("step left out").count(), 3)

    def test_a_step_of_ones_own_is_added_done_and_removed(self):
        for name, why, stage in (
            ("", "x", "review"),
            ("Partner reads it", "", "review"),
            ("x" * 61, "x", "review"),
            ("a", "b", "no"),
        ):
            with self.subTest(name[:4]), self.assertRaises(BadValue):
                keeping.add_step(self.preparer, self.return_.pk, stage, name, why)
        made = keeping.add_step(self.preparer, self.return_.pk, "gather", "Call the sister", "Shares the house")
        with self.assertRaisesMessage(BadValue, "already"):
            keeping.add_step(self.preparer, self.return_.pk, "gather", "Call the sister", "Again")
        code = f"own-{made.pk}"
        self.assertEqual(self.state(code), "open")
        keeping.mark_step(self.preparer, self.return_.pk, made.pk)
        self.assertEqual((self.state(code), self.step(code).says), ("done", "BT"))
        keeping.mark_step(self.preparer, self.return_.pk, made.pk, done=False)
        self.assertEqual(self.state(code), "open")
        keeping.mark_step(self.preparer, self.return_.pk, made.pk, remove=True)
        self.assertIsNone(self.step(code))

    def test_who_may_not_and_strangers_change_nothing(self):
        for who, error in ((self.reviewer, Refused), (self.stranger, NotOfThisFirm)):
            with self.subTest(who.role), self.assertRaises(error):
                keeping.leave_out(who, self.return_.pk, "documents", "x")
            with self.subTest(who.role), self.assertRaises(error):
                keeping.add_step(who, self.return_.pk, "gather", "x", "x")
        with self.assertRaises(IntegrityError), transaction.atomic():
            LeftOut.objects.create(firm=self.firm, household=self.household, step="documents", why="", by=self.preparer)

    def test_posts_do_it_and_say_what_was_refused(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        sign = reverse("sign", args=[self.return_.pk])
        answer = self.client.post(reverse("leave-out", args=[self.return_.pk]), {"step": "documents", "why": ""}, follow=True)
        self.assertContains(answer, "Say why it is left out")
        body = {"step": "documents", "why": "By post", "back": sign}
        self.assertRedirects(self.client.post(reverse("leave-out", args=[self.return_.pk]), body), sign)
        self.assertContains(self.client.get(sign), "By post")
        self.client.post(reverse("take-step-back", args=[self.return_.pk]), {"step": "documents"})
        self.client.post(reverse("add-step", args=[self.return_.pk]), {"stage": "file", "name": "Tell the bank", "why": "Loan"})
        self.assertContains(self.client.get(sign), "Tell the bank")
        own = self.again().own_steps.get()
        self.client.post(reverse("mark-step", args=[self.return_.pk, own.pk]), {"does": "done"})
        self.assertEqual(self.again().own_steps.get().done_by, self.preparer)
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.post(reverse("leave-out", args=[self.return_.pk]), body).status_code, 404)
        self.assertEqual(self.client.post(reverse("mark-step", args=[self.return_.pk, own.pk])).status_code, 404)
        self.assertEqual(Event.objects.for_firm(self.firm).filter(what="step done").count(), 1)


class PracticeTests(TrackTestCase):
    def test_the_practice_says_which_steps_it_asks_for(self):
        page = reverse("practice-steps")
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.client.post(page, {"step": ["letter", "look", "nonsense"]})
        self.firm.refresh_from_db()
        self.assertEqual(self.firm.steps_off, ["consent", "documents", "questions", "second", "fee", "package"])
        self.assertIsNone(self.step("documents"))
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(page), "Client’s look")
        self.assertEqual(self.client.post(page, {"step": []}).status_code, 403)


class DeskTests(TrackTestCase):
    def test_the_desk_says_and_filters_for_whom_it_waits(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        requesting.drafted(self.preparer, self.return_.pk)
        requesting.add_item(self.preparer, self.return_.pk, "document", "The lease")
        requesting.send(self.preparer, self.return_.pk)
        keeping.refresh(self.return_.pk)
        self.assertContains(self.client.get(reverse("desk")), "0 of 1 in")
        for waits, there in (("client", True), ("office", False), ("nonsense", True)):
            with self.subTest(waits):
                page = self.client.get(reverse("desk"), {"waits": waits})
                (self.assertContains if there else self.assertNotContains)(page, "Abernathy, Lorna")
        week = self.client.get(reverse("desk"), {"waits": "week"})
        self.assertNotContains(week, "Abernathy, Lorna")
