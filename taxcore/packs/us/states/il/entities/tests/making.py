"""The repair shop in Illinois, in each of its three kinds, and what may be otherwise about it."""

from taxcore.packs.us.corporation.tests import making as c
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.s_corporation.tests import making as s

paper, rows, asset = p.paper, p.rows, p.asset
HERE = {"state": "IL", "city": "Chicago", "zip": "60607"}
QUESTIONS = "il-entity"


def asked(**values):
    """Answers of Illinois."""
    return paper(QUESTIONS, **{"business_only": "yes", "more": "no"} | values)


def receipts(**by_state):
    return paper("receipts", rows=rows(*({"state": state, "amount": str(amount)} for state, amount in by_state.items())))


def losses(*given):
    """(year, amount) that wait."""
    return rows(*({"from_year": str(year), "amount": str(amount)} for year, amount in given))


def partnership(*papers, year=2025):
    """With both members in Illinois where none are given."""
    kinds = {one.kind for one in papers}
    members = () if "partner" in kinds else (p.ada(**HERE), p.ben(**HERE))
    return p.result(*_with(kinds, p), *members, *papers, year=year)


def s_corporation(*papers, year=2025):
    kinds = {one.kind for one in papers}
    holders = () if "shareholder" in kinds else (s.ada(**HERE), s.ben(**HERE))
    return s.result(*_with(kinds, s), *holders, *papers, year=year)


def corporation(*papers, year=2025):
    return c.result(*_with({one.kind for one in papers}, c), *papers, year=year)


def _with(kinds, kind):
    given = [] if "about" in kinds else [kind.about(**HERE)]
    return (*given, *([] if QUESTIONS in kinds else [asked()]))
