"""Templates compile, partials say what they take, and nothing in a page is written inline."""

import re
from decimal import Decimal
from pathlib import Path

from django.template.loader import get_template
from django.test import SimpleTestCase

from practice.web.templatetags.figures import brief

_ROOT = Path(__file__).resolve().parents[2]
_PAGES = sorted(_ROOT.glob("*/templates/**/*.html"))


class TemplateTests(SimpleTestCase):
    def test_a_line_is_read_at_once(self):
        for path in _PAGES:
            longest = max(path.read_text().splitlines(), key=len, default="")
            self.assertLessEqual(len(longest), 160, f"{path.name}: {longest[:100]}")

    def test_every_template_compiles(self):
        for path in [*_PAGES, *_ROOT.glob("*/templates/**/*.txt")]:
            name = str(path.relative_to(path.parents[1] if path.parents[1].name == "templates" else path.parents[2]))
            with self.subTest(name):
                get_template(name)

    def test_every_fragment_says_what_it_takes(self):
        for path in _PAGES:
            if path.name.startswith("_"):
                with self.subTest(path.name):
                    self.assertRegex(path.read_text().lstrip(), r"^(\{# .+ #\}|\{% comment %\})")

    def test_no_inline_script_style_or_handler(self):
        for path in _PAGES:
            if path.parent.name in ("delivery",) or path.name == "authorization.html" or path.name.endswith("_pdf.html"):
                continue  # printed by the server, never shown by a browser
            with self.subTest(path.name):
                self.assertIsNone(re.search(r"<style|\sstyle=|<script(?![^>]*src=)|\son[a-z]+=|hx-on", path.read_text()))


class FigureTests(SimpleTestCase):
    def test_a_share_is_not_rounded_to_one(self):
        self.assertEqual(
            [brief(Decimal(one)) for one in ("0.6", "0.3333", "12.4", "0", "-1500.2")], ["0.60", "0.3333", "12", "0", "(1,500)"]
        )
