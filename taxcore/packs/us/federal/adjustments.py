"""Schedule 1: income of other kinds and adjustments to income. IRC 61, 62(a)."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.papers.shares import KINDS as SHARES

_CALLING = (
    "1099-g", "business", "farm", "rental", "asset", "installment", *SHARES, "w2g", "other-income", "1099-misc", "1099-nec",
    "1099-k", "1099-q", "1099-sa", "adjustments", "foreign-earned", "ira", "hsa", "operating-losses", "1098-e", "1098-t",
)  # fmt: skip


class Adjustments(FederalForm):
    """Additional income (part I) and adjustments to income (part II). IRC 61, 62(a)."""

    number, name = "Schedule 1", "Additional income and adjustments"
    income = linked("us.1040")

    @classmethod
    def idle(cls, run):
        """Most returns of wages and interest call for nothing here."""
        coded = any(row.code in ("H", "W") for wage in run.papers("w2") for row in wage.codes)
        penalties = any(paper.is_keyed("early_withdrawal") for kind in ("1099-int", "1099-oid") for paper in run.papers(kind))
        return not coded and not penalties and not any(run.papers(kind) for kind in _CALLING)

    def required(self):
        """Amounts that cancel each other must still be shown."""
        return any(cell.value for cell in self.lines())

    def _of(self, name):
        return [getattr(paper, name) for paper in self.papers("other-income")]

    @line("1", "Taxable refunds of state and local income taxes", cites="IRC 111")
    def state_refunds(self):
        return self.brought("us.state-refund", "taxable")

    @line("2a", "Alimony received")
    def alimony(self):
        return total(self._of("alimony"))

    @line("3", "Business income or (loss)")
    def business(self):
        return total([one.profit for one in self.every("us.sch-c")])

    @line("4", "Other gains or (losses)", cites="IRC 1231, 1245")
    def other_gains(self):
        return self.brought("us.4797", "ordinary")

    @line("5", "Rents, royalties, partnerships, S corporations, trusts")
    def entities(self):
        return self.brought("us.sch-e", "together")

    @line("6", "Farm income or (loss)")
    def farms(self):
        return total([one.profit for one in self.every("us.sch-f")])

    @line("7", "Unemployment compensation", cites="IRC 85")
    def unemployment(self):
        papers = self.papers("1099-g")
        return total([excess(paper.unemployment, over=paper.repaid) for paper in papers])

    @line("8a", "Net operating loss", cites="IRC 172")
    def operating_loss(self):
        return total(less=self.brought("us.net-operating-loss", "deduction"))

    @line("8b", "Gambling winnings", cites="IRC 165(d)")
    def gambling(self):
        return total([paper.winnings for paper in self.papers("w2g")], self._of("gambling"))

    @line("8c", "Cancellation of debt")
    def cancelled_debt(self):
        return total(self._of("cancelled_debt"))

    @line("8d", "Foreign earned income exclusion", cites="IRC 911(a)")
    def earned_abroad(self):
        return total(less=[one.excluded_net for one in self.every("us.2555")])

    @line({2022: "8f"}, "Income from Form 8889")
    def health_savings(self):
        return total([one.income for one in self.every("us.8889")])

    @line("8g", "Alaska Permanent Fund dividends")
    def permanent_fund(self):
        return total(self._of("permanent_fund"))

    @line("8h", "Jury duty pay")
    def jury(self):
        return total(self._of("jury"))

    @line("8i", "Prizes and awards")
    def prizes(self):
        return total(self._of("prizes"), [p.other_income for p in self.papers("1099-misc") if p.is_prize and not p.is_business])

    @line("8j", "Activity not engaged in for profit")
    def hobby(self):
        return total(self._of("hobby"), [paper.pay for paper in self.papers("1099-nec") if paper.not_business])

    @line("8k", "Stock options")
    def stock_options(self):
        return total(self._of("stock_options"))

    @line("8l", "Rental of personal property")
    def rented_things(self):
        return total(self._of("rented_things"))

    @line("8p", "Section 461(l) excess business loss adjustment", cites="IRC 461(l)")
    def excess_loss(self):
        """By Form 461, unless it was entered."""
        if any(paper.is_keyed("excess_business_loss") for paper in self.papers("other-income")):
            return total(self._of("excess_business_loss"))
        return self.brought("us.461", "excess")

    @line("8q", "Taxable distributions from an ABLE account")
    def disability_account(self):
        return total(self._of("disability_account"))

    @line("8r", "Scholarship and fellowship grants not on W-2")
    def scholarships(self):
        return total(self._of("scholarships"), [paper.taxed_scholarship for paper in self._taxpayers_tuition()])

    def _taxpayers_tuition(self):
        keys = {person.key for person in self.income.filers}
        return [paper for paper in self.papers("1098-t") if paper.student in keys]

    @line("8s", "Nontaxable Medicaid waiver payments")
    def medicaid_waiver(self):
        return total(less=self._of("medicaid_waiver"))

    @line("8t", "Pension from a nonqualified plan")
    def deferred_pay(self):
        return total(self._of("deferred_pay"), [paper.deferred for paper in self.papers("1099-misc")])

    @line("8u", "Wages earned while incarcerated")
    def prison_wages(self):
        return total(self._of("prison_wages"))

    @line({2023: "8v"}, "Digital assets received as ordinary income")
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
        shares = [of_share(paper, "other_income") for kind in SHARES for paper in self.papers(kind)]
        early = self._of("digital_assets") if self.year < 2023 else []
        return total(rows, misc, public, accounts, shares, early)

    @line("9", "Total other income")
    def other_together(self):
        return total(self.other_without_excess, self.excess_loss)

    @fact("Other income without line 8p")
    def other_without_excess(self):
        """What passive losses are measured by does not turn on a limit that comes after them: IRC 461(l)(6)."""
        parts = (
            self.operating_loss, self.gambling, self.cancelled_debt, self.earned_abroad, self.health_savings,
            self.permanent_fund, self.jury,
            self.prizes, self.hobby, self.stock_options, self.rented_things, self.disability_account,
            self.scholarships, self.medicaid_waiver, self.deferred_pay, self.prison_wages, self.others,
        )  # fmt: skip
        return total(parts, self.digital_assets if self.year >= 2023 else ())

    @line("10", "Additional income", weight="total")
    def other_income(self):
        return total(
            self.state_refunds, self.alimony, self.business, self.other_gains, self.entities, self.farms, self.unemployment,
            self.other_together,
        )  # fmt: skip

    # Part II

    @line("11", "Educator expenses", cites="IRC 62(a)(2)(D)")
    def educators(self):
        """Each person has the limit once."""
        people = [total([p.educator for p in self.papers("adjustments", role)]) for role in ("taxpayer", "spouse")]
        return total([least(spent, self.law.educator.each) for spent in people])

    @line("13", "Health savings account deduction, Form 8889", cites="IRC 223")
    def health_savings_deduction(self):
        return total([one.deduction for one in self.every("us.8889")])

    @line("14", "Moving expenses, Armed Forces", cites="IRC 217(g)")
    def moving(self):
        return total([one.deduction for one in self.every("us.3903")])

    @line("15", "Deductible part of self-employment tax", cites="IRC 164(f)")
    def half_self_employment(self):
        return total([one.half for one in self.every("us.sch-se")])

    @line("16", "Self-employed SEP, SIMPLE and qualified plans", cites="IRC 404")
    def plans(self):
        return total([one.deduction for one in self.every("us.plans")])

    @line("17", "Self-employed health insurance deduction", cites="IRC 162(l)")
    def health_insurance(self):
        return total([one.deduction for one in self.every("us.7206")])

    @line("18", "Penalty on early withdrawal of savings", cites="IRC 62(a)(9)")
    def early_withdrawal(self):
        return total([paper.early_withdrawal for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)])

    @line("19a", "Alimony paid", cites="P.L. 115-97, sec. 11051")
    def alimony_paid(self):
        rows = [row for paper in self.papers("adjustments") for row in paper.alimony]
        return total([row.amount for row in rows if row.since is not None and row.since.year < 2019])

    @line("20", "IRA deduction", cites="IRC 219")
    def ira(self):
        return total([one.deduction for one in self.every("us.ira-deduction")])

    @line("21", "Student loan interest deduction", cites="IRC 221")
    def student_loans(self):
        return self.brought("us.student-loans", "deduction")

    @line("23", "Archer MSAs", cites="IRC 220")
    def archer(self):
        return nothing_because("Form 8853 is not supported")

    @line("24a", "Jury duty pay given to employer")
    def jury_given_up(self):
        return total(self._of("jury_given_up"))

    @line("24b", "Expenses of rental of personal property")
    def rented_expenses(self):
        return least(total(self._of("rented_expenses")), self.rented_things)

    @line("24e", "Repayment of supplemental unemployment benefits")
    def repaid_unemployment(self):
        return total([paper.repaid_unemployment for paper in self.papers("adjustments")])

    @line("24f", "Contributions to section 501(c)(18)(D) plans")
    def older_plans(self):
        return total([total(wage.coded({"H"})) for wage in self.papers("w2")])

    @line("24h", "Attorney fees, discrimination claims")
    def legal_fees(self):
        return total([paper.legal_fees for paper in self.papers("adjustments")])

    @line("24i", "Attorney fees, whistleblower awards")
    def award_fees(self):
        return total([paper.award_fees for paper in self.papers("adjustments")])

    @line("24j", "Housing deduction, Form 2555", cites="IRC 911(c)(4)")
    def housing_abroad(self):
        return total([one.housing_deduction for one in self.every("us.2555")])

    @line("24k", "Excess deductions of section 67(e) expenses, Schedule K-1 (1041)", cites="IRC 642(h)(2)")
    def ended_estates(self):
        return total([paper.final_expenses for paper in self.papers("k1-1041")])

    @line("25", "Other adjustments")
    def others_deducted(self):
        return total(self.jury_given_up, self.rented_expenses, self.repaid_unemployment, self.older_plans, self.legal_fees,
                     self.award_fees, self.housing_abroad, self.ended_estates)  # fmt: skip

    @fact("Adjustments before IRA and student loan deductions")
    def without_ira(self):
        return total(
            self.educators, self.health_savings_deduction, self.moving, self.half_self_employment, self.plans,
            self.health_insurance, self.early_withdrawal, self.alimony_paid, self.archer, self.others_deducted,
        )  # fmt: skip

    @fact("Adjustments before student loan deduction")
    def before_student_loans(self):
        return total(self.without_ira, self.ira)

    @line("26", "Adjustments to income", weight="total")
    def adjustments(self):
        return total(self.before_student_loans, self.student_loans)
