"""More time to file: asked, paid, made ready, sent and settled; the conversation itself is replaced, ops/tests has the real one."""

from datetime import timedelta
from decimal import Decimal
from unittest import mock

from django.db import IntegrityError, transaction
from django.urls import reverse
from django.utils import timezone

from practice.dispatch import tasks
from practice.dispatch.authority_client import Answer, AuthorityAway
from practice.dispatch.models import Asked, Extension
from practice.firm.crypto import unseal_bytes
from practice.firm.jobs import make_lost_again
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.returns import rounds
from practice.returns import tasks as returns_tasks
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, add_row
from practice.returns.undoing import undo_last
from practice.tests.office import OfficeTestCase
from practice.us import extending
from taxcore.engine import BadValue
from taxcore.packs.us import extensions


class ExtendingTestCase(OfficeTestCase):
    def ask(self, codes=None, actor=None):
        return extending.ask(actor or self.preparer, self.return_.pk, codes)

    def pay(self, code, amount):
        return extending.pay(self.preparer, self.return_.pk, code, amount)

    def account(self, **more):
        """Where payments come from, as the Extension paper has it."""
        paper = self.return_.papers.filter(kind="extension").first() or add_paper(self.preparer, self.return_.pk, "extension")[1]
        told = {"routing": "138150000", "account": "7702214586", "account_kind": "checking", "debit_on": "4/10/2026"} | more
        for path, text in told.items():
            self.key(path, text, paper=paper)

    def send(self, *codes):
        extending.make_ready(self.preparer, self.return_.pk, list(codes) or None)
        return [one.authority for one in extending.send_ready(self.signer, self.return_.pk)]

    def one(self, code):
        return self.return_.extensions.filter(authority=code).order_by("-id").first()

    def line(self, address):
        return result_of(self.again())[address].value

    def lines(self):
        return {line.one.code: line for line in extending.lines_of(self.return_, result_of(self.again()))}

    def answered(self, request, state, faults=()):
        with mock.patch.object(tasks, "hand_in", return_value="R-7") as handed:
            tasks.send(request.pk, "extension")
        with mock.patch.object(tasks, "ask", return_value=Answer(state, list(faults), {})):
            tasks.poll(request.pk, "extension")
        request.refresh_from_db()
        return handed


class AskingTests(ExtendingTestCase):
    def test_all_of_the_return_at_once_and_twice_asks_once(self):
        self.assertEqual(self.ask(), ["us", "us-il"])
        self.assertEqual(self.ask(), [])
        self.assertEqual(self.return_.papers.get(kind="extension").values["asked"], "yes")
        self.assertEqual(self.return_.papers.get(kind="state-extensions").values["rows"][0]["state"], "IL")
        self.assertEqual(self.events("extension requested").count(), 1)

    def test_a_state_that_the_return_does_not_have_yet(self):
        self.ask(["us-ga"])
        line = self.lines()["us-ga"]
        self.assertEqual((line.one.made, line.one.asked, line.request.state), (False, True, "open"))

    def test_the_database_holds_one_live_request(self):
        self.ask(["us"])
        with self.assertRaises(IntegrityError), transaction.atomic():
            Extension.objects.create(firm=self.firm, of=self.return_, authority="us", by=self.preparer)

    def test_a_state_is_read_by_name_or_letters(self):
        run = result_of(self.return_).run
        self.assertEqual((extending.code_of(run, "missouri"), extending.code_of(run, " mo ")), ("us-mo", "us-mo"))
        for text, says in (("Atlantis", "not a state"), ("TX", "no extension is needed"), ("", "not a state")):
            with self.subTest(text), self.assertRaisesRegex(BadValue, says):
                extending.code_of(run, text)

    def test_nobody_is_asked_who_is_no_authority(self):
        for code in ("us-zz", "us-tx", "fr", ""):
            with self.subTest(code), self.assertRaisesRegex(extending.CannotExtend, "to request an extension from"):
                self.ask([code])
        self.assertEqual(self.return_.extensions.count(), 0)

    def test_taken_back_leaves_no_trace_on_the_return(self):
        before = self.line("us.sch-3.10")
        self.ask()
        self.pay("us", "300")
        self.pay("us-il", "40")
        for code in ("us", "us-il"):
            extending.take_back(self.preparer, self.return_.pk, code)
        self.assertEqual(self.return_.papers.get(kind="state-extensions").values["rows"], [])
        self.assertEqual((self.line("us.sch-3.10"), self.return_.extensions.count()), (before, 0))

    def test_asking_is_a_change_like_any_other(self):
        self.ask(["us"])
        undo_last(self.preparer, self.return_.pk)
        self.assertFalse(self.lines()["us"].one.asked)

    def test_what_an_undo_took_back_is_not_sent_and_can_be_asked_again(self):
        self.ask()
        undo_last(self.preparer, self.return_.pk)
        with self.assertRaisesRegex(extending.CannotExtend, "no longer requested"):
            self.send("us")
        self.assertEqual(self.ask(), ["us", "us-il"])
        self.pay("us-il", "30")
        self.assertEqual((self.return_.extensions.count(), self.lines()["us-il"].one.paying), (2, 30))

    def test_who_may(self):
        self.ask(["us"], self.administrator)
        for actor, act in ((self.reviewer, self.ask), (self.reviewer, lambda **_: self.send("us"))):
            with self.assertRaises(Refused):
                act(actor=actor) if act == self.ask else extending.send_ready(self.reviewer, self.return_.pk)
        with self.assertRaises(Refused):
            extending.send_ready(self.preparer, self.return_.pk)
        for act in (extending.ask, extending.send_ready):
            with self.assertRaises(NotOfThisFirm):
                act(self.stranger, self.return_.pk)


