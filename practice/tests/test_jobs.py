"""Every kind of background work: asked for with its transaction, made again when its worker was killed, told when it fails."""

import os
import signal
import subprocess
import sys
import time
from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import connection, transaction
from django.test import TransactionTestCase
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

import practice
from practice.delivery import packaging, printing
from practice.delivery.models import Package, Statement
from practice.dispatch import filing, tasks
from practice.dispatch.models import State, Submission
from practice.fees import billing
from practice.firm import jobs
from practice.intake import arriving, attaching, importing, incoming
from practice.intake.models import Arrival, Attachment, Import
from practice.intake.tests.test_attaching import pdf
from practice.portal import links
from practice.portal.models import Alert, PortalLink
from practice.returns import rounds
from practice.returns.models import HandedOut, Round
from practice.signing import requesting
from practice.signing.models import Signature
from practice.staff import inviting
from practice.tests.office import SIGNATURE, office

# One that is ready, and for each line (a job, its arguments) a copy of it that works on that until it is killed
_WORKERS = """
import os, sys, time, django
from django.conf import settings
settings.DATABASES["default"]["NAME"] = sys.argv[1]
settings.STORAGES["default"]["OPTIONS"]["location"] = sys.argv[2]
settings.FIELD_KEYS = [sys.argv[3]]
django.setup()
from unittest import mock
from practice.firm.jobs import JOBS
def hang(*_, **__):
    print(os.getpid(), flush=True)
    time.sleep(60)
for line in sys.stdin:
    name, arguments = eval(line)
    copy = os.fork()
    if not copy:
        JOBS[name].work = hang
        JOBS[name].run(mock.Mock(job=mock.Mock(attempts=0)), **arguments)
        os._exit(0)
    os.waitpid(copy, 0)
"""


