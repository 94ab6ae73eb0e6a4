"""Schedule 1: income of other kinds and adjustments; Schedule 1-A: the deductions that began in 2025."""

from taxcore.engine import (
    absent,
    excess,
    fact,
    full_steps,
    least,
    line,
    linked,
    nothing_because,
    ratio,
    share,
    steps,
    times,
    total,
)
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.shares import KINDS as SHARES


class Adjustments(FederalForm):
    """Additional income (part I) and adjustments to income (part II). IRC 61, 62(a)."""

    number, name = "Schedule 1", "Additional income and adjustments"
    income = linked("us.1040")

    def required(self):
        return self.other_income != 0 or self.adjustments > 0 or any(self._of("gambling")) or self.business != 0

    def _of(self, name):
        return [getattr(paper, name) for paper in self.papers("other-income")]

    @line("1", "State income tax refunds that are income", cites="IRC 111")
    def state_refunds(self):
        return self.brought("us.state-refund", "taxable")

    @line("2a", "Alimony received")
    def alimony(self):
        return total(self._of("alimony"))

    @line("3", "Business profit or loss")
    def business(self):
        return total([one.profit for one in self.every("us.sch-c")])

    @line("5", "Partnerships, S corporations, estates, trusts")
    def entities(self):
        return self.brought("us.sch-e", "together")

    @line("7", "Unemployment benefits", cites="IRC 85")
    def unemployment(self):
        papers = self.papers("1099-g")
        return total([excess(paper.unemployment, over=paper.repaid) for paper in papers])

    @line("8a", "Operating loss", cites="IRC 172")
    def operating_loss(self):
        return total(less=self._of("operating_loss"))

    @line("8b", "Gambling", cites="IRC 165(d)")
    def gambling(self):
        return total([paper.winnings for paper in self.papers("w2g")], self._of("gambling"))

    @line("8c", "Cancelled debt")
    def cancelled_debt(self):
        return total(self._of("cancelled_debt"))

    @line({2022: "8f"}, "Health savings accounts, Form 8889")
    def health_savings(self):
        return total([one.income for one in self.every("us.8889")])

    @line("8g", "Alaska permanent fund")
    def permanent_fund(self):
        return total(self._of("permanent_fund"))

    @line("8h", "Jury pay")
    def jury(self):
        return total(self._of("jury"))

    @line("8i", "Prizes and awards")
    def prizes(self):
        return total(self._of("prizes"), [p.other_income for p in self.papers("1099-misc") if p.is_prize and not p.is_business])

    @line("8j", "Activity not for profit")
    def hobby(self):
        return total(self._of("hobby"), [paper.pay for paper in self.papers("1099-nec") if paper.not_business])

    @line("8k", "Stock options")
    def stock_options(self):
        return total(self._of("stock_options"))

    @line("8l", "Rent of personal property")
    def rented_things(self):
        return total(self._of("rented_things"))

    @line("8p", "Business loss above the limit", cites="IRC 461(l)")
    def excess_loss(self):
        return total(self._of("excess_business_loss"))

    @line("8q", "ABLE accounts")
    def disability_account(self):
        return total(self._of("disability_account"))

    @line("8r", "Scholarships not on a wage statement")
    def scholarships(self):
        return total(self._of("scholarships"), [paper.taxed_scholarship for paper in self._taxpayers_tuition()])

    def _taxpayers_tuition(self):
        keys = {person.key for person in self.income.filers}
        return [paper for paper in self.papers("1098-t") if paper.student in keys]

    @line("8s", "Medicaid waiver payments left out")
    def medicaid_waiver(self):
        return total(less=self._of("medicaid_waiver"))

    @line("8t", "Pension of a nonqualified plan")
    def deferred_pay(self):
        return total(self._of("deferred_pay"), [paper.deferred for paper in self.papers("1099-misc")])

    @line("8u", "Wages earned in prison")
    def prison_wages(self):
        return total(self._of("prison_wages"))

    @line({2023: "8v"}, "Digital assets as ordinary income")
    def digital_assets(self):
        return total(self._of("digital_assets"))

    @line("8z", "Other")
    def others(self):
        rows = [row.amount for paper in self.papers("other-income") for row in paper.others]
        misc = [p.other_income for p in self.papers("1099-misc") if not p.is_business and not p.is_prize]
        misc += [paper.substitute for paper in self.papers("1099-misc")]
        public = [total(p.adjustment_assistance, p.grants) for p in self.papers("1099-g")]
        accounts = [paper.taxable() for paper in self.papers("1099-q")]
        accounts += [paper.excess_earnings for paper in self.papers("1099-sa")]
        shares = [paper.other_income for kind in SHARES for paper in self.papers(kind)]
        early = self._of("digital_assets") if self.year < 2023 else []
        return total(rows, misc, public, accounts, shares, early)

    @line("9", "Other income together")
    def other_together(self):
        parts = (
            self.operating_loss, self.gambling, self.cancelled_debt, self.health_savings, self.permanent_fund, self.jury,
            self.prizes, self.hobby, self.stock_options, self.rented_things, self.excess_loss, self.disability_account,
            self.scholarships, self.medicaid_waiver, self.deferred_pay, self.prison_wages, self.others,
        )  # fmt: skip
        return total(parts, self.digital_assets if self.year >= 2023 else ())

    @line("10", "Additional income", weight="total")
    def other_income(self):
        return total(self.state_refunds, self.alimony, self.business, self.entities, self.unemployment, self.other_together)

    # Part II

    @line("11", "Educators' costs", cites="IRC 62(a)(2)(D)")
    def educators(self):
        return total([least(paper.educator, self.law.educator.each) for paper in self.papers("adjustments")])

    @line("13", "Health savings accounts, Form 8889", cites="IRC 223")
    def health_savings_deduction(self):
        return total([one.deduction for one in self.every("us.8889")])

    @line("14", "Moving, armed forces", cites="IRC 217(g)")
    def moving(self):
        return total([paper.moving for paper in self.papers("adjustments")])

    @line("15", "Half of the self-employment tax", cites="IRC 164(f)")
    def half_self_employment(self):
        return total([one.half for one in self.every("us.sch-se")])

    @line("16", "Plans of the self-employed", cites="IRC 404")
    def plans(self):
        return total([one.deduction for one in self.every("us.plans")])

    @line("17", "Health insurance of the self-employed", cites="IRC 162(l)")
    def health_insurance(self):
        return total([one.deduction for one in self.every("us.7206")])

    @line("18", "Penalty on early withdrawal of savings", cites="IRC 62(a)(9)")
    def early_withdrawal(self):
        return total([paper.early_withdrawal for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)])

    @line("19a", "Alimony paid", cites="P.L. 115-97, sec. 11051")
    def alimony_paid(self):
        rows = [row for paper in self.papers("adjustments") for row in paper.alimony]
        return total([row.amount for row in rows if row.since is not None and row.since.year < 2019])

    @line("20", "IRAs", cites="IRC 219")
    def ira(self):
        return total([one.deduction for one in self.every("us.ira-deduction")])

    @line("21", "Student loan interest", cites="IRC 221")
    def student_loans(self):
        return self.brought("us.student-loans", "deduction")

    @line("23", "Archer MSAs", cites="IRC 220")
    def archer(self):
        return nothing_because("Form 8853 is not claimed on this return")

    @line("24a", "Jury pay handed over")
    def jury_given_up(self):
        return total(self._of("jury_given_up"))

    @line("24b", "Expenses of rented personal property")
    def rented_expenses(self):
        return least(total(self._of("rented_expenses")), self.rented_things)

    @line("24f", "Payments into 501(c)(18)(D) plans")
    def older_plans(self):
        return total([total(wage.coded({"H"})) for wage in self.papers("w2")])

    @line("24e", "Repaid trade adjustment payments")
    def repaid_unemployment(self):
        return total([paper.repaid_unemployment for paper in self.papers("adjustments")])

    @line("24h", "Legal fees, discrimination")
    def legal_fees(self):
        return total([paper.legal_fees for paper in self.papers("adjustments")])

    @line("24i", "Legal fees, whistle-blowers")
    def award_fees(self):
        return total([paper.award_fees for paper in self.papers("adjustments")])

    @line("25", "Other adjustments")
    def others_deducted(self):
        return total(self.jury_given_up, self.rented_expenses, self.repaid_unemployment, self.older_plans, self.legal_fees,
                     self.award_fees)  # fmt: skip

    @fact("Adjustments but IRAs and student loans")
    def without_ira(self):
        return total(
            self.educators, self.health_savings_deduction, self.moving, self.half_self_employment, self.plans,
            self.health_insurance, self.early_withdrawal, self.alimony_paid, self.archer, self.others_deducted,
        )  # fmt: skip

    @fact("Adjustments but student loans")
    def before_student_loans(self):
        return total(self.without_ira, self.ira)

    @line("26", "Adjustments to income", weight="total")
    def adjustments(self):
        return total(self.before_student_loans, self.student_loans)