class PayingTests(ExtendingTestCase):
    def paid(self):
        return self.line("us.sch-3.10"), self.line("us-il.il-1040.26")

    def test_what_is_paid_stands_on_the_final_returns_once_it_is_made(self):
        self.ask()
        self.account()
        self.pay("us", "250")
        self.pay("us-il", "100+20")
        self.assertEqual(self.paid(), (0, 0))
        self.send()
        self.assertEqual(self.paid(), (0, 0))
        self.answered(self.one("us"), "accepted")
        self.answered(self.one("us-il"), "accepted")
        self.assertEqual(self.paid(), (250, 120))

    def test_a_refused_extension_paid_nothing_and_gives_no_state_its_time(self):
        self.ask()
        self.account()
        self.pay("us", "250")
        self.send()
        self.answered(self.one("us"), "rejected", [{"rule": "P-0101", "message": "No match.", "path": "/"}])
        self.assertEqual(self.paid(), (0, 0))
        self.assertFalse(self.lines()["us"].one.asked)

    def test_a_state_that_rests_on_the_federal_extension_waits_for_it(self):
        for code in ("us-ga", "us-va", "us-ia"):
            with self.subTest(code):
                rule = extensions.rules()[code]["rule"]
                self.ask(["us", code])
                self.send("us", code)
                held = Asked.UNNEEDED if rule == "automatic" else Asked.WAITING
                self.assertEqual(self.one(code).state, held)
        waiting = self.return_.extensions.filter(state=Asked.WAITING)
        self.assertTrue(waiting.exists())
        self.answered(self.one("us"), "rejected", [{"rule": "P-0101", "message": "No match.", "path": "/"}])
        self.assertFalse(waiting.exists())
        self.assertIn("needs its own request", self.one("us-ga").trouble)

    def test_and_has_its_time_once_that_is_accepted(self):
        self.ask(["us", "us-ga"])
        self.send("us", "us-ga")
        self.answered(self.one("us"), "accepted")
        self.assertEqual(self.one("us-ga").state, Asked.UNNEEDED)

    def test_a_payment_wants_its_account_and_day_or_another_way(self):
        self.ask(["us"])
        self.pay("us", "250")
        with self.assertRaisesRegex(extending.CannotExtend, "routing number, account number, type of account, debit date"):
            self.send("us")
        self.key("pay_how", "otherwise", paper=self.return_.papers.get(kind="extension"))
        self.assertEqual(self.send("us"), ["us"])
        self.assertNotIn(b"<Debit>", unseal_bytes(self.one("us").document))
        self.key("paid", "yes", paper=self.return_.papers.get(kind="extension"))  # entered as made
        self.assertEqual(self.line("us.sch-3.10"), 250)

    def test_a_city_is_asked_by_hand(self):
        paper = add_paper(self.preparer, self.return_.pk, "extension")[1]
        add_row(self.preparer, self.return_.pk, paper.pk, "local")
        for path, text in {"authority": "City of Saint Louis", "form": "E-7", "amount": "40", "sent_to": "410 City Hall"}.items():
            self.key(f"local.1.{path}", text, was="", paper=paper)
        self.client.force_login(self.signer)
        self.assertContains(self.client.get(reverse("extensions", args=[self.return_.pk])), "City of Saint Louis")

    def test_an_amount_that_cannot_be_read_changes_nothing(self):
        self.ask()
        with self.assertRaises(BadValue):
            self.pay("us-il", "a lot")
        self.assertEqual(self.line("us-il.il-1040.26"), 0)

    def test_nobody_pays_where_nothing_was_asked(self):
        with self.assertRaisesRegex(extending.CannotExtend, "Request the extension first"):
            self.pay("us", "5")


