"""Which paper a page may belong to, by the sender's number or name in its words. Only ever a suggestion: somebody confirms it."""

from practice.intake import drawing
from practice.returns.computing import pack_of

_LEAST = 4  # letters of a name that say enough


def suggested(row, papers):
    """The paper whose sender's number, or else whole name, stands in a page's words; None where none or several do."""
    words = " ".join(drawing.lines_of(row)[0].lower().split())
    if not words:
        return None
    digits = "".join(one for one in words if one.isdigit())
    pack = pack_of(row.of)
    for finds in (_by_number, _by_name):
        found = [paper for paper in papers if finds(pack.paper(paper.kind), paper, words, digits)]
        if len(found) == 1:
            return found[0]
    return None


def _value(declared, paper, what):
    return str(paper.values.get(declared.party.get(what, ""), "")) if declared is not None else ""


def _by_number(declared, paper, words, digits):
    number = "".join(one for one in _value(declared, paper, "number") if one.isdigit())
    return len(number) >= 9 and number in digits


def _by_name(declared, paper, words, digits):
    name = " ".join(_value(declared, paper, "name").lower().split())
    return len(name) >= _LEAST and name in words
