"""What was paid during the year, and what last year left: estimates, extension, penalties, how refunds go. IRC 6654, 6402."""

from taxcore.engine import Amount, Choice, Day, Flag, Prose, Row, Rows, Text, total
from taxcore.packs.us.balances import (
    ABOVE_CAP,
    APPLIED,
    ITEMIZED_BEFORE,
    ITEMIZED_TOTAL,
    NEGATIVE_INCOME,
    PRIOR_INCOME,
    PRIOR_TAX,
    SALES_TAX_BEFORE,
    STANDARD_BEFORE,
    STATE_TAX_DEDUCTED,
)
from taxcore.packs.us.base import STATUSES, FederalPaper


class PaymentRow(Row):
    paid = Day(None, "Date paid", needed="The date decides which installment it counts for.")
    amount = Amount(None, "Amount")


class StatePaymentRow(Row):
    state = Text(None, "State", longest=2)
    paid = Day(None, "Date paid")
    amount = Amount(None, "Amount")


class Estimates(FederalPaper):
    """Estimated tax of the year. IRC 6654(c)."""

    kind, name, official, group = "estimates", "Estimated tax payments", "1040-ES", "payments"
    single, owned = True, False

    applied = Amount(None, "Last year's overpayment applied", cites="IRC 6402(b)", opens=APPLIED)
    rows = Rows("26", "Payments", PaymentRow)
    state_rows = Rows(None, "State estimated payments", StatePaymentRow)
    with_extension = Amount(
        "10", "Paid with the extension", cites="IRC 6081", help="If empty, what the extension pays, once made."
    )

    @with_extension.when_empty
    def _with_extension(self):
        extension = self.run.single("extension")
        return total(extension.paying) if extension.paid else total(0)


class PriorYear(FederalPaper):
    """Figures of last year's return that this one asks for."""

    kind, name, official, group = "prior-year", "Prior year return", "1040, prior year", "payments"
    single, owned = True, False

    adjusted_gross_income = Amount(
        None,
        "Adjusted gross income",
        negative=True,
        help="It identifies the signer and decides the safe harbor.",
        opens=PRIOR_INCOME,
    )
    tax = Amount(None, "Total tax", cites="IRC 6654(d)(1)(B)", help="As Form 2210, line 8 defines it.", opens=PRIOR_TAX)
    whole_year = Flag(None, "Covered 12 months", help="If empty, yes.")
    itemised = Flag(None, "Itemized", cites="IRC 111", begins="For a state refund", opens=ITEMIZED_BEFORE)
    itemised_total = Amount(None, "Total itemized deductions", opens=ITEMIZED_TOTAL)
    state_tax_deducted = Amount(
        None, "State income tax deducted", help="Line 5a, if income tax rather than sales tax.", opens=STATE_TAX_DEDUCTED
    )
    sales_tax_then = Amount(None, "Sales tax that could have been deducted", opens=SALES_TAX_BEFORE)
    above_cap = Amount(None, "Taxes above the cap", help="Lines 5d less 5e.", opens=ABOVE_CAP)
    standard_then = Amount(None, "Standard deduction available", opens=STANDARD_BEFORE)
    separate_or_negative = Amount(None, "Taxable income, if negative", negative=True, opens=NEGATIVE_INCOME)


class PenaltyQuestions(FederalPaper):
    """Underpayment of estimated tax. IRC 6654(d), (e)."""

    kind, name, official, group = "penalty", "Underpayment penalty", "2210", "payments"
    single, owned = True, False

    annualise = Flag(None, "Annualized income method", cites="IRC 6654(d)(2)")
    waiver = Flag(None, "Request a waiver", cites="IRC 6654(e)(3)")
    waived = Amount(None, "Penalty to be waived")
    waiver_reason = Prose(None, "Reason of the waiver", longest=600, cites="IRC 6654(e)(3)",
                          help="Casualty or disaster; retirement at 62 or disability, with reasonable cause.")  # fmt: skip
    farmer = Flag(None, "Farmer or fisherman", cites="IRC 6654(i)", kept=True)
    paid_by_march = Flag(None, "Farmer: filed and paid in full by March 1", cites="IRC 6654(i)(1)(D)")
    by_authority = Flag(None, "Let the IRS figure the penalty", alike=True, kept=True)
    paid_on = Day(None, "Date balance paid", help="If empty, the due date.")


class LocalExtensionRow(Row):
    authority = Text(None, "Taxing authority", longest=60, needed="Name the city, county or school district.")
    form = Text(None, "Form", longest=40)
    amount = Amount(None, "Amount paid with it")
    sent_to = Text(None, "Mailing address", longest=120)
    sent_on = Day(None, "Date sent")


