"""Standard deduction: by status, for the aged and blind, and the smaller one of somebody else's dependent. IRC 63(c), (f)."""

from taxcore.engine import excess, fact, greatest, least, line, linked, nothing_because, times, total
from taxcore.packs.us.base import FederalForm


class StandardDeduction(FederalForm):
    """Worksheet behind the deduction line of Form 1040. IRC 63(c)(2), (5), (6); 63(f)."""

    number, name, worksheet = "Standard deduction", "Standard deduction", True
    income = linked("us.1040")

    @fact("Taxpayer or spouse can be claimed as a dependent")
    def is_dependant(self):
        return any(person.claimed_by_other for person in self.income.filers)

    @line("1", "Standard deduction for the filing status")
    def of_status(self):
        return self.law.standard_deduction.basic[self.income.status]

    @line("2", "Earned income plus the added amount")
    def earned(self):
        if not self.is_dependant:
            return nothing_because("the taxpayer cannot be claimed as a dependent")
        people = [self.run.form("us.earned-income", person.role) for person in self.income.filers]
        earned = excess(total([one.earned for one in people]), over=0)
        return total(earned, self.law.standard_deduction.dependant_added)

    @line("3", "Basic amount")
    def basic(self):
        if not self.is_dependant:
            return self.of_status
        floor = greatest(self.earned, self.law.standard_deduction.dependant_least)
        return least(of={"deduction of the filing status": self.of_status, "earned income or the minimum": floor})

    @fact("Boxes checked, age and blindness")
    def boxes(self):
        return sum(bool(person.is_aged()) + bool(person.blind) for person in self.income.filers)

    @line("4", "Additional for age and blindness")
    def additional(self):
        return times(self.boxes, self.law.standard_deduction.additional[self.income.status], of="boxes")

    @line("5", "Standard deduction", weight="total")
    def deduction(self):
        if self.income.status == "separate" and self.paper("filing").spouse_itemises:
            return nothing_because("the spouse itemizes, so both must")
        return total(self.basic, self.additional)
