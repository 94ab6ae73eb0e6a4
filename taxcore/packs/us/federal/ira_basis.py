"""Form 8606: basis in traditional IRAs, conversions, Roth distributions. IRC 408(o), 408A(d)."""

from taxcore.engine import absent, excess, fact, least, line, nothing_because, pro_rata, ratio, share, total
from taxcore.packs.us.balances import IRA_BASIS
from taxcore.packs.us.base import FederalForm

# Rolled over directly, recharacterised, exchanged, or contributions taken back: no part of line 7
_OUTSIDE = frozenset("GNR68P")


class Basis(FederalForm):
    """Form 8606 of one person: basis in traditional IRAs, conversions, Roth distributions. IRC 408(o), 408A(d)."""

    number, name, per = "8606", "Nondeductible IRAs", "person"
    needs = ("ira", "1099-r")

    def required(self):
        return self.not_deducted > 0 or (self.basis > 0 and self._touched()) or self.conversions > 0 or self.roth_paid > 0

    def _touched(self):
        return self.distributions > 0 or self.conversions > 0

    def _account(self):
        return next(iter(self.papers("ira", self.key)), None)

    def _statements(self, roth):
        return [paper for paper in self.papers("1099-r", self.key) if paper.ira and paper.is_roth() == roth]

    def _of(self, name):
        account = self._account()
        return total(getattr(account, name)) if account is not None else absent("no IRA is entered")

    @line("1", "Nondeductible contributions")
    def not_deducted(self):
        if self._account() is None:
            return absent("no IRA is entered")
        deduction = self.run.form("us.ira-deduction", self.key)
        return least(excess(deduction.paid, over=deduction.deduction), deduction.room)

    @line("2", "Basis from prior years")
    def basis_before(self):
        return self._of("basis_before")

    @line("3", "Total basis")
    def basis(self):
        return total(self.not_deducted, self.basis_before)

    @line("4", "Contributed after year end")
    def after_year(self):
        return least(self._of("paid_after_year"), self.not_deducted)

    @line("5", "Basis for this year")
    def basis_now(self):
        return excess(self.basis, over=self.after_year)

    @line("6", "Value of all IRAs at year end, plus outstanding rollovers")
    def value(self):
        return total(self._of("value_at_end"), self._of("repaid"))

    @line("7", "Distributions")
    def distributions(self):
        papers = [p for p in self._statements(roth=False) if not p.codes() & _OUTSIDE]
        kept = [excess(p.gross, over=[p.rolled_over, p.converted, p.charity]) for p in papers]
        return total(kept)

    @line("8", "Converted to Roth IRAs")
    def conversions(self):
        return total([paper.converted for paper in self._statements(roth=False)])

    @line("9", "Total of lines 6, 7 and 8")
    def together(self):
        return total(self.value, self.distributions, self.conversions)

    @line("10", "Nontaxable fraction", rounding=None)
    def basis_share(self):
        """To five places, never above one."""
        if self.together == 0:
            return nothing_because("there are no distributions")
        return least(ratio(self.basis_now, over=self.together, places=5), 1)

    @line("11", "Nontaxable part of conversions")
    def basis_converted(self):
        return share(self.basis_share, of=self.conversions)

    @line("12", "Nontaxable part of distributions")
    def basis_distributed(self):
        return share(self.basis_share, of=self.distributions)

    @line("13", "Total nontaxable")
    def used(self):
        return total(self.basis_converted, self.basis_distributed)

    @line("14", "Basis carried to next year", weight="total", closes=IRA_BASIS, used="used")
    def left(self):
        return excess(self.basis, over=self.used)

    @line("15c", "Taxable distributions")
    def taxable(self):
        return excess(self.distributions, over=self.basis_distributed)

    @line("16", "Amount converted")
    def converted(self):
        return total(self.conversions)

    @line("17", "Basis in the conversion")
    def converted_basis(self):
        return total(self.basis_converted)

    @line("18", "Taxable amount of conversion")
    def taxable_conversion(self):
        return excess(self.converted, over=self.converted_basis)

    @line("19", "Nonqualified Roth distributions", cites="IRC 408A(d)(2), (4)")
    def roth_paid(self):
        papers = [p for p in self._statements(roth=True) if "Q" not in p.codes()]
        return total([excess(p.gross, over=p.rolled_over) for p in papers])

    @line("22", "Basis in Roth contributions")
    def roth_basis(self):
        return self._of("roth_basis")

    @line("23", "Above contribution basis")
    def above_contributions(self):
        return excess(self.roth_paid, over=self.roth_basis)

    @line("24", "Basis in conversions")
    def conversion_basis(self):
        return self._of("roth_conversion_basis")

    @line("25c", "Taxable Roth distributions")
    def roth_taxable(self):
        return excess(self.above_contributions, over=self.conversion_basis)

    @fact("Basis is prorated")
    def shares_basis(self):
        """Without a distribution or conversion nobody needs to know the basis, which may depend on this year's income."""
        return self._touched() and (self.conversions > 0 or self.basis > 0)

    def income_of(self, statement):
        """What one statement adds to income: by its share of this form where basis is shared, else by the statement itself."""
        stated = self.run.form("us.distribution", statement.key).income
        if not self.shares_basis or statement.codes() & _OUTSIDE:
            return stated
        kept = excess(statement.gross, over=[statement.rolled_over, statement.converted, statement.charity])
        return pro_rata(self.taxable, kept, self.distributions)

    @fact("Taxable IRA income")
    def taxable_in_all(self):
        """What Form 1040 line 4b takes: by this form where there is basis or a conversion, else by the statements."""
        statements = self._statements(roth=False)
        if not self.shares_basis:
            return total([self.run.form("us.distribution", p.key).income for p in statements], self.roth_taxable)
        outside = [self.run.form("us.distribution", p.key).income for p in statements if p.codes() & _OUTSIDE]
        return total(self.taxable, self.taxable_conversion, outside, self.roth_taxable)
