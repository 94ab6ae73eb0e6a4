"""How money and time are asked for: extension, voucher, next year's estimates, refund over several accounts."""

from taxcore.engine import excess, line, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm


class Extension(FederalForm):
    """Form 4868. IRC 6081."""

    number, name = "4868", "Extension of time to file"
    income = linked("us.1040")

    def required(self):
        return bool(self.paper("extension").asked)

    @line("4", "Expected tax")
    def expected(self):
        paper = self.paper("extension")
        return total(paper.expected_tax) if paper.is_keyed("expected_tax") else total(self.income.total_tax)

    @line("5", "Total payments")
    def paid(self):
        return excess(self.income.payments, over=self.paper("estimates").with_extension)

    @line("6", "Balance")
    def balance(self):
        return excess(self.expected, over=self.paid)

    @line("7", "Amount you are paying")
    def paying(self):
        return total(self.paper("extension").paying)


class Voucher(FederalForm):
    """Form 1040-V: a balance paid by check. IRC 6151."""

    number, name = "1040-V", "Payment voucher"
    income = linked("us.1040")

    def required(self):
        return self.amount > 0 and not self.paper("filing").only_state

    @line("3", "Amount")
    def amount(self):
        return total(self.run.pack.authority("us").settled_on(self.run).owed)


class NextYear(FederalForm):
    """Form 1040-ES: four installments of next year, by this year's tax. IRC 6654(d)(1)(B)."""

    number, name = "1040-ES", "Estimated tax for next year"
    income = linked("us.1040")
    penalty = linked("us.2210")

    def required(self):
        return bool(self.paper("next-year").make)

    @line("12b", "Prior year safe harbor")
    def safe_harbour(self):
        """110% where this year's income is high."""
        law = self.law.underpayment
        high = self.income.adjusted_gross_income > law.high_income[self.income.status]
        return share(law.prior_share_high if high else law.prior_share, of=self.penalty.tax)

    @line("13", "Withholding expected")
    def withheld(self):
        return total(self.income.withheld)

    @line("14a", "Balance to pay in installments")
    def to_pay(self):
        return excess(self.safe_harbour, over=self.withheld)

    @line("15", "Required installments")
    def each(self):
        paper = self.paper("next-year")
        return total(paper.each) if paper.is_keyed("each") else share(self.law.underpayment.installment_share, of=self.to_pay)

    @line("voucher 1", "First voucher, less overpayment applied")
    def first(self):
        return excess(self.each, over=self.income.applied)

    @line("voucher 2", "Second voucher")
    def second(self):
        return total(self.each)

    @line("voucher 3", "Third voucher")
    def third(self):
        return total(self.each)

    @line("voucher 4", "Fourth voucher")
    def fourth(self):
        return total(self.each)


class SplitRefund(FederalForm):
    """Form 8888: a refund over two or three accounts. IRC 6402."""

    number, name = "8888", "Allocation of refund"
    income = linked("us.1040")

    def required(self):
        return bool(self.paper("split-deposit").rows)

    def _row(self, position):
        rows = self.paper("split-deposit").rows
        return total(rows[position].amount) if len(rows) > position else nothing_because("no account was entered")

    @line("1a", "Amount, first account")
    def first(self):
        return self._row(0)

    @line("2a", "Amount, second account")
    def second(self):
        return self._row(1)

    @line("3a", "Amount, third account")
    def third(self):
        return self._row(2)

    @line("5", "Total refund", weight="total")
    def together(self):
        return total(self.first, self.second, self.third)
