"""SA103S and SA103F: a trade on the short pages or on the full ones."""

from taxcore.engine import line, total
from taxcore.packs.uk.individual.trades import is_full
from taxcore.packs.uk.individual.trading import OfOnePaper


class _TradePage(OfOnePaper):
    per = "trade"
    needs = ("trade",)

    @property
    def of(self):
        return self.run.form("uk.trading-profit", self.key)


class TradePage(_TradePage):
    """SA103S. Expenses are grouped as its boxes are."""

    number, name = "SA103S", "Self-employment (short)"

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers("trade") if not is_full(paper)]

    @line("9", "Turnover")
    def turnover(self):
        return total(self.paper.turnover)

    @line("10", "Any other business income")
    def other(self):
        return total(self.paper.other)

    @line("10.1", "Trading income allowance")
    def allowance(self):
        return total(self.of.allowance)

    @line("20", "Total allowable expenses")
    def expenses(self):
        return total(self.of.expenses)

    @line("21", "Net profit")
    def profit(self):
        return total(self.of.profit)

    @line("22", "Net loss")
    def loss(self):
        return total(self.of.loss)

    @line("28", "Net business profit for tax purposes")
    def net(self):
        return total(self.of.net)

    @line("29", "Loss brought forward set against this year's profits")
    def loss_used(self):
        return total(self.of.loss_used)

    @line("31", "Total taxable profits", weight="total")
    def taxable(self):
        return total(self.of.taxable)

    @line("32", "Net business loss for tax purposes")
    def net_loss(self):
        return total(self.of.net_loss)

    @line("33", "Loss set off against other income")
    def loss_against_income(self):
        return total(self.of.loss_against_income)

    @line("34", "Loss carried back to earlier years")
    def loss_carried_back(self):
        return total(self.of.loss_carried_back)

    @line("35", "Total loss to carry forward")
    def loss_forward(self):
        return total(self.of.loss_forward)

    @line("38", "Deductions on payment and deduction statements")
    def deducted(self):
        return total(self.of.deducted)


def _expense(number, label, name):
    """A box of the full pages for one kind of expenses, less what of it is disallowable."""
    return line(number, label)(lambda page: total(page.of.allowable(name)))


class FullTradePage(_TradePage):
    """SA103F."""

    number, name = "SA103F", "Self-employment (full)"

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers("trade") if is_full(paper)]

    @line("15", "Turnover")
    def turnover(self):
        return total(self.paper.turnover)

    @line("16", "Any other business income")
    def other(self):
        return total(self.paper.other)

    @line("16.1", "Trading income allowance")
    def allowance(self):
        return total(self.of.allowance)

    goods = _expense("17", "Cost of goods bought for resale or goods used", "goods")
    subcontractors = _expense("18", "Construction industry payments to subcontractors", "subcontractors")
    wages = _expense("19", "Wages, salaries and other staff costs", "wages")
    travel = _expense("20", "Car, van and travel expenses", "travel")
    premises = _expense("21", "Rent, rates, power and insurance costs", "premises")
    repairs = _expense("22", "Repairs and maintenance of property and equipment", "repairs")
    office = _expense("23", "Phone, stationery and other office costs", "office")
    advertising = _expense("24", "Advertising and business entertainment costs", "advertising")
    finance = _expense("25", "Interest on bank and other loans", "finance")
    bank_charges = _expense("26", "Bank, credit card and other financial charges", "bank_charges")
    bad_debts = _expense("27", "Irrecoverable debts written off", "bad_debts")
    accountancy = _expense("28", "Accountancy, legal and other professional fees", "accountancy")
    rest = _expense("30", "Other business expenses", "rest")

    @line("31", "Total expenses")
    def expenses(self):
        return total(self.of.expenses)

    @line("47", "Net profit")
    def profit(self):
        return total(self.of.profit)

    @line("48", "Net loss")
    def loss(self):
        return total(self.of.loss)

    @line("57", "Total capital allowances")
    def allowances(self):
        return total(self.of.allowances)

    @line("59", "Balancing charge on sales of assets or on cessation")
    def charge(self):
        return total(self.of.charge)

    @line("60", "Goods and services for own use")
    def own_use(self):
        return total(self.paper.own_use)

    @line("64", "Net business profit for tax purposes")
    def net(self):
        return total(self.of.twelve_months)

    @line("65", "Net business loss for tax purposes")
    def net_loss(self):
        return total(self.of.twelve_months_loss)

    @line("69", "Overlap relief used this year")
    def overlap(self):
        return total(self.paper.overlap)

    @line("73", "Adjusted profit for the year")
    def adjusted(self):
        return total(self.of.net)

    @line("73.3", "Transition profit charged in the year")
    def transition(self):
        return total(self.of.transition)

    @line("74", "Loss brought forward set off against this year's profits")
    def loss_used(self):
        return total(self.of.loss_used)

    @line("76", "Total taxable profits from this business", weight="total")
    def taxable(self):
        return total(self.of.taxable, self.of.transition)

    @line("77", "Adjusted loss for the year")
    def adjusted_loss(self):
        return total(self.of.net_loss)

    @line("78", "Loss set off against other income")
    def loss_against_income(self):
        return total(self.of.loss_against_income)

    @line("79", "Loss carried back to earlier years")
    def loss_carried_back(self):
        return total(self.of.loss_carried_back)

    @line("80", "Total loss to carry forward")
    def loss_forward(self):
        return total(self.of.loss_forward)

    @line("81", "Deductions on payment and deduction statements")
    def deducted(self):
        return total(self.of.deducted)
