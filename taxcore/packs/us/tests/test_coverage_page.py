"""docs/law-coverage.md names every form and every stop."""

import re
from pathlib import Path
from unittest import TestCase

from taxcore.packs.us import PACK
from taxcore.packs.us.tests.test_checks import CASES

PAGE = (Path(__file__).resolve().parents[4] / "docs" / "law-coverage.md").read_text()


class CoveragePageTests(TestCase):
    def test_every_form_is_named(self):
        for form in PACK.forms:
            self.assertRegex(PAGE, rf"(?m)^\| {re.escape(form.number)}[ |]", form.number)

    def test_every_stop_for_unsupported_law_is_named(self):
        for code in {code for code, _, _ in CASES if ".unsupported." in code}:
            self.assertIn(f"`{code}`", PAGE)

    def test_every_stop_that_is_named_exists(self):
        named = set(re.findall(r"`(us\.unsupported\.[\w-]+)`", PAGE))
        self.assertEqual(named - {code for code, _, _ in CASES}, set())
