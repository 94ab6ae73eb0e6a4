"""Everything that lies with a client's returns, over all years, found by the words that its pages have."""

from dataclasses import dataclass

from practice.intake import drawing
from practice.intake.models import Attachment
from practice.returns.computing import pack_of

_AROUND = 60  # letters of a line that are shown on each side
MOST = 400  # documents that are looked through at once


@dataclass(frozen=True)
class Found:
    """A document, and the line of it that has all the words; no line where nothing was looked for, or only its name fits."""

    row: Attachment
    line: str = ""

    @property
    def beside(self):
        """What the paper is called that it lies with; nothing where it lies with the return alone."""
        declared = pack_of(self.row.of).paper(self.row.paper.kind) if self.row.paper else None
        return declared.name if declared else ""


def documents(actor, household, words=""):
    """The documents of a client whose name or pages have all the words, the newest first."""
    rows = Attachment.objects.for_staff(actor).filter(of__household=household, removed_at=None)
    rows = rows.select_related("of__firm", "of__household", "paper", "by").order_by("-pk")[:MOST]
    wanted = [word for word in words.lower().split() if word]
    if not wanted:
        return [Found(row) for row in rows]
    return [found for row in rows if (found := _look(row, wanted)) is not None]


def _look(row, wanted):
    if all(word in row.name.lower() for word in wanted):
        return Found(row)
    if row.state != Attachment.State.READY:
        return None
    for line in drawing.lines_of(row)[0].splitlines():
        if all(word in line.lower() for word in wanted):
            return Found(row, _cut(" ".join(line.split()), wanted[0]))
    text = drawing.lines_of(row)[0].lower()
    return Found(row) if all(word in text for word in wanted) else None


def _cut(line, word):
    at = max(line.lower().find(word) - _AROUND, 0)
    return f"{'…' if at else ''}{line[at : at + 2 * _AROUND]}"
