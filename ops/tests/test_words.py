"""Words that must not come back: what people read in the product, in the trade's own words and in American spelling.

Read are the declarations of the packs (papers, fields, options, lines, diagnostics, questions), every text of the programs that is
longer than a code, the templates and the mails, and the documents. Names of things in the code are not read.
"""

import ast
import re
from unittest import TestCase

from ops.installation import HOME

BRITISH = (
    "dependant", "itemis", "cheque", "licen[c]e", "labour", "favour", "colour", "behaviour", "authoris", "organis", "recognis",
    "realis[ei]", "amortis", "annualis", "instalment", "cancelled", "acknowledgement", "programme", "travelled", "labelled",
    "judgement", "neighbour", "honour", "enrol(?!l)", "whilst", "learnt", "initialled", "non-resident", "catalogue", "harbour",
    "pupil",
)  # fmt: skip
OURS_NO_LONGER = (
    "more time to file", "more time for", "ask for more time", "filing together", "filing apart", "files apart", "filed apart",
    "return apart", "returns apart", "return of both", "keyed(?! (?:fingerprint|digest))", "guided way", "who changed what",
    "same sender again", "put aside", "hear it again", "silenced", "hand over", "in my care", "in the care of", "handed in",
    "take it out", "taken out", "carried in(?!terest)", "carried on", "together with the authority", "nobody needs to hear",
    "shared out", "left out by hand", "set by hand", "figures that matter", "goes along", "look at them", "look into it",
    "comes back", "first look", "lock the figures", "ask for signatures", "mail address",
    "given out by", "identity protection pin", "somebody else can claim", "pay without employment", "business books",
    "share of a partnership", "took part materially", "marketplace cover\\b", "minimum tax items", "issue discount statement",
    "public payments", "gifts carried", "time comes by itself", "send it to united states",
)  # fmt: skip
_BRITISH = re.compile("|".join(rf"\b(?:{one})" for one in BRITISH), re.IGNORECASE)
_OURS = re.compile("|".join(rf"\b(?:{one})" for one in OURS_NO_LONGER), re.IGNORECASE)
_BRITISH_ROOM = "taxcore/packs/uk/"
_AMERICAN = re.compile(
    r"\b(?:labor|itemiz|authoriz|recogniz|favor|dependents?\b|IRS\b|(?:by|a|the|your) checks?\b)", re.IGNORECASE
)
_FOLDERS = ("taxcore", "practice", "authority", "standins", "ops")
_IN_TAGS = re.compile(
    r"\{% comment %\}(?s:.*?)\{% endcomment %\}|\{%.*?%\}|\{\{.*?\}\}|\{#.*?#\}|<!--.*?-->|"
    r"(?:class|id|name|href|for|src|action|data-[\w-]+|hx-[\w-]+)=\"[^\"]*\""
)
_CODE = re.compile(r"```.*?```|`[^`]*`|\]\([^)]*\)", re.DOTALL)


def programs():
    """(where, text) of every string of two words or more that is no documentation of the code and no code itself."""
    for path in sorted(path for folder in _FOLDERS for path in (HOME / folder).rglob("*.py")):
        if {"tests", "migrations", ".venv"} & set(path.parts):
            continue
        tree = ast.parse(path.read_text())
        ours = {id(one) for one in _documentation(tree)}
        for node in ast.walk(tree):
            if (
                isinstance(node, ast.Constant)
                and isinstance(node.value, str)
                and id(node) not in ours
                and " " in node.value.strip()
            ):
                yield f"{path.relative_to(HOME)}:{node.lineno}", node.value


def _documentation(tree):
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef) and node.body:
            first = node.body[0]
            if isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant):
                yield first.value


def pages():
    for path in sorted((HOME / "practice").rglob("templates/**/*")):
        if path.suffix in (".html", ".txt", ".svg"):
            yield str(path.relative_to(HOME)), _IN_TAGS.sub(" ", path.read_text())


def tables():
    """What the packs' tables say in words."""
    for path in sorted((HOME / "taxcore" / "packs").glob("**/*.toml")):
        if "cases" in path.parts:
            continue
        for number, line in enumerate(path.read_text().splitlines(), 1):
            yield from ((f"{path.relative_to(HOME)}:{number}", text) for text in re.findall(r'"([^"]* [^"]*)"', line))


def documents():
    for path in (HOME / "README.md", HOME / "CHANGELOG.md", *sorted((HOME / "docs").glob("*.md"))):
        yield path.name, _CODE.sub(" ", path.read_text())


class WordsTests(TestCase):
    def _none(self, texts, pattern):
        found = []
        for where, text in texts:
            read = " ".join(text.split())  # as it is read, wherever its lines break
            if hit := pattern.search(read):
                found.append(f"{where}: “{hit[0]}” in “{read[:90]}”")
        self.assertEqual(found, [])

    def test_what_programs_and_pages_say_is_american(self):
        said = [*programs(), *pages(), *tables()]
        self._none([one for one in said if not one[0].startswith(_BRITISH_ROOM)], _BRITISH)

    def test_what_the_british_pack_says_is_british(self):
        self._none([one for one in (*programs(), *tables()) if one[0].startswith(_BRITISH_ROOM)], _AMERICAN)

    def test_what_programs_and_pages_say_is_what_the_trade_says(self):
        self._none([*programs(), *pages(), *tables()], _OURS)

    def test_documents_are_american(self):
        self._none(documents(), _BRITISH)
        self._none(documents(), _OURS)

    def test_enough_is_read(self):
        self.assertGreater(len(list(programs())), 3_000)
        self.assertGreater(len(list(pages())), 80)