class SendingTests(ExtendingTestCase):
    def test_only_what_is_ready_goes(self):
        self.ask()
        with self.assertRaisesRegex(extending.CannotExtend, "Nothing is ready"):
            extending.send_ready(self.signer, self.return_.pk)
        self.assertEqual(self.send("us"), ["us"])
        self.assertEqual((self.one("us").state, self.one("us-il").state), (Asked.QUEUED, Asked.OPEN))

    def test_where_nothing_has_to_be_sent_the_later_day_stands_at_once(self):
        self.ask()
        self.assertEqual(self.send("us-il"), [])
        request = self.one("us-il")
        self.assertEqual(
            (request.state, f"{request.until:%Y-%m-%d}", bytes(request.document)), (Asked.UNNEEDED, "2026-10-15", b"")
        )

    def test_a_payment_goes_with_its_form(self):
        self.ask()
        self.account()
        self.pay("us-il", "120")
        self.assertEqual(self.send("us-il"), ["us-il"])
        request = self.one("us-il")
        self.assertEqual((request.form, request.paying), ("IL-505-I", Decimal(120)))
        self.assertIn(b"<Paying>120</Paying>", unseal_bytes(request.document))
        self.assertIn(b"<On>2026-04-10</On>", unseal_bytes(request.document))

    def test_accepted_moves_the_due_date_and_goes_through_the_extensions_door(self):
        self.ask()
        self.send("us")
        handed = self.answered(self.one("us"), "accepted")
        self.assertEqual(handed.call_args.args[4], "extensions")
        self.assertEqual((self.one("us").state, f"{self.again().due:%Y-%m-%d}"), (Asked.ACCEPTED, "2026-10-15"))
        self.assertEqual(self.events("extension accepted").count(), 1)

    def test_refused_may_be_asked_again(self):
        self.ask()
        self.send("us")
        due = self.return_.due
        self.answered(self.one("us"), "rejected", [{"rule": "P-0101", "message": "No match.", "path": "/"}])
        self.assertEqual((self.one("us").state, self.again().due), (Asked.REJECTED, due))
        self.assertEqual(self.ask(["us"]), ["us"])
        self.assertEqual(self.return_.extensions.filter(authority="us").count(), 2)

    def test_what_was_sent_can_no_longer_be_changed(self):
        self.ask()
        self.send("us")
        with self.assertRaisesRegex(extending.CannotExtend, "sent already"):
            self.pay("us", "5")
        with self.assertRaisesRegex(extending.CannotExtend, "sent already"):
            extending.take_back(self.preparer, self.return_.pk, "us")

    def test_an_authority_that_is_away_is_tried_again(self):
        self.ask()
        self.send("us")
        with mock.patch.object(tasks, "hand_in", side_effect=AuthorityAway("no connection")):
            tasks.send(self.one("us").pk, "extension")
        request = self.one("us")
        self.assertEqual((request.state, request.tries), (Asked.QUEUED, 1))
        with mock.patch.object(tasks.send, "ask") as asked:
            Extension.objects.for_firm(self.firm).filter(pk=request.pk).update(next_try_at="2020-01-01T00:00Z")
            make_lost_again()
        asked.assert_called_once_with(submission_id=request.pk, kind="extension")

    def test_a_state_whose_rule_is_not_known_is_not_sent(self):
        self.ask(["us-oh"])
        with self.assertRaisesRegex(extending.CannotExtend, "Ohio"):
            self.send("us-oh")
        self.assertEqual(self.one("us-oh").state, Asked.OPEN)


