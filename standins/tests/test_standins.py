"""The identity service's manners, and mail that is kept as it came."""

import smtplib
import socket
import tempfile
from pathlib import Path
from unittest import TestCase

from standins.identity import TRIES, IdentityService
from standins.mail import Mailbox, serve
from standins.payment import PaymentService
from standins.texting import TextGateway

PERSON = {"number": "912043371", "last_name": "Quist", "birth_date": "1983-05-19", "birth_month": "May", "street": "Heron Street",
          "worked_at": "Kittiwake Boatworks LLC"}  # fmt: skip
CLAIM = {"number_end": "3371", "last_name": "quist", "birth_date": "1983-05-19"}
RIGHT = {"street": "Heron Street", "month": "May", "place": "Kittiwake Boatworks LLC"}


class IdentityTests(TestCase):
    def setUp(self):
        self.service = IdentityService([PERSON])

    def test_questions_hold_the_right_answer_and_do_not_say_which(self):
        check = self.service.begin(CLAIM)
        for question in check["questions"]:
            self.assertIn(RIGHT[question["id"]], question["options"])
            self.assertNotIn("right", question)
            self.assertEqual(len(set(question["options"])), 4)

    def test_right_answers_pass_and_close_the_check(self):
        check = self.service.begin(CLAIM)["id"]
        self.assertTrue(self.service.answer(check, RIGHT)["passed"])
        self.assertIsNone(self.service.answer(check, RIGHT))

    def test_wrong_answers_run_out(self):
        check = self.service.begin(CLAIM)["id"]
        left = [self.service.answer(check, RIGHT | {"month": "June"})["tries_left"] for _ in range(TRIES)]
        self.assertEqual(left, [1, 0])
        self.assertIsNone(self.service.answer(check, RIGHT))

    def test_somebody_whom_nobody_met_is_asked_about_what_the_office_sent(self):
        claim = {"number_end": "7788", "last_name": "Nettle", "birth_date": "1983-05-19", "street": "Cattail Road"}
        check = self.service.begin(claim)
        self.assertEqual([question["id"] for question in check["questions"]], ["street", "month", "year"])
        right = {"street": "Cattail Road", "month": "May", "year": "1983"}
        self.assertTrue(self.service.answer(check["id"], right)["passed"])
        self.assertIsNone(self.service.begin(claim | {"birth_date": "1983-05-20"}))  # another birth date than the first time

    def test_who_contradicts_the_register_or_asks_to_be_refused_gets_no_questions(self):
        for change in ({"number_end": "0000"}, {"number_end": "0007"}, {"last_name": ""}, {"birth_date": "1983-05-20"}):
            self.assertIsNone(self.service.begin(CLAIM | change), change)


class MailTests(TestCase):
    def test_what_is_sent_is_kept_and_shown(self):
        with tempfile.TemporaryDirectory() as folder, socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]
            probe.close()
            mailbox = Mailbox(Path(folder))
            controller = serve(mailbox, port)
            try:
                with smtplib.SMTP("127.0.0.1", port, timeout=5) as server:
                    server.sendmail(
                        "a@x.example", ["b@y.example"], "To: b@y.example\nSubject: Hello\n\nSee http://z.example/<1>\n"
                    )
            finally:
                controller.stop()
            (message,) = mailbox.messages()
            self.assertEqual((message["to"], message["subject"]), ("b@y.example", "Hello"))
            self.assertNotIn("<1>", mailbox.page())


class PaymentTests(TestCase):
    ASKED = {"key": "k1", "amount": "405.00", "currency": "USD", "what": "Invoice <1>", "back": "http://127.0.0.1/back"}

    def setUp(self):
        self.file = Path(tempfile.mkdtemp()) / "payments.json"
        self.service = self.again()

    def again(self):
        return PaymentService(self.file, "http://127.0.0.1:1", "secret")

    def test_one_key_opens_one_payment_that_a_restart_keeps(self):
        made = self.service.open(self.ASKED)
        self.assertEqual(self.service.open(self.ASKED), made)
        self.assertEqual(self.again().open(self.ASKED), made)
        self.assertEqual(self.again().state(made["id"]), {"state": "open", "amount": "405.00", "reference": ""})
        for wrong in ({"amount": "0"}, {"amount": "NaN"}, {"amount": "x"}, {"back": "javascript:1"}, {"key": ""}):
            self.assertIsNone(self.service.open(self.ASKED | wrong), wrong)

    def test_a_card_pays_once_one_is_declined_and_others_are_told(self):
        name, other = (self.service.open(self.ASKED | {"key": key})["id"] for key in ("a", "b"))
        self.assertIn("16 digits", self.service.pay(name, b"card=4")[0])
        self.assertEqual(self.service.pay(name, b"leave=1&card="), ("", self.ASKED["back"]))
        self.assertEqual(self.service.state(name)["state"], "open")
        self.service.pay(name, b"card=4000+0000+0000+0010")
        self.service.pay(name, b"card=4000000000000002")
        self.service.pay(other, b"card=4000000000000002")
        self.assertEqual([self.again().state(one)["state"] for one in (name, other)], ["paid", "declined"])
        self.assertIn("Invoice &lt;1&gt;", self.service.page(name))
        self.assertIsNone(self.service.pay("nobody", b""))

    def test_only_who_knows_the_key_is_served(self):
        self.assertTrue(self.service.knows("Bearer secret"))
        self.assertFalse(self.service.knows("Bearer guess"))


class TextTests(TestCase):
    def test_one_key_sends_once_and_a_restart_forgets_nothing(self):
        file = Path(tempfile.mkdtemp()) / "texts.json"
        gateway = TextGateway(file, "secret")
        asked = {"key": "a", "to": "(815) 555-0142", "text": "News."}
        self.assertEqual(gateway.send(asked), gateway.send(asked))
        self.assertEqual([one["text"] for one in TextGateway(file, "secret").messages()], ["News."])
        for wrong in ({"to": "12"}, {"text": ""}, {"text": "x" * 161}, {"key": ""}):
            self.assertIn("error", gateway.send(asked | wrong))
        self.assertTrue(gateway.knows("Bearer secret"))
        self.assertFalse(gateway.knows("secret"))
