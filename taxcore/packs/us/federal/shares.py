"""Schedule E, parts II and III: shares of entities. IRC 702, 1366, 652, 662."""

from taxcore.engine import line, total
from taxcore.packs.us.base import FederalForm


class Partnerships(FederalForm):
    """Schedule E, parts II and III: shares of entities. IRC 702, 1366, 652, 662. Rentals stop filing."""

    number, name = "Schedule E", "Supplemental income"
    needs = ("k1-1065", "k1-1120s", "k1-1041")

    def required(self):
        return any(self.papers(kind) for kind in ("k1-1065", "k1-1120s", "k1-1041"))

    @line("32", "Partnerships and S corporations")
    def entities(self):
        partners = [
            total(p.ordinary, p.guaranteed, less=[p.unreimbursed, p.section_179]) for p in self.papers("k1-1065")
        ]  # fmt: skip
        return total(partners, [total(p.ordinary, less=p.section_179) for p in self.papers("k1-1120s")])

    @line("37", "Estates and trusts")
    def trusts(self):
        return total([total(p.ordinary, less=p.other_deductions) for p in self.papers("k1-1041")])

    @line("41", "Together", weight="total")
    def together(self):
        return total(self.entities, self.trusts)