class PageTests(ExtendingTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer)
        self.url = reverse("extensions", args=[self.return_.pk])

    def test_the_page_from_nothing_asked_to_sent(self):
        self.assertContains(self.client.get(self.url), "Request all")
        self.assertContains(self.client.post(f"{self.url}/ask", follow=True), "2 extensions requested")
        self.assertContains(self.client.post(f"{self.url}/us-il/pay", {"amount": "75"}, follow=True), "Payment with IL-505-I")
        self.account()
        self.assertContains(self.client.post(f"{self.url}/ready", {"ready": "yes"}, follow=True), "2 ready to go")
        self.assertContains(self.client.post(f"{self.url}/send", follow=True), "2 on their way")
        self.assertContains(self.client.get(reverse("dispatch")), "IL-505-I")
        self.assertIn("extension, IL-505-I", self.client.get(f"{reverse('dispatch')}?as=csv").getvalue().decode())
        self.assertIn("Illinois,automatic", self.client.get(f"{self.url}?as=csv").getvalue().decode())

    def test_a_refused_amount_stays_in_its_field(self):
        self.client.post(f"{self.url}/ask")
        page = self.client.post(f"{self.url}/us/pay", {"amount": "a lot"})
        self.assertContains(page, "a lot", status_code=422)

    def test_a_state_that_is_none_is_said_at_its_field(self):
        self.assertContains(self.client.post(f"{self.url}/ask", {"state": "Atlantis"}), "not a state", status_code=422)

    def test_many_returns_at_once_with_a_result_for_each(self):
        url = reverse("more-time")
        self.assertContains(self.client.get(url), "Abernathy, Lorna")
        page = self.round_({"of": [str(self.return_.pk), "999", "x"]})
        self.assertContains(page, "requested from US, US-IL, ready")
        self.assertTrue(all(one.ready for one in self.return_.extensions.all()))
        self.assertContains(self.round_({"of": [str(self.return_.pk)]}), "was requested already")
        self.assertIn("US not sent", self.client.get(f"{url}?as=csv").getvalue().decode())
        self.assertNotContains(self.client.get(f"{url}?q=nobody"), "Abernathy")

    def round_(self, posted):
        """A round begun on the page and done by a worker; the page afterwards."""
        with mock.patch.object(returns_tasks.go_round, "ask") as asked:
            answer = self.client.post(reverse("more-time"), posted)
        returns_tasks.go_round(**asked.call_args.kwargs)
        return self.client.get(answer.url)

    def test_a_round_begun_and_not_done_yet_shows_how_far_it_is(self):
        made = rounds.begin(self.signer, "ask", [self.return_.pk])
        page = self.client.get(f"{reverse('more-time')}?round={made.pk}")
        self.assertContains(page, "0 of 1")
        self.assertContains(page, "hx-trigger")

    def test_nothing_chosen_is_said(self):
        self.assertContains(self.client.post(reverse("more-time"), {}), "Choose at least one return", status_code=422)

    def test_what_is_ready_is_sent_in_a_round_too(self):
        self.round_({"of": [str(self.return_.pk)]})
        self.assertContains(self.round_({"of": [str(self.return_.pk)], "act": "send"}), "1 on their way")
        self.assertEqual(self.one("us").state, Asked.QUEUED)
        again = self.round_({"of": [str(self.return_.pk)], "act": "send"})
        self.assertContains(again, "Nothing is ready")
        self.assertContains(again, "1 not done")

    def test_a_round_goes_on_where_its_worker_stopped(self):
        made = rounds.begin(self.signer, "ask", [self.return_.pk])
        self.assertEqual(rounds.stopped(timezone.now() - timedelta(seconds=30)), [])
        self.assertEqual(rounds.stopped(timezone.now() + timedelta(seconds=1)), [made.pk])
        rounds.go_on(made.pk)
        rounds.go_on(made.pk)
        self.assertEqual(rounds.stopped(timezone.now() + timedelta(seconds=1)), [])
        self.assertEqual(self.return_.extensions.count(), 2)

    def test_an_error_of_the_program_at_one_return_is_its_result(self):
        made = rounds.begin(self.signer, "ask", [self.return_.pk])
        with mock.patch.object(extending, "ask", side_effect=KeyError("x")), self.assertLogs("practice.returns.rounds", "ERROR"):
            rounds.go_on(made.pk)
        self.assertIn("it was logged", made.items.get().says)

    def test_nobody_sends_by_a_round_who_may_not_send(self):
        with self.assertRaises(Refused):
            rounds.begin(self.preparer, "send", [self.return_.pk])
        with self.assertRaises(BadValue):
            rounds.begin(self.stranger, "ask", [self.return_.pk])

    def test_a_round_of_another_practice_is_not_found(self):
        made = rounds.begin(self.signer, "ask", [self.return_.pk])
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(f"{reverse('more-time')}?round={made.pk}").status_code, 404)

    def test_a_reviewer_reads_the_list_and_asks_nobody(self):
        self.client.force_login(self.reviewer)
        self.assertNotContains(self.client.get(reverse("more-time")), "Ask for those chosen")
        self.assertEqual(self.client.post(reverse("more-time"), {"of": [str(self.return_.pk)]}).status_code, 403)

    def test_a_refusal_stands_at_the_head_of_the_return(self):
        self.ask()
        self.send("us")
        self.answered(self.one("us"), "rejected", [{"rule": "P-0101", "message": "No match.", "path": "/"}])
        page = self.client.get(reverse("papers", args=[self.return_.pk]))
        self.assertContains(page, "refused the extension")
