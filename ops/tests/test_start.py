"""The start command as a newcomer meets it: a fresh clone, its own data folder, stopped without a trace; clear errors."""

import contextlib
import os
import re
import shutil
import signal
import socket
import subprocess
import tempfile
import time
import urllib.request
from pathlib import Path
from unittest import TestCase, mock

import ops.prepared
from ops import versions
from ops.installation import HOME, Installation
from ops.machine import free_port
from ops.making import CSS, css_inputs, made_files
from ops.prepared import is_prepared, note_prepared
from ops.start import granian
from ops.tests.running import RunningPractice, clean_environment, leftovers
from ops.trouble import Trouble


def run(*arguments, home=HOME, **environment):
    command = [str(home / "impuesto"), *map(str, arguments)]
    return subprocess.run(command, cwd="/", env=clean_environment() | environment, capture_output=True, text=True, timeout=120)


class FreshCloneTests(TestCase):
    def test_a_fresh_clone_starts_is_set_up_stops_and_leaves_nothing_running(self):
        """Without the demo: that one is made by the same command for every other class here (running.prepared)."""
        folder = Path(tempfile.mkdtemp(prefix="impuesto-clone-"))
        self.addCleanup(shutil.rmtree, folder, True)
        clone = folder / "impuesto"
        subprocess.run(["git", "clone", "-q", str(HOME), str(clone)], check=True)
        practice = RunningPractice(clone, demo=False)
        self.addCleanup(practice.destroy)
        practice.start(seconds=300)
        self.assertIn("Sign in", practice.sent(re.search(r"/set-up/\S+", practice.said())[0], self.FIRM))
        self.assertIn("Desk", self.sign_in(practice))
        again = run("start", "--port", practice.port + 1, "--data", practice.data)
        self.assertEqual(again.returncode, 3)
        self.assertIn("already runs", again.stderr)
        self.assertEqual(practice.stop(), 0)
        self.assertEqual(leftovers(practice.data), [])
        # A second start finds everything made and the same practice in it
        practice.start()
        self.assertIn("Desk", self.sign_in(practice))
        self.assertEqual(practice.sql("select name from firm_firm"), "Quarry Hill Tax")
        self.assertEqual(practice.stop(), 0)

    FIRM = {"name": "Quarry Hill Tax", "person": "Ada Rook", "initials": "AR", "email": "ada@quarryhill.example",
            "password": "a long password"}  # fmt: skip

    def sign_in(self, practice):
        return practice.sent("/sign-in", {"username": self.FIRM["email"], "password": self.FIRM["password"], "next": "/"})


class SecretTests(TestCase):
    def made(self, **there):
        folder = Path(tempfile.mkdtemp(prefix="impuesto-secrets-"))
        self.addCleanup(shutil.rmtree, folder, True)
        (folder / "secrets").mkdir()
        for name, text in there.items():
            (folder / "secrets" / name).write_text(text)
        Installation(folder).make_secrets()
        return {path.name: path.read_text() for path in (folder / "secrets").iterdir()}

    def test_fingerprints_have_a_secret_of_their_own(self):
        made = self.made()
        self.assertEqual(
            set(made),
            {"secret_key", "field_keys", "authority_key", "digest_key", "payment_key", "text_key", "mail_in_key", "set_up_key"},
        )
        self.assertEqual(len(set(made.values())), 8)

    def test_those_of_an_earlier_program_stay_right(self):
        self.assertEqual(self.made(field_keys="newer oldest")["digest_key"], "oldest")
        self.assertEqual(self.made(field_keys="newer oldest", digest_key="its own")["digest_key"], "its own")


