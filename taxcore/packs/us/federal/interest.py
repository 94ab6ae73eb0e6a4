"""Schedule B: interest and dividends. Its part III is answered on the paper of questions."""

from taxcore.engine import fact, line, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.shares import KINDS as SHARES


class Interest(FederalForm):
    """Taxable interest and ordinary dividends by payer. IRC 61(a)(4), (7), 103, 301."""

    number, name = "Schedule B", "Interest and ordinary dividends"

    def required(self):
        limit = self.law.interest.schedule_b_above
        return self.taxable > limit or self.dividends > limit or bool(self.paper("filing").foreign_account) or self.nominee

    @fact("Nominee or seller-financed interest")
    def nominee(self):
        bonds = self.papers("1099-int")
        return any(p.not_the_owners or p.accrued or p.premium or p.treasury_premium or p.seller_financed for p in bonds)

    @line("1", "Interest, all payers")
    def received(self):
        statements = [paper.taxed() for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        return total(statements, [share.interest for kind in SHARES for share in self.papers(kind)])

    @line("2", "Total interest")
    def together(self):
        return self.received

    @line("3", "Excludable savings bond interest, Form 8815")
    def education_bonds(self):
        return total([paper.education_bonds for paper in self.papers("1099-int")])

    @line("4", "Taxable interest", weight="total")
    def taxable(self):
        return total(self.together, less=self.education_bonds)

    @line("5", "Ordinary dividends, all payers")
    def dividends_received(self):
        statements = self.papers("1099-div")
        kept = total([p.dividends for p in statements], less=[p.not_the_owners for p in statements])
        return total(kept, [share.dividends for kind in SHARES for share in self.papers(kind)])

    @line("6", "Ordinary dividends", weight="total")
    def dividends(self):
        return total(self.dividends_received)

    @fact("Qualified dividends")
    def qualified(self):
        shares = [share.qualified_dividends for kind in SHARES for share in self.papers(kind)]
        return total([paper.qualified for paper in self.papers("1099-div")], shares)

    @fact("Tax-exempt interest")
    def exempt(self):
        bonds = [paper.exempt() for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        shares = [share.exempt_interest for kind in SHARES for share in self.papers(kind)]
        return total(bonds, [paper.exempt_interest for paper in self.papers("1099-div")], shares)

    @fact("Interest on US obligations", cites="31 USC 3124")
    def from_government(self):
        """What a state may not tax, of everything above."""
        bonds = [paper.from_government() for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        shares = [share.government_interest for kind in SHARES for share in self.papers(kind)]
        return total(bonds, [paper.government_interest for paper in self.papers("1099-div")], shares)
