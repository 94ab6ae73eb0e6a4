"""Student loan interest. IRC 221."""

from taxcore.engine import excess, least, line, linked, nothing_because, ratio, share, total
from taxcore.packs.us.base import FederalForm


class StudentLoans(FederalForm):
    """Student loan interest deduction worksheet. IRC 221."""

    number, name, worksheet = "Student loans", "Student loan interest deduction", True
    needs = ("1098-e",)
    income = linked("us.1040")
    adjusting = linked("us.sch-1")

    def required(self):
        return self.interest > 0

    @line("1", "Interest, limited to 2,500")
    def interest(self):
        paid = total([paper.interest for paper in self.papers("1098-e")])
        return least(of={"paid": paid, "most": self.law.student_loan.most})

    @line("2", "Total income")
    def total_income(self):
        return total(self.income.total_income)

    @line("3", "Other adjustments")
    def others(self):
        return total(self.adjusting.before_student_loans)

    @line("4", "Modified adjusted gross income")
    def modified_agi(self):
        return total(self.total_income, self.income.left_out_abroad, less=self.others)

    @line("5", "Phaseout begins at")
    def phase_out(self):
        return self.law.student_loan.phase_out[self.income.status]

    @line("6", "Excess")
    def above(self):
        return excess(self.modified_agi, over=self.phase_out)

    @line("7", "Phaseout fraction", rounding=None)
    def part(self):
        """To three places at least; never more than one."""
        taken = ratio(self.above, over=self.law.student_loan.range[self.income.status], places=3)
        return least(of={"income above over the range": taken, "all of it": 1})

    @line("8", "Phaseout reduction")
    def reduction(self):
        return share(self.part, of=self.interest)

    @line("9", "Deduction", weight="total")
    def deduction(self):
        if self.interest == 0:
            return nothing_because("no interest was paid")
        if self.income.status == "separate":
            return nothing_because("a married taxpayer must file jointly")
        if any(person.claimed_by_other for person in self.income.filers):
            return nothing_because("the taxpayer can be claimed as a dependent")
        return excess(self.interest, over=self.reduction)
