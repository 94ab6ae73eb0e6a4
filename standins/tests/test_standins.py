"""The identity service's manners, and mail that is kept as it came."""

import smtplib
import socket
import tempfile
from pathlib import Path
from unittest import TestCase

from standins.identity import TRIES, IdentityService
from standins.mail import Mailbox, serve

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