class StateRefund(FederalForm):
    """Which part of a state's refund is income: what the deduction of it saved. Worksheet of the instructions; IRC 111."""

    number, name, worksheet = "State refund", "State refund", True
    needs = ("1099-g",)

    def required(self):
        return self.refunds > 0

    def _prior(self, name):
        return total(getattr(self.paper("prior-year"), name))

    @line("1", "Refunds, or the tax deducted if less")
    def refunds(self):
        """Refunds of a business's own tax belong to the business."""
        papers = [paper for paper in self.papers("1099-g") if not paper.trade_income]
        return total([paper.state_refund for paper in papers])

    @line("2", "Tax above the cap then")
    def above_cap(self):
        """What was never deducted is never income."""
        return self._prior("above_cap")

    @line("3", "Refund of deducted tax")
    def of_deducted(self):
        return least(excess(self.refunds, over=self.above_cap), self._prior("state_tax_deducted"))

    @line("4", "Itemised deductions then")
    def itemised(self):
        return self._prior("itemised_total")

    @line("5", "Standard deduction then")
    def standard(self):
        return self._prior("standard_then")

    @line("6", "What itemising added")
    def advantage(self):
        return excess(self.itemised, over=self.standard)

    @line("7", "Advantage over the sales tax")
    def over_sales_tax(self):
        deducted, sales = self._prior("state_tax_deducted"), self._prior("sales_tax_then")
        return excess(deducted, over=sales)

    @line("8", "Income", weight="total")
    def taxable(self):
        if self.refunds == 0:
            return nothing_because("no refund was received")
        if not self.paper("prior-year").itemised:
            return nothing_because("last year's return was not itemised")
        found = {"refund of deducted tax": self.of_deducted, "what itemising added": self.advantage}
        if self.paper("prior-year").is_keyed("sales_tax_then"):
            found["more than the sales tax"] = self.over_sales_tax
        negative = self.paper("prior-year").separate_or_negative
        least_of_all = least(of=found)
        return excess(least_of_all, over=-negative) if negative < 0 else least_of_all


