"""Schedule B, part I: interest. Part III (foreign accounts) stops filing in checks/unsupported.py when it would be asked."""

from taxcore.engine import fact, line, nothing_because, total
from taxcore.packs.us.base import FederalForm


class Interest(FederalForm):
    """Taxable interest by payer. IRC 61(a)(4), 103."""

    number, name = "Schedule B", "Interest"

    def required(self):
        return self.taxable > self.law.interest.schedule_b_above

    @line("1", "Interest from all payers")
    def received(self):
        payers = self.papers("1099-int")
        return total([paper.interest for paper in payers], [paper.government_interest for paper in payers])

    @line("2", "Together")
    def together(self):
        return self.received

    @line("3", "Savings bond interest used for education")
    def education_bonds(self):
        return nothing_because("Form 8815 is not claimed on this return")

    @line("4", "Taxable interest", weight="total")
    def taxable(self):
        return total(self.together, less=self.education_bonds)

    @fact("Tax-exempt interest")
    def exempt(self):
        return total([paper.exempt_interest for paper in self.papers("1099-int")])