class JobsTests(TransactionTestCase):
    def setUp(self):
        vars(self).update(office())
        requesting.ask_for_signature(self.signer, self.return_.pk)
        for code in ("us", "us-il"):
            requesting.sign_in_office(self.administrator, self.return_.pk, self.client_person.pk, code, SIGNATURE, None, "41706")
        self.old = timezone.now() + timedelta(minutes=10)  # by then everything asked for now is overdue

    def wanted(self):
        """{job: its arguments} of one of every kind, each really asked for."""
        link = PortalLink.objects.for_firm(self.firm).get(closed_at=None)
        links.open_link(link.token_to_mail)
        signature = Signature.objects.for_firm(self.firm).first()
        brought = importing.bring(self.preparer_now(), self._other_return(), "a.json", b'{"format": "impuesto-return"}')
        taken = importing.bring(self.preparer_now(), self._other_return(), "b.csv", b"Payer,Interest\nFerry,12.50", "1099-int")
        importing.read(taken)
        Import.objects.for_firm(self.firm).filter(pk=taken.pk).update(state=Import.State.TAKING)
        arrived, chosen = (arriving.bring(self.preparer_now(), name, b"{}") for name in ("a.json", "b.json"))
        Arrival.objects.for_firm(self.firm).filter(pk=chosen.pk).update(state=Arrival.State.TAKING)
        page = attaching.attach(self.preparer_now(), self._other_return(), None, "page.pdf", pdf(1))
        submission = filing.file_return(self.signer, self.return_.pk)[0]
        sent = Submission.objects.for_firm(self.firm).exclude(pk=submission.pk).first()
        Submission.objects.for_firm(self.firm).filter(pk=sent.pk).update(state=State.SENT, receipt="R-1")
        of = rounds.begin(self.signer, "ask", [self.return_.pk])
        package = Package.objects.create(
            firm=self.firm, of=self.return_, snapshot=Signature.objects.for_firm(self.firm).first().snapshot, asked_by=self.signer
        )
        stated = Statement.objects.create(
            firm=self.firm, of=self.return_, snapshot=package.snapshot, client=self.client_person, code="k-1", name="Schedule K-1",
            mark="-", asked_by=self.signer,
        )  # fmt: skip
        HandedOut.objects.create(
            firm=self.firm, source=self.return_, paper=self.paper, version=1, by=self.signer, follows_by=self.signer,
            follows_at=timezone.now(),
        )  # fmt: skip
        draft = billing.drafted(self.signer, self._other_return())
        billing.add_line(self.signer, draft.pk, None, "Advice", "1", "50")
        invited = inviting.invite(self.signer, "robin@larkspurrow.example", "Robin Vale", "RV", "preparer")
        news = Alert.objects.create(firm=self.firm, of=self.return_, client=self.client_person, way="mail", says="News.")
        came = incoming.receive(self.firm, "mail", "came.pdf", pdf(3))
        printing.begin_with_usual(self.signer)
        printed = printing.ask(self.signer, self.return_.pk, printing.listed(self.firm).first().pk)
        return {
            "print set": {"printed_id": printed.pk}, "alert": {"alert_id": news.pk},
            "look at incoming": {"incoming_id": came.pk},
            "invoice": {"invoice_id": billing.send(self.signer, draft.pk).pk}, "mail invitation": {"invitation_id": invited.pk},
            "mail link": {"link_id": link.pk}, "mail code": {"link_id": link.pk}, "authorization": {"signature_id": signature.pk},
            "read file": {"import_id": brought.pk}, "import file": {"import_id": taken.pk},
            "draw pages": {"attachment_id": page.pk},
            "read clients": {"arrival_id": arrived.pk}, "take clients in": {"arrival_id": chosen.pk},
            "send": {"submission_id": submission.pk, "kind": "return"}, "poll": {"submission_id": sent.pk, "kind": "return"},
            "round": {"round_id": of.pk}, "package": {"package_id": package.pk},
            "statement": {"statement_id": stated.pk}, "follow": {"return_id": self.return_.pk},
        }  # fmt: skip

    def preparer_now(self):
        return type(self.preparer).objects.get(pk=self.preparer.pk)

    def _other_return(self):
        from practice.returns.opening import open_return

        existing = self.household.returns.filter(year=2024).first()
        made = existing or open_return(self.preparer_now(), self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        return made.pk

    def test_each_is_made_again_after_its_worker_was_killed(self):
        wanted = self.wanted()
        self.assertEqual(set(wanted), set(jobs.JOBS), "a job without a case here")
        workers = self._workers()
        for name, arguments in wanted.items():
            with self.subTest(name):
                workers.stdin.write(f"{(name, arguments)!r}\n")
                workers.stdin.flush()
                working = int(workers.stdout.readline())
                self.assertFalse(self._free(name, arguments), "a second worker could do it at the same time")
                os.kill(working, signal.SIGKILL)
                self.until_free(name, arguments)
                self.assertIn(arguments, list(jobs.JOBS[name].lost(self.old)))
                ProcrastinateJob.objects.all().delete()
                jobs.make_lost_again(self.old)
                again = ProcrastinateJob.objects.filter(task_name=f"practice:{name}", args=arguments, status="todo")
                self.assertEqual(again.count(), 1)
                jobs.make_lost_again(self.old)
                self.assertEqual(again.count(), 1, "it waits already and was asked for twice")

    def _workers(self):
        environment = os.environ | {"PYTHONPATH": str(Path(practice.__file__).parents[1])}
        places = [connection.settings_dict["NAME"], str(default_storage.location), settings.FIELD_KEYS[0]]
        command = [sys.executable, "-c", _WORKERS, *places]
        made = subprocess.Popen(command, env=environment, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
        self.addCleanup(made.wait)
        for pipe in (made.stdout, made.stdin):
            self.addCleanup(pipe.close)
        return made

    def _free(self, name, arguments):
        with jobs._held(f"{name}:{jobs._mark(arguments)}") as mine:
            return mine

    def until_free(self, name, arguments):
        until = time.monotonic() + 10
        while not self._free(name, arguments):
            self.assertLess(time.monotonic(), until, "the lock outlived its worker")
            time.sleep(0.05)

    def test_each_that_keeps_failing_says_so_on_its_row_and_can_be_asked_for_again(self):
        wanted = self.wanted()
        for name, arguments in wanted.items():
            one = jobs.JOBS[name]
            with self.subTest(name), mock.patch.object(one, "work", side_effect=RuntimeError("broken")):
                with self.assertRaises(RuntimeError):
                    one.run(mock.Mock(job=mock.Mock(attempts=0)), **arguments)
                with self.assertLogs("practice.firm.jobs", "ERROR"):
                    one.run(mock.Mock(job=mock.Mock(attempts=one.tries)), **arguments)
        failed = "the program failed (RuntimeError)"
        firm = self.firm
        self.assertIn(failed, PortalLink.objects.for_firm(firm).get(pk=wanted["mail link"]["link_id"]).trouble)
        self.assertIn(failed, Signature.objects.for_firm(firm).get(pk=wanted["authorization"]["signature_id"]).trouble)
        self.assertIn(failed, Package.objects.for_firm(firm).get(pk=wanted["package"]["package_id"]).trouble)
        for name in ("read file", "import file"):
            self.assertIn(failed, Import.objects.for_firm(firm).get(pk=wanted[name]["import_id"]).errors[0]["says"])
        self.assertIn(failed, Attachment.objects.for_firm(firm).get(pk=wanted["draw pages"]["attachment_id"]).says)
        for name in ("read clients", "take clients in"):
            self.assertIn(failed, Arrival.objects.for_firm(firm).get(pk=wanted[name]["arrival_id"]).says)
        for name in ("send", "poll"):
            self.assertIn(failed, Submission.objects.for_firm(firm).get(pk=wanted[name]["submission_id"]).trouble)
        self.assertIn(failed, Round.objects.for_firm(firm).get(pk=wanted["round"]["round_id"]).items.get().says)
        for name in (
            "mail link",
            "authorization",
            "read file",
            "draw pages",
            "package",
            "round",
            "read clients",
            "take clients in",
        ):
            self.assertNotIn(wanted[name], list(jobs.JOBS[name].lost(self.old)), name)  # not again and again without end
        requesting.make_authorization_again(self.signer, self.return_.pk, wanted["authorization"]["signature_id"])
        self.assertIn(wanted["authorization"], list(jobs.JOBS["authorization"].lost(self.old)))

    def test_asked_for_with_its_transaction_or_not_at_all(self):
        ProcrastinateJob.objects.all().delete()
        with self.assertRaises(ZeroDivisionError), transaction.atomic():
            rounds.begin(self.signer, "ask", [self.return_.pk])
            raise ZeroDivisionError
        self.assertEqual(ProcrastinateJob.objects.count(), 0)
        rounds.begin(self.signer, "ask", [self.return_.pk])
        self.assertEqual(ProcrastinateJob.objects.get().task_name, "practice:round")

    def test_finished_jobs_leave_the_queue(self):
        self.assertIn("practice:prune", {one.task.name for one in jobs.app.periodic_registry.periodic_tasks.values()})
        self.assertTrue(packaging.make_package and tasks.send)
