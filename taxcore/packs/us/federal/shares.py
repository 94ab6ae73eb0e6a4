"""Schedule E, parts II and III: shares of entities. IRC 702, 1366, 652, 662."""

from taxcore.engine import line, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.shares import KINDS as SHARES


def trade_income(paper):
    """What one partnership's or corporation's business adds to income."""
    if paper.kind != "k1-1065":
        return total(paper.ordinary, less=paper.other_deductions if paper.kind == "k1-1041" else paper.section_179)
    return total(paper.ordinary, paper.guaranteed, less=[paper.unreimbursed, paper.section_179])


class Partnerships(FederalForm):
    """Schedule E, parts II and III: shares of entities. IRC 702, 1366, 652, 662. Rentals stop filing."""

    number, name = "Schedule E", "Supplemental income and loss"
    needs = SHARES

    def required(self):
        return any(self.papers(kind) for kind in SHARES)

    @line("32", "Total partnership and S corporation income or (loss)")
    def entities(self):
        return total([trade_income(paper) for kind in ("k1-1065", "k1-1120s") for paper in self.papers(kind)])

    @line("37", "Total estate and trust income or (loss)")
    def trusts(self):
        return total([trade_income(paper) for paper in self.papers("k1-1041")])

    @line("41", "Total income or (loss)", weight="total")
    def together(self):
        return total(self.entities, self.trusts)
