"""A backup brings a practice back whole on another machine: figures, files, and numbers that can be read."""

import tempfile
from pathlib import Path
from unittest import TestCase

from ops.tests.running import RunningPractice
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
        self.assertEqual(second.sql("select count(*), sum(together) from returns_return"), wanted)
        read = "from practice.clients.models import Person; print(Person.objects.across_firms('test').get(first_name='Lorna').number)"
        shown = run("manage", "practice", "shell", "-v0", "-c", read, IMPUESTO_DATA=str(second.data))
        self.assertIn("921-17-5580", shown.stdout, shown.stderr)

    def test_a_file_that_is_none_is_refused_before_anything_is_touched(self):
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "x"
            file.write_text("no backup")
            done = run("restore", file, IMPUESTO_DATA=str(Path(folder) / "data"))
            self.assertEqual(done.returncode, 3)
            self.assertIn("is no backup", done.stderr)
