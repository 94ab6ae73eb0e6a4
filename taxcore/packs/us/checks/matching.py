"""This year's papers beside last year's: which belong to the same payer, and what last year's return had."""

from decimal import Decimal

from taxcore.engine import ZERO
from taxcore.engine.characters import within
from taxcore.packs.us.base import digits


def line_before(run, name):
    return run.last_year.lines.get(name, ZERO)


def title_before(run, kind, values):
    declared = run.pack.paper(kind)
    person = run.person(str(values.values.get("owner", "")))
    return str(values.values.get(declared.heading) or "") or (person.title if person is not None else within(declared.name))


def earlier_of(run, paper):
    """Last year's paper of the same payer, of the same owner if there are several; None where there was none."""
    return run.once(_matches).get((paper.kind, paper.key))


def _matches(run):
    """{(kind, id): last year's paper of the same payer}."""
    found_ = {}
    for kind in {one.kind for one in run.last_year.papers} if run.last_year is not None else ():
        earlier = [(one, *marks(run, kind, one.values)) for one in run.papers_before(kind)]
        for paper in run.papers(kind):
            match = _match(paper, earlier, *marks(run, kind, paper.values))
            if match is not None:
                found_[kind, paper.key] = match
    return found_


def marks(run, kind, values):
    """Number and beginning of the name of who sent a paper, written alike."""
    declared = run.pack.paper(kind)
    party = declared.party or {"number": "number", "name": declared.heading}
    name = str(values.get(party["name"]) or values.get("activity") or "")
    return digits(str(values.get(party["number"]) or "")), name.lower().replace(" ", "")[:8]


def _match(paper, earlier, number, name):
    owner = paper.values.get("owner")
    if not number and not name:  # a paper of a person, with no payer
        alike = [one for one, *_ in earlier if (one.values.get("owner") or "taxpayer") == (owner or "taxpayer")]
    else:
        alike = [one for one, its, called in earlier if (number and number == its) or (name and name == called)]
    if len(alike) > 1:
        account = paper.values.get("account")
        alike = [one for one in alike if one.values.get("account") == account] or alike
    return next((one for one in alike if one.values.get("owner") == owner), alike[0] if alike else None)


def pairs(run, *kinds):
    """(paper, last year's values) of the same payer."""
    for kind in kinds:
        for paper in run.papers(kind) if run.papers_before(kind) else ():
            earlier = earlier_of(run, paper)
            if earlier is not None:
                yield paper, earlier.values


def amount_of(values, name):
    try:
        amount = Decimal(str(values.get(name) or 0))
        return amount if amount.is_finite() else ZERO
    except ArithmeticError:
        return ZERO