class MoreTimeAsked(FederalPaper):
    """What every request for more time says. IRC 6081, 6151(a)."""

    single, owned = True, False

    asked = Flag(None, "Request an extension")
    expected_tax = Amount("4", "Estimate of total tax", help="If empty, total tax as computed.")
    paying = Amount("7", "Amount paid with extension")
    paid = Flag(
        None, "Payment made", help="Set when the request is accepted with its debit; enter it for a payment made otherwise."
    )
    pay_how = Choice(None, "Payment method", {"debit": "Direct debit with the request", "otherwise": "Check, card or online"},
                     begins="Payments with extensions")  # fmt: skip
    routing = Text(None, "Routing number", pattern=r"\d{9}", pattern_says="A routing number has nine digits.", longest=9)
    account = Text(None, "Account number", secret=True, pattern=r"[A-Za-z0-9-]{4,17}", longest=17,
                   pattern_says="An account number has 4 to 17 letters and digits.")  # fmt: skip
    account_kind = Choice(None, "Type of account", {"checking": "Checking", "savings": "Savings"})
    debit_on = Day(None, "Debit date")
    local = Rows(None, "Local extensions, requested by hand", LocalExtensionRow)


class Extension(MoreTimeAsked):
    """Extension of time to file. A payment counts once it is made, the extension once it is accepted. IRC 6081, 6151(a)."""

    kind, name, official, group = "extension", "Extension", "4868", "payments"

    abroad = Flag("8", "Out of the country on the due date")


class SplitRow(Row):
    routing = Text("a", "Routing number", pattern=r"\d{9}", pattern_says="A routing number has nine digits.", longest=9,
                   needed="The deposit requires it.")  # fmt: skip
    kind = Choice("c", "Type", {"checking": "Checking", "savings": "Savings"}, needed="The deposit requires it.")
    account = Text("d", "Account", secret=True, longest=17, needed="The deposit requires it.", pattern=r"[A-Za-z0-9-]{4,17}",
                   pattern_says="An account number has 4 to 17 letters and digits.")  # fmt: skip
    amount = Amount(None, "Amount")


class SplitDeposit(FederalPaper):
    """A refund over two or three accounts. Form 8888."""

    kind, name, official, group = "split-deposit", "Direct deposit to several accounts", "8888", "payments"
    single, owned = True, False
    repeats = ("rows",)
    rows = Rows("1", "Accounts", SplitRow)


class BalanceDebit(FederalPaper):
    """A balance due that a bank debits on a day, asked for with the return: electronic funds withdrawal. IRC 6311(d); Form 1040,
    line 37."""

    kind, name, official, group = "debit", "Direct debit of the balance due", "1040, line 37", "payments"
    single, owned = True, False

    routing = Text(
        None, "Routing number", pattern=r"\d{9}", pattern_says="A routing number has nine digits.", longest=9, kept=True
    )
    account = Text(None, "Account number", secret=True, pattern=r"[A-Za-z0-9-]{4,17}", longest=17, kept=True,
                   pattern_says="An account number has 4 to 17 letters and digits.")  # fmt: skip
    account_kind = Choice(None, "Type of account", {"checking": "Checking", "savings": "Savings"}, kept=True)
    debit_on = Day(None, "Debit date")
    paying = Amount(None, "Amount", help="Empty: the whole balance due.")

    def asked(self):
        """Whether anything of it is entered."""
        return any(self.is_keyed(name) for name in ("routing", "account", "account_kind", "debit_on", "paying"))


class NextYear(FederalPaper):
    """What the vouchers for next year are made from."""

    kind, name, official, group = "next-year", "Estimated tax", "1040-ES", "payments"
    single, owned = True, False

    make = Flag(None, "Prepare vouchers", alike=True, kept=True)
    each = Amount(None, "Each installment", help="Empty: a quarter of the safe harbor, less withholding.")


class ParentsFigures(FederalPaper):
    """What Form 8615 asks of the parent. IRC 1(g)."""

    kind, name, official, group = "parent", "Parent's information", "8615", "people"
    single, owned = True, False

    parent_name = Text("A", "Parent's name", longest=60, kept=True)
    parent_number = Text("B", "Parent's SSN", secret=True, longest=11, pattern=r"\d{3}-?\d{2}-?\d{4}", shape="000-00-0000",
                         pattern_says="A Social Security number has nine digits, 000-00-0000.", kept=True)  # fmt: skip
    status = Choice("C", "Parent's filing status", STATUSES, kept=True)
    taxable_income = Amount("6", "Parent's taxable income")
    preferred = Amount(None, "Parent's net capital gain and qualified dividends")
    parent_tax = Amount("10", "Parent's tax", help="If empty, computed from the amounts here.")
    others_unearned = Amount("7", "Other children's net unearned income")
    no_parent = Flag(None, "Neither parent living at year end", kept=True)


class MinimumTaxItems(FederalPaper):
    """What the alternative minimum tax counts otherwise. IRC 56, 57."""

    kind, name, official, group = "minimum-tax", "AMT items", "6251", "deductions"
    single, owned = True, False

    stock_options = Amount("2i", "Incentive stock options", cites="IRC 56(b)(3)")
    depreciation = Amount("2l", "Depreciation difference", negative=True, cites="IRC 56(a)(1)")
    small_business = Amount("2h", "Section 1202 exclusion", cites="IRC 57(a)(7)")
    other = Amount("3", "Other adjustments", negative=True)