class TroubleTests(TestCase):
    def data(self):
        folder = Path(tempfile.mkdtemp(prefix="impuesto-trouble-"))
        folder.chmod(0o711)
        self.addCleanup(shutil.rmtree, folder, True)
        return folder

    def test_a_taken_port_is_named_with_what_mends_it(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            done = run("start", "--port", port, "--data", self.data())
        self.assertEqual(done.returncode, 3)
        self.assertIn(f"Port {port} is taken", done.stderr)
        self.assertIn("What mends it: ./impuesto start --port", done.stderr)

    def test_a_verb_that_is_none(self):
        done = run("frobnicate")
        self.assertEqual(done.returncode, 3)
        self.assertIn("./impuesto help", done.stderr)

    def test_a_database_that_cannot_start_says_where_to_look(self):
        data = self.data()
        (data / "pg" / "data").mkdir(parents=True)
        (data / "pg" / "data" / "PG_VERSION").write_text("15")
        done = run("start", "--port", free_port(), "--data", data)
        self.assertEqual(done.returncode, 3)
        self.assertIn("PostgreSQL", done.stderr)
        self.assertIn("What mends it", done.stderr)

    def test_missing_packages_are_named_to_those_who_may_not_install(self):
        from ops import machine

        with (
            mock.patch.object(machine, "postgres_programs", return_value=None),
            mock.patch.object(os, "geteuid", return_value=1000),
            self.assertRaises(Trouble) as caught,
        ):
            machine.ensure_packages()
        self.assertIn("postgresql", caught.exception.happened)
        self.assertIn("sudo apt-get install", caught.exception.mend)

    def test_compute_needs_no_database(self):
        done = run("compute", "/nowhere.json", IMPUESTO_DATA="/nonexistent")
        self.assertEqual(done.returncode, 2)
        self.assertIn("/nowhere.json", done.stderr)


class ServingTests(TestCase):
    APP = """
import os
LOADED_BY = os.getpid()
def application(environ, start):
    start("200 OK", [("Content-Type", "text/plain"), ("Connection", "close")])
    return [f"{LOADED_BY} {os.getpid()}".encode()]
"""

    def test_an_application_is_loaded_once_and_a_worker_that_is_killed_is_copied_anew(self):
        folder = Path(tempfile.mkdtemp(prefix="impuesto-serving-"))
        self.addCleanup(shutil.rmtree, folder, True)
        (folder / "served_by_tests.py").write_text(self.APP)
        self.port = free_port()
        command = granian("served_by_tests:application", self.port, 1, 1)
        environment = clean_environment() | {"PYTHONPATH": f"{HOME}:{folder}"}
        process = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        self.addCleanup(process.wait, 20)
        self.addCleanup(process.terminate)
        loaded, first = self.answered()
        self.assertEqual(loaded, process.pid)
        self.assertNotEqual(first, process.pid)
        os.kill(first, signal.SIGKILL)
        loaded, second = self.answered(but=first)
        self.assertEqual(loaded, process.pid)
        self.assertNotIn(second, (first, process.pid))

    def answered(self, but=0):
        """(process that loaded the application, process that answered), as soon as another than `but` answers."""
        until = time.monotonic() + 30
        while time.monotonic() < until:
            with contextlib.suppress(OSError), urllib.request.urlopen(f"http://127.0.0.1:{self.port}/", timeout=5) as page:
                loaded, answered = map(int, page.read().split())
                if answered != but:
                    return loaded, answered
            time.sleep(0.05)
        raise AssertionError("nobody answered")


class PreparedTests(TestCase):
    """Nothing is prepared anew where all is as it was left; anything else is a reason to."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.data = Path(folder.name)
        for name in ("schemas", "static"):
            (self.data / name).mkdir()
            (self.data / name / "one").write_text("made")
        self.asked = "16384|firm.0001_initial"
        cluster = mock.Mock(psql=lambda database, sql: self.answer())
        self.installation = mock.Mock(data=self.data, cluster=cluster)

    def answer(self):
        if not self.asked:
            raise Trouble("psql: there is no such database", "")
        return self.asked

    def test_as_it_was_left(self):
        self.assertFalse(is_prepared(self.installation, demo=True))
        note_prepared(self.installation, demo=True)
        self.assertTrue(is_prepared(self.installation, demo=True))
        self.assertFalse(is_prepared(self.installation, demo=False))

    def test_anything_else_is_a_reason(self):
        note_prepared(self.installation, demo=True)
        for asked in ("16384|firm.0001_initial firm.0002_more", "16999|firm.0001_initial", ""):
            with self.subTest(asked), mock.patch.object(self, "asked", asked):
                self.assertFalse(is_prepared(self.installation, demo=True))
        with mock.patch.dict(os.environ, IMPUESTO_PACKS="uk"):
            self.assertFalse(is_prepared(self.installation, demo=True))
        (self.data / "static" / "one").unlink()
        self.assertFalse(is_prepared(self.installation, demo=True))

    def test_of_another_program(self):
        with tempfile.TemporaryDirectory() as folder, mock.patch.object(ops.prepared, "HOME", Path(folder)):
            code = Path(folder, "practice", "web")
            code.mkdir(parents=True)
            (code / "urls.py").write_text("one")
            note_prepared(self.installation, demo=True)
            (code / "__pycache__").mkdir()
            (code / "__pycache__" / "urls.pyc").write_text("compiled")
            self.assertTrue(is_prepared(self.installation, demo=True))
            (code / "urls.py").write_text("another")
            self.assertFalse(is_prepared(self.installation, demo=True))


class CommittedFileTests(TestCase):
    def test_the_styles_are_made_from_the_present_sources(self):
        self.assertIn(css_inputs(), CSS.read_text()[:100], "The committed CSS is stale: run ./impuesto assets")

    def test_schemas_and_registers_are_made_from_the_present_declarations(self):
        for path, content in made_files().items():
            self.assertEqual(path.read_text(), content, f"{path.name} is stale: run ./impuesto schemas")

    def test_migrations_are_complete(self):
        from django.core.management import call_command

        call_command("makemigrations", "--check", "--dry-run", "-v0")

    def test_scripts_and_first_page_stay_small(self):
        ours = sum(path.stat().st_size for path in CSS.parent.glob("*.mjs"))
        self.assertLess(ours, 40_000)


class OtherProgramTests(TestCase):
    """A database whose tables were made step by step is taken over where every step was done."""

    STEPS = versions._files("practice", "clients")

    def missing(self, *left_out, **also):
        done = {("clients", step) for steps in self.STEPS.values() for step in steps if step not in left_out}
        return versions._missing_steps("practice", done | {("clients", name) for name in also})

    def test_made_step_by_step(self):
        self.assertEqual(self.missing(), "")

    def test_a_step_is_missing(self):
        for steps in filter(None, self.STEPS.values()):
            for step in steps:
                self.assertEqual(self.missing(step), f"clients {step}")

    def test_made_as_a_whole_and_stopped_between_two(self):
        (last,) = self.STEPS["0002_references"]
        self.assertEqual(self.missing(last, **{"0001_tables": True}), "")

    def test_what_a_step_was_called_is_known(self):
        self.assertTrue(all(versions._known("practice", "clients", step) for steps in self.STEPS.values() for step in steps))
        self.assertFalse(versions._known("practice", "clients", "9999_of_tomorrow"))
