"""From the accounts to the trading profit of the period. CTA 2009 ss. 35 to 59; CTA 2010 s. 52."""

from decimal import Decimal

from taxcore.engine import excess, fact, line, pro_rata, total
from taxcore.packs.uk.base import Page
from taxcore.packs.uk.company.balances import RESERVES
from taxcore.packs.uk.company.papers import PROFIT_AND_LOSS


def _whole(value):
    return value.quantize(Decimal(1))


class AccountsForm(Page):
    """The accounts by headings, and what of their lines belongs elsewhere than to the trade."""

    number, name, worksheet = "Accounts", "Accounts", True
    rounding = staticmethod(_whole)

    @property
    def paper(self):
        return self.run.single("accounts")

    @property
    def days(self):
        """Of the accounts, which may have more than a return's period."""
        begun, ended = self.paper.begun or self.run.period.start, self.paper.ended or self.run.period.end
        return max((ended - begun).days + 1, 1)

    def lines_of(self, treatment):
        return [row for row in self.paper.rows if row.heading in PROFIT_AND_LOSS and row.treatment == treatment]

    def _in(self, treatment):
        """What comes in less what it costs."""
        rows = self.lines_of(treatment)
        return total([row.credit for row in rows], less=[row.debit for row in rows])

    def _of(self, *headings):
        rows = [row for row in self.paper.rows if row.heading in headings]
        return total([row.debit for row in rows], less=[row.credit for row in rows])

    @line("a", "Turnover")
    def turnover(self):
        return total(self.paper.turnover)

    @line("b", "Profit before tax")
    def profit(self):
        return total(self.paper.profit)

    @line("c", "Left out of the trading profit")
    def disallowed(self):
        rows = self.lines_of("disallowed")
        return total([row.debit for row in rows], less=[row.credit for row in rows])

    @line("d", "Interest, not of the trade")
    def interest(self):
        return self._in("interest")

    @line("e", "Lettings")
    def property(self):
        return self._in("property")

    @line("f", "Dividends, exempt")
    def dividends(self):
        return self._in("dividend")

    @line("g", "Other income")
    def other(self):
        return self._in("other")

    @line("h", "Qualifying donations")
    def donations(self):
        rows = self.lines_of("donation")
        return total([row.debit for row in rows], less=[row.credit for row in rows])

    @line("i", "Assets")
    def assets(self):
        return self._of("fixed", "stock", "debtors", "cash")

    @line("j", "Creditors, provisions, capital and reserves")
    def owed(self):
        """With what the period adds to reserves: profit less tax and dividends."""
        rows = [row for row in self.paper.rows if row.heading not in ("fixed", "stock", "debtors", "cash")]
        return total([row.credit for row in rows], less=[row.debit for row in rows])

    @fact("Reserves at the end", closes=RESERVES)
    def reserves(self):
        """Those at the beginning, the profit after tax, less dividends; with the tax that is posted from here."""
        rows = [row for row in self.paper.rows if row.heading in (*PROFIT_AND_LOSS, "tax", "dividend", "reserves")]
        posted = self.run.form("uk.ct600").chargeable if self.paper.posted else Decimal(0)
        return total([row.credit for row in rows], less=[*(row.debit for row in rows), posted])

    @fact("Debits less credits")
    def difference(self):
        return total([row.debit for row in self.paper.rows], less=[row.credit for row in self.paper.rows])


class TradingProfit(Page):
    """Profit before tax, what is added and deducted, the part of the period, capital allowances."""

    number, name, worksheet = "Trading profit", "Adjusted trading profit", True

    @property
    def accounts(self):
        return self.run.form("uk.accounts")

    @line("a", "Profit before tax of the accounts")
    def before(self):
        return total(self.accounts.profit)

    @line("b", "Added: left out of the trading profit", cites="CTA 2009 ss. 53, 54, 1298")
    def added_back(self):
        return total(self.accounts.disallowed, self.accounts.donations)

    @line("c", "Deducted: income that is not of the trade", cites="CTA 2009 ss. 46, 297, 299")
    def elsewhere(self):
        one = self.accounts
        return total(one.interest, one.property, one.dividends, one.other)

    def _by(self, way):
        return [self.rounding(row.amount) for row in self.accounts.paper.adjustments if row.by == way]

    @line("d", "Adjustments besides, added")
    def more(self):
        return total(self._by("add"))

    @line("e", "Adjustments besides, deducted")
    def less(self):
        return total(self._by("deduct"))

    @line("f", "Adjusted profit of the accounts")
    def adjusted(self):
        return total(self.before, self.added_back, self.more, less=[self.elsewhere, self.less])

    @line("g", "Of the period, by days", cites="CTA 2010 s. 52")
    def of_period(self):
        days, whole = self.run.period.days, self.accounts.days
        if days >= whole:
            return total(self.adjusted)
        return pro_rata(self.adjusted, Decimal(days), Decimal(whole))

    @line("h", "Capital allowances")
    def allowances(self):
        return self.brought("uk.plant", "allowances")

    @line("i", "Balancing charges")
    def charges(self):
        return self.brought("uk.plant", "charges")

    @fact("Gains of the period above its deductions")
    def whole(self):
        return total(self.of_period, self.charges, less=self.allowances)

    @line("j", "Trading profit", weight="total")
    def profit(self):
        return excess(total(self.whole), over=Decimal(0))

    @line("k", "Trading loss", weight="total")
    def loss(self):
        return excess(Decimal(0), over=self.whole)
