"""Notes to single lines of the computation. They are printed below the line, and tagged as footnotes of its figure."""

from taxcore.engine import Choice, Prose, Row, Rows
from taxcore.packs.uk.company.base import CompanyPaper
from taxcore.packs.uk.company.ct600 import CompanyReturn
from taxcore.packs.uk.company.inline import concepts_of, tagging
from taxcore.packs.uk.company.pages import GroupPage, LoansPage
from taxcore.packs.uk.company.plant import PlantForm
from taxcore.packs.uk.company.trading import TradingProfit

_FORMS = {form.code(): form for form in (TradingProfit, PlantForm, CompanyReturn, LoansPage, GroupPage)}


def _lines():
    """{form:line: its label} of every line that the computation prints."""
    return {
        f"{section['form']}:{name}": f"{form.number} {form.specs[name].number_in(0) or ''} · {form.specs[name].label}"
        for section in tagging().computation
        for form in (_FORMS[section["form"]],)
        for name, _ in concepts_of(section)
    }


class NoteRow(Row):
    at = Choice(None, "Line", _lines(), needed="Choose the line that it is about.")
    says = Prose(None, "Note", longest=1000, needed="Write it, or remove the row.")


class Notes(CompanyPaper):
    """Notes to lines of the computation."""

    kind, name, official, group = "notes", "Notes to lines", "Tax computation", "accounts"
    single = True

    lines = Rows(None, "Notes", NoteRow)
