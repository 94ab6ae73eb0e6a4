"""Schedule E: rents and royalties together, parts II and III with shares of entities. IRC 61(a)(5), 702, 1366, 652, 662."""

from taxcore.engine import ZERO, excess, fact, line, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.shares import KINDS as SHARES


def trade_income(paper):
    """What one partnership's or corporation's business adds to income."""
    if paper.kind != "k1-1065":
        return total(paper.ordinary, less=paper.other_deductions if paper.kind == "k1-1041" else paper.section_179)
    return total(paper.ordinary, paper.guaranteed, less=[paper.unreimbursed, paper.section_179])


class Partnerships(FederalForm):
    """Schedule E: rents and royalties of every property together, and shares of entities. IRC 61(a)(5), 702, 1366, 652, 662."""

    number, name = "Schedule E", "Supplemental income and loss"
    needs = (*SHARES, "rental")

    def required(self):
        return any(self.papers(kind) for kind in self.needs)

    def _properties(self):
        return self.every("us.sch-e-part-i")

    @line("24", "Income of rents and royalties")
    def rents_income(self):
        return total([excess(one.net, over=ZERO) for one in self._properties()])

    @line("25", "Losses of rents and royalties")
    def rents_losses(self):
        return total(less=[one.deductible for one in self._properties()])

    @line("26", "Total rental real estate and royalty income or (loss)")
    def rents(self):
        return total(self.rents_income, self.rents_losses)

    @fact("Of it, not passive")
    def not_passive(self):
        return total([one.net for one in self._properties() if not one.is_passive])

    @line("32", "Total partnership and S corporation income or (loss)")
    def entities(self):
        return total([trade_income(paper) for kind in ("k1-1065", "k1-1120s") for paper in self.papers(kind)])

    @line("37", "Total estate and trust income or (loss)")
    def trusts(self):
        return total([trade_income(paper) for paper in self.papers("k1-1041")])

    @line("41", "Total income or (loss)", weight="total")
    def together(self):
        return total(self.rents, self.entities, self.trusts)
