"""`./impuesto compute`: no database, plain words when something is wrong."""

import contextlib
import io
import json
import tempfile
from pathlib import Path
from unittest import TestCase

from taxcore.__main__ import main
from taxcore.engine import document
from taxcore.packs.us.tests.returns import data, w2


class ComputeCommandTests(TestCase):
    def run_it(self, *arguments, content=None):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "return.json"
            path.write_text(content if content is not None else json.dumps(document.write(data(w2(61_480, 5_212)))))
            out, err = io.StringIO(), io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                code = main([str(path), *arguments])
        return code, out.getvalue(), err.getvalue()

    def test_prints_every_line_as_json(self):
        code, out, _ = self.run_it()
        printed = json.loads(out)
        self.assertEqual((code, printed["lines"]["us.1040.16"], printed["bottom_lines"]["us"]), (0, "5249", "-37"))

    def test_explains_one_figure(self):
        _, out, _ = self.run_it("--explain", "us.1040.16")
        self.assertEqual(json.loads(out)["way_to_the_bottom_line"][-1], "us.1040.37")

    def test_computes_under_another_years_law(self):
        _, out, _ = self.run_it("--year", "2024")
        self.assertEqual(json.loads(out)["lines"]["us.1040.12"], "14600")

    REFUSED = [  # why                         arguments                     content                                        words
        ("not JSON",                           [],                           "{",                                           "Expecting"),
        ("no return",                          [],                           "{}",                                          "format"),
        ("an address that is not there",       ["--explain", "us.1040.99"],  None,                                          "us.1040.99"),
        ("a year without law",                 ["--year", "1980"],           None,                                          "1980"),
        ("a country that is not known",        [],  '{"format":"impuesto-return","version":1,"year":2025,"pack":"xx"}',     "xx"),
    ]  # fmt: skip

    def test_says_what_is_wrong_in_one_line(self):
        for why, arguments, content, words in self.REFUSED:
            with self.subTest(why):
                code, out, err = self.run_it(*arguments, content=content)
                self.assertEqual((code, out), (2, ""))
                self.assertIn(words, err)
                self.assertEqual(len(err.strip().splitlines()), 1)
