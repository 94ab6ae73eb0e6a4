"""What a practice wants done before a return is locked. Each condition is a choice of the practice; a fresh one asks for a first
review and no open point."""

from dataclasses import dataclass

from django.urls import reverse

from practice.returns.confirming import unconfirmed
from practice.review import signing_off
from practice.review.margin import initials_on
from practice.review.progress import progress_of

CONDITIONS = {
    "first": "First review done",
    "second": "Second review done, by someone else",
    "points": "No open point",
    "initials": "Every line that matters initialed",
    "brought": "Values rolled forward confirmed",
}


_MORE = {}  # conditions that rooms further up look after


def condition(code, words):
    """Decorator: another condition that a practice can choose; called with a return, the function yields what lacks."""

    def declare(function):
        CONDITIONS[code] = words
        _MORE[code] = function
        return function

    return declare


@dataclass(frozen=True)
class Lacking:
    """One condition that is not met: its code, a sentence, and where to go."""

    code: str
    says: str
    url: str


class NotReviewed(Exception):
    """The practice's conditions for locking are not met; `lacking` are they."""

    def __init__(self, lacking):
        super().__init__(", ".join(one.code for one in lacking))
        self.lacking = lacking

    @property
    def says(self):
        return "Not locked. " + " ".join(one.says for one in self.lacking)


def lacking(return_, result):
    """Every condition of the practice that this return does not meet."""
    wanted, review = return_.firm.lock_needs, reverse("review", args=[return_.pk])
    found = signing_off.standing(return_, result) if {"first", "second"} & set(wanted) else None
    if "first" in wanted and found.first is None:
        lapsed = found.lapsed[-1] if found.lapsed else None
        says = f"{lapsed.by.name}'s review lapsed: a figure moved since." if lapsed else "The first review is not done yet."
        yield Lacking("first", says, review)
    if "second" in wanted and found.second is None:
        yield Lacking("second", "The second review is not done yet.", review)
    if "points" in wanted:
        points = [note for note in return_.notes.select_related("asked") if note.is_open]
        if points:
            more = f", and {len(points) - 1} more" if len(points) > 1 else ""
            yield Lacking("points", f"An open point waits for {points[0].asked.name}: “{points[0].text[:60]}”{more}.", review)
    if "initials" in wanted:
        left = progress_of(return_.firm, result, initials_on(return_, result)).next
        if left:
            says = f"{len(left)} line{'s' if len(left) > 1 else ''} that matter{'' if len(left) > 1 else 's'} without initials."
            yield Lacking("initials", says, review)
    if "brought" in wanted:
        yield from _brought(return_)
    for code, function in _MORE.items():
        if code in wanted:
            yield from function(return_)


def _brought(return_):
    for paper, labels in unconfirmed(return_)[:1]:
        more = f" and {len(labels) - 3} more" if len(labels) > 3 else ""
        says = f"Rolled forward and not confirmed: {', '.join(labels[:3])}{more}."
        yield Lacking("brought", says, reverse("paper", args=[return_.pk, paper.pk]))


def require_review(return_, result):
    """NotReviewed unless every condition of the practice is met."""
    if found := list(lacking(return_, result)):
        raise NotReviewed(found)
