"""Schedule K-1 of each partner as a document. IRC 6031(b)."""

from taxcore.packs.us.entity.shown import name_of, statement
from taxcore.packs.us.states.il.entities.issuing import tables


def statements(result):
    """One for each partner."""
    run = result.run
    return tuple(
        statement(form, form.partner, name_of(run), _shares(form.partner), tables(form)) for form in run.every("us.sch-k-1")
    )


def _shares(partner):
    parts = (("Profit", "profit"), ("Loss", "loss"), ("Capital", "capital"))
    return tuple((called, *(f"{partner.at(which, end).normalize():f}%" for end in (False, True))) for called, which in parts)
