"""Schedule 3, part II: other payments. Excess social security tax is worked out for each person."""

from taxcore.engine import excess, fact, least, line, nothing_because, share, total
from taxcore.packs.us.base import FederalForm


class OtherPayments(FederalForm):
    """Payments and refundable credits of other forms. IRC 31(b), 6413(c)."""

    number, name = "Schedule 3", "Additional credits and payments"

    def required(self):
        return self.payments > 0

    @fact("Most social security tax of one person")
    def most(self):
        return share(self.law.payroll.social_security_rate, of=self.law.payroll.wage_base)

    @line("11", "Excess social security tax withheld", cites="IRC 6413(c)")
    def excess_social_security(self):
        return total([self._excess_of(role) for role in ("taxpayer", "spouse")])

    @line("15", "Other payments", weight="total")
    def payments(self):
        return total(self.excess_social_security)

    def _excess_of(self, role):
        """What several employers withheld above one person's most. One employer's own mistake is for that employer to mend."""
        papers = self.papers("w2", role)
        if len(papers) < 2:
            return nothing_because("one employer withholds no more than the law asks")
        withheld = [least(paper.social_security_withheld, self.most) for paper in papers]
        return excess(total(withheld), over=self.most)