class StudentLoans(FederalForm):
    """Student loan interest deduction worksheet. IRC 221."""

    number, name, worksheet = "Student loans", "Student loan interest", True
    needs = ("1098-e",)
    income = linked("us.1040")
    adjusting = linked("us.sch-1")

    def required(self):
        return self.interest > 0

    @line("1", "Interest, 2,500 at most")
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
        return total(self.total_income, less=self.others)

    @line("5", "Where it falls")
    def phase_out(self):
        return self.law.student_loan.phase_out[self.income.status]

    @line("6", "Above it")
    def above(self):
        return excess(self.modified_agi, over=self.phase_out)

    @line("7", "Share taken away", rounding=None)
    def part(self):
        """To three places at least; never more than one."""
        taken = ratio(self.above, over=self.law.student_loan.range[self.income.status], places=3)
        return least(of={"income above over the range": taken, "all of it": 1})

    @line("8", "Reduction")
    def reduction(self):
        return share(self.part, of=self.interest)

    @line("9", "Deduction", weight="total")
    def deduction(self):
        if self.interest == 0:
            return nothing_because("no interest was paid")
        if self.income.status == "separate":
            return nothing_because("a married person must file jointly")
        if any(person.claimed_by_other for person in self.income.filers):
            return nothing_because("somebody else can claim the taxpayer")
        return excess(self.interest, over=self.reduction)


