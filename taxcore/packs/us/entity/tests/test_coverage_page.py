"""docs/law-coverage.md names every form of entities' returns."""

import re
from pathlib import Path
from unittest import TestCase

from taxcore.packs.us.corporation import PACK as CORPORATION
from taxcore.packs.us.partnership import PACK as PARTNERSHIP
from taxcore.packs.us.s_corporation import PACK as S_CORPORATION

PAGE = (Path(__file__).resolve().parents[5] / "docs" / "law-coverage.md").read_text()


class CoveragePageTests(TestCase):
    def test_every_form_is_named(self):
        part = PAGE.split("## Partnerships, S corporations, corporations")[1].split("\n## ")[0]
        for form in (*PARTNERSHIP.forms, *S_CORPORATION.forms, *CORPORATION.forms):
            self.assertRegex(part, rf"(?m)^\| (?:[^|]*, )?{re.escape(form.number)}[ |,]", form.number)
