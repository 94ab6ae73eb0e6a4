"""Schedule 3: credits that lower the tax, in the order the law uses them up, and other payments. IRC 26, 31(b), 6413(c)."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm


class CreditsAndPayments(FederalForm):
    """Nonrefundable credits (part I), other payments (part II). IRC 26(a), 31."""

    number, name = "Schedule 3", "Additional credits and payments"
    income = linked("us.1040")

    def required(self):
        return self.payments > 0 or self.credits > 0

    @line("1", "Foreign tax")
    def foreign(self):
        return self.brought("us.1116", "credit")

    @line("2", "Credit for child and dependent care expenses")
    def care(self):
        return self.brought("us.2441", "credit")

    @line("3", "Education credits")
    def education(self):
        return self.brought("us.8863", "credit")

    @line("4", "Retirement savings contributions credit")
    def savings(self):
        return self.brought("us.8880", "credit")

    @line({2022: "5", 2023: "5a"}, "Residential clean energy credit")
    def clean_energy(self):
        return self.brought("us.5695", "clean_credit")

    @line({2022: None, 2023: "5b"}, "Energy efficient home improvement credit")
    def improvements(self):
        return self.brought("us.5695", "improvement_credit")

    @line("6a", "General business credit")
    def business(self):
        return self.brought("us.3800", "credit")

    @line("6b", "Credit for prior year minimum tax")
    def minimum_tax(self):
        return self.brought("us.8801", "credit")

    @line("6c", "Adoption credit")
    def adoption(self):
        return self.brought("us.8839", "credit")

    @line("6d", "Credit for the elderly or disabled")
    def elderly(self):
        return self.brought("us.sch-r", "credit")

    @line("6f", "Clean vehicle credit")
    def new_vehicles(self):
        return self.brought("us.8936", "new")

    @line("6m", "Credit for previously owned clean vehicles")
    def used_vehicles(self):
        return self.brought("us.8936", "used")

    @line("6g", "Mortgage interest credit")
    def mortgage(self):
        return self.brought("us.8396", "credit")

    @line("7", "Total other nonrefundable credits")
    def others(self):
        vehicles = (self.new_vehicles, self.used_vehicles)
        return total(self.business, self.minimum_tax, self.adoption, self.elderly, vehicles, self.mortgage)

    @line("8", "Credits", weight="total")
    def credits(self):
        return total(self.foreign, self.care, self.education, self.savings, self.clean_energy, self.improvements, self.others)

    @fact("Credits applied before those for clean vehicles")
    def before_vehicles(self):
        return total(self.foreign, self.care, self.elderly, self.education, self.savings)

    @fact("Credits applied before the home improvement credit")
    def before_improvements(self):
        return total(self.before_vehicles, self.new_vehicles, self.used_vehicles)

    @fact("Credits applied before the adoption credit")
    def before_adoption(self):
        return total(self.before_improvements, self.improvements)

    @fact("Credits applied before the clean energy credit")
    def before_clean_energy(self):
        return total(self.before_adoption, self.mortgage, self.adoption)

    @fact("Credits applied before the general business credit", cites="IRC 38(c)(1)")
    def before_business(self):
        return total(self.before_clean_energy, self.clean_energy)

    @fact("Credits applied before the minimum tax credit", cites="IRC 53(c)(1)")
    def before_minimum(self):
        return total(self.before_business, self.business)

    @line("9", "Net premium tax credit")
    def premium_credit(self):
        return self.brought("us.8962", "net_credit")

    @line("10", "Amount paid with request for extension")
    def with_extension(self):
        return total(self.paper("estimates").with_extension)

    @fact("Maximum Social Security tax, one person")
    def most(self):
        return share(self.law.payroll.social_security_rate, of=self.law.payroll.wage_base)

    @line("11", "Excess Social Security tax withheld", cites="IRC 6413(c)")
    def excess_social_security(self):
        return total([self._excess_of(role) for role in ("taxpayer", "spouse")])

    @line("15", "Total other payments", weight="total")
    def payments(self):
        return total(self.premium_credit, self.with_extension, self.excess_social_security)

    def _excess_of(self, role):
        """What several employers withheld above one person's most. One employer's own mistake is for that employer to mend."""
        papers = self.papers("w2", role)
        if len(papers) < 2:
            return nothing_because("there is only one employer")
        withheld = [least(paper.social_security_withheld, self.most) for paper in papers]
        return excess(total(withheld), over=self.most)