class AdditionalDeductions(FederalForm):
    """Deductions for 2025 to 2028: tips, overtime, car loans, seniors. IRC 224, 225, 163(h)(4), 151(d)(5)(C)."""

    number, name = "Schedule 1-A", "Additional deductions"
    income = linked("us.1040")

    def required(self):
        return self.deductions > 0

    def _law_for(self, section, name):
        return self.law[section][name][self.income.status]

    def _begun(self):
        return "tips" in self.law

    @line({2025: "1"}, "Adjusted gross income")
    def adjusted_gross_income(self):
        return self.income.adjusted_gross_income

    @line({2025: "3"}, "Modified adjusted gross income")
    def modified_agi(self):
        return total(self.adjusted_gross_income)

    def _typed(self, kind):
        keys = {person.role for person in self.income.filers if person.number}
        wages = [wage for wage in self.papers("w2") if (wage.owner or "taxpayer") in keys]
        return [row.amount for wage in wages for row in wage.others if row.kind == kind]

    @line({2025: "4c"}, "Tips as an employee")
    def employee_tips(self):
        return total(self._typed("tips"))

    @line({2025: "5"}, "Tips in own business")
    def business_tips(self):
        """Never more than that business earns. IRC 224(d)(1)."""
        pairs = [(one.books.tips, one.profit) for one in self.every("us.sch-c")]
        return total([least(tips, excess(profit, over=0)) for tips, profit in pairs])

    @line({2025: "6"}, "Tips together")
    def tips(self):
        return total(self.employee_tips, self.business_tips)

    @line({2025: "7"}, "Up to the most")
    def tips_capped(self):
        return least(of={"tips": self.tips, "most": self.law.tips.most})

    @line({2025: "9"}, "Threshold")
    def tips_threshold(self):
        return self._law_for("tips", "threshold")

    @line({2025: "10"}, "Income above it")
    def tips_above(self):
        return excess(self.modified_agi, over=self.tips_threshold)

    @line({2025: "11"}, "Whole thousands of it")
    def tips_steps(self):
        return full_steps(self.tips_above, of=self.law.tips.step)

    @line({2025: "12"}, "100 for each")
    def tips_reduction(self):
        return times(self.tips_steps, self.law.tips.each_step, of="thousands")

    @line({2025: "13"}, "Tips deducted", weight="total", cites="IRC 224")
    def tips_deduction(self):
        if self.tips == 0:
            return absent("no qualified tips were keyed")
        return self._unless_apart(excess(self.tips_capped, over=self.tips_reduction))

    @line({2025: "14c"}, "Overtime pay")
    def overtime(self):
        return total(self._typed("overtime"))

    @line({2025: "15"}, "Up to the most")
    def overtime_capped(self):
        return least(of={"overtime": self.overtime, "most": self._law_for("overtime", "most")})

    @line({2025: "17"}, "Threshold")
    def overtime_threshold(self):
        return self._law_for("overtime", "threshold")

    @line({2025: "18"}, "Income above it")
    def overtime_above(self):
        return excess(self.modified_agi, over=self.overtime_threshold)

    @line({2025: "19"}, "Whole thousands of it")
    def overtime_steps(self):
        return full_steps(self.overtime_above, of=self.law.overtime.step)

    @line({2025: "20"}, "100 for each")
    def overtime_reduction(self):
        return times(self.overtime_steps, self.law.overtime.each_step, of="thousands")

    @line({2025: "21"}, "Overtime deducted", weight="total", cites="IRC 225")
    def overtime_deduction(self):
        if self.overtime == 0:
            return absent("no qualified overtime was keyed")
        return self._unless_apart(excess(self.overtime_capped, over=self.overtime_reduction))

    @line({2025: "23"}, "Car loan interest")
    def car_interest(self):
        return total([excess(paper.interest, over=paper.on_business) for paper in self.papers("car-loan") if _qualifies(paper)])

    @line({2025: "24"}, "Up to the most")
    def car_capped(self):
        return least(of={"interest": self.car_interest, "most": self.law.car_loan.most})

    @line({2025: "26"}, "Threshold")
    def car_threshold(self):
        return self._law_for("car_loan", "threshold")

    @line({2025: "27"}, "Income above it")
    def car_above(self):
        return excess(self.modified_agi, over=self.car_threshold)

    @line({2025: "28"}, "Thousands begun")
    def car_steps(self):
        return steps(self.car_above, of=self.law.car_loan.step)

    @line({2025: "29"}, "200 for each")
    def car_reduction(self):
        return times(self.car_steps, self.law.car_loan.each_step, of="thousands")

    @line({2025: "30"}, "Car loan interest deducted", weight="total", cites="IRC 163(h)(4)")
    def car_deduction(self):
        if self.car_interest == 0:
            none = "no loan of a car that qualifies was keyed"
            return nothing_because(none) if self.papers("car-loan") else absent(none)
        return excess(self.car_capped, over=self.car_reduction)

    @line({2025: "31"}, "Modified adjusted gross income, seniors")
    def senior_income(self):
        return self.modified_agi

    @line({2025: "32"}, "Threshold")
    def senior_threshold(self):
        return self.law.senior_deduction.threshold[self.income.status]

    @line({2025: "33"}, "Income above the threshold")
    def above_threshold(self):
        return excess(self.senior_income, over=self.senior_threshold)

    @line({2025: "34"}, "6% of that")
    def reduction(self):
        return share(self.law.senior_deduction.rate, of=self.above_threshold)

    @line({2025: "35"}, "Left of 6,000")
    def each(self):
        return excess(self.law.senior_deduction.each, over=self.reduction)

    @line({2025: "36a"}, "Taxpayer")
    def for_taxpayer(self):
        return self._for(self.person("taxpayer"))

    @line({2025: "36b"}, "Spouse")
    def for_spouse(self):
        if self.income.status != "joint":
            return absent("this is not a joint return")
        return self._for(self.person("spouse"))

    @line({2025: "37"}, "Seniors")
    def seniors(self):
        return total(self.for_taxpayer, self.for_spouse)

    @line({2025: "38"}, "Additional deductions", weight="total")
    def deductions(self):
        if not self._begun():
            return nothing_because("the law begins in 2025")
        return total(self.tips_deduction, self.overtime_deduction, self.car_deduction, self.seniors)

    def _unless_apart(self, amount):
        return nothing_because("a married person must file jointly") if self.income.status == "separate" else amount

    def _for(self, person):
        if person is None or not person.is_aged():
            return nothing_because("not 65 by the end of the year")
        if self.income.status == "separate":
            return nothing_because("a married person must file jointly")
        if not person.number:
            return nothing_because("there is no social security number")
        return times(1, self.each, of="person")


def _qualifies(paper):
    """A new car assembled here, for personal use, on a loan made after 2024. IRC 163(h)(4)(B), (D)."""
    recent = paper.loan_date is not None and paper.loan_date.year >= 2025
    return recent and paper.new_for_owner and paper.assembled_here and paper.personal
