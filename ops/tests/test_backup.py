"""A backup brings a practice back whole on another machine: figures, files, and numbers that can be read."""

import tarfile
import tempfile
from pathlib import Path
from unittest import TestCase

import psycopg
from cryptography.fernet import Fernet

from ops.cluster import USER
from ops.installation import Installation
from ops.tests.running import RunningPractice, copy_prepared
from ops.tests.test_start import run


class BackupTests(TestCase):
    def test_what_was_backed_up_runs_elsewhere(self):
        first, second = RunningPractice(), RunningPractice()
        self.addCleanup(first.destroy)
        self.addCleanup(second.destroy)
        first.start()
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "practice.backup"
            done = run("backup", file, IMPUESTO_DATA=str(first.data))
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertEqual(file.stat().st_mode & 0o777, 0o600)
            busy = run("restore", file, IMPUESTO_DATA=str(first.data))
            self.assertIn("is running", busy.stderr)
            wanted = first.sql("select count(*), sum(together) from returns_return")
            first.stop()
            done = run("restore", file, IMPUESTO_DATA=str(second.data))
            self.assertEqual(done.returncode, 0, done.stderr)
        second.start()
        self.assertEqual(second.sql("select count(*) from pg_database where datname like '%restor%'"), "0")
        self.assertEqual(second.sql("select count(*), sum(together) from returns_return"), wanted)
        read = "from practice.clients.models import Person; print(Person.objects.across_firms('test').get(first_name='Lorna').number)"
        shown = run("manage", "practice", "shell", "-v0", "-c", read, IMPUESTO_DATA=str(second.data))
        self.assertIn("921-17-5580", shown.stdout, shown.stderr)

    def test_a_restore_that_fails_leaves_the_practice_as_it_was(self):
        practice = RunningPractice()
        self.addCleanup(practice.destroy)
        copy_prepared(practice.data)
        cluster = Installation(practice.data).cluster
        cluster.ensure()  # nothing else of it has to run yet
        with tempfile.TemporaryDirectory() as folder:
            file, cut, other = (Path(folder) / name for name in ("practice.backup", "cut.backup", "other.backup"))
            self.assertEqual(run("backup", file, IMPUESTO_DATA=str(practice.data)).returncode, 0)
            wanted = practice.sql("select count(*), sum(together) from returns_return")
            practice.sql("insert into django_migrations (app, name, applied) values ('returns', '9999_of_tomorrow', now())")
            newer = run("backup", other, IMPUESTO_DATA=str(practice.data))
            self.assertIn("returns 9999_of_tomorrow is not known here", newer.stderr)  # it could not be restored here: no backup
            self.assertFalse(other.exists())
            practice.sql("delete from django_migrations where name = '9999_of_tomorrow'")
            practice.sql("update clients_household set trade = 'since the backup'")
            cluster.stop()
            cut.write_bytes(file.read_bytes()[:-20_000])
            spoiled = self.without_keys(file, Path(folder) / "spoiled")
            for bad, words in ((cut, "is no backup"), (spoiled, "keys in the backup")):
                with self.subTest(bad.name):
                    done = run("restore", bad, IMPUESTO_DATA=str(practice.data))
                    self.assertEqual((done.returncode, words in done.stderr), (3, True), done.stderr)
            self.stopped_between_two_renamings(practice, file)
            practice.start()
            self.assertEqual(practice.sql("select count(*), sum(together) from returns_return"), wanted)
            self.assertEqual(practice.sql("select distinct trade from clients_household"), "since the backup")
            self.assertEqual(practice.sql("select count(*) from pg_database where datname like '%restor%'"), "0")
            self.newer_program_is_refused(practice)

    def stopped_between_two_renamings(self, practice, file):
        """Somebody is in the second database, so that it cannot be renamed when the first has been."""
        cluster = Installation(practice.data).cluster
        cluster.ensure()
        with psycopg.connect(host="127.0.0.1", port=cluster.port, user=USER, password=cluster.password, dbname="authority"):
            done = run("restore", file, IMPUESTO_DATA=str(practice.data))
        cluster.stop()
        self.assertEqual((done.returncode, "being accessed" in done.stderr), (3, True), done.stderr)

    def newer_program_is_refused(self, practice):
        practice.sql("insert into django_migrations (app, name, applied) values ('returns', '9999_of_tomorrow', now())")
        practice.stop()
        with self.assertRaisesRegex(AssertionError, "made by a newer program: returns 9999_of_tomorrow"):
            practice.start()

    def without_keys(self, file, folder):
        """The same backup with other keys: everything is there, and nothing can be read."""
        with tarfile.open(file) as tar:
            tar.extractall(folder)  # noqa: S202 - made by this test
        (folder / "secrets" / "field_keys").write_text(Fernet.generate_key().decode())
        made = folder.with_suffix(".backup")
        with tarfile.open(made, "w:gz") as tar:
            for part in folder.iterdir():
                tar.add(part, part.name)
        return made

    def test_a_file_that_is_none_is_refused_before_anything_is_touched(self):
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "x"
            file.write_text("no backup")
            self.refused(file, "is no backup")
            for name, kind in (("../beside", tarfile.REGTYPE), ("/tmp/beside", tarfile.REGTYPE), ("link", tarfile.SYMTYPE)):
                with tarfile.open(file, "w:gz") as tar:
                    member = tarfile.TarInfo(name)
                    member.type, member.linkname = kind, "/etc/passwd"
                    tar.addfile(member)
                with self.subTest(name):
                    self.refused(file, f"is no backup: {name} is in it")

    def refused(self, file, says):
        done = run("restore", file, IMPUESTO_DATA=str(file.parent / "data"))
        self.assertEqual(done.returncode, 3)
        self.assertIn(says, done.stderr)
