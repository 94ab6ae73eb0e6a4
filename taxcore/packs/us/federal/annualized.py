"""Form 2210, Schedule AI: installments by what had come until then, made up to a year. IRC 6654(d)(2)(B), (C)."""

from decimal import Decimal
from functools import partial

from taxcore.engine import excess, fact, greatest, least, linked, nothing_because, pro_rata, share, total
from taxcore.engine.forms import Line
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.tax import tax_on
from taxcore.packs.us.papers.annualized import PERIODS

_HALF, _LAST = Decimal("0.5"), 3
_COLUMNS = (*PERIODS, "d")
_PEOPLE = {"taxpayer": ("profit", "wages"), "spouse": ("spouse_profit", "spouse_wages")}


def _of(form, name, at):
    """What was entered for a period."""
    return getattr(form.entered, f"{name}_{_COLUMNS[at]}")


def _mine(form, name, at):
    """A line of this schedule in a column."""
    return getattr(form, f"{name}_{_COLUMNS[at]}")


def _factor(form, at):
    return form.law.underpayment.annualized.factors[at]


def _income(form, at):
    if at == _LAST:
        return total(form.income.adjusted_gross_income)
    return total(_of(form, "income", at), less=share(_HALF / _factor(form, at), of=_mine(form, "own_tax", at)))


def _annual_income(form, at):
    return total(form.income.adjusted_gross_income) if at == _LAST else share(_factor(form, at), of=_mine(form, "income", at))


def _itemized(form, at):
    if at == _LAST:
        itemized = form.income.is_itemised
        return total(form.income.itemized.deduction) if itemized else nothing_because("the standard deduction is taken")
    return share(_factor(form, at), of=_of(form, "itemized", at))


def _deduction(form, at):
    if at == _LAST:
        return total(form.income.standard_deduction)
    return greatest(_mine(form, "itemized", at), form.run.form("us.standard-deduction").deduction)


def _other_deductions(form, at):
    if at == _LAST:
        return excess(form.income.deductions, over=form.income.standard_deduction)
    return total(_of(form, "deductions", at))


def _taxable(form, at):
    return excess(_mine(form, "annual_income", at), over=[_mine(form, "deduction", at), _mine(form, "other_deductions", at)])


def _tax(form, at):
    """With gain and qualified dividends at their own rates: IRC 1(h)."""
    if at == _LAST:
        return total(form.income.tax)
    law, status, taxable = form.law.capital_gains, form.income.status, _mine(form, "taxable", at)
    preferred = least(share(_factor(form, at), of=greatest(_of(form, "preferred", at), 0)), taxable)
    ordinary = excess(taxable, over=preferred)
    if not preferred:
        return tax_on(Decimal(taxable), form.law, status)
    at_zero = least(preferred, excess(law.zero_up_to[status], over=ordinary))
    upper = least(excess(preferred, over=at_zero), excess(taxable, over=law.lower_up_to[status]))
    lower = excess(preferred, over=[at_zero, upper])
    own = total(tax_on(Decimal(ordinary), form.law, status), share(law.lower_rate, of=lower), share(law.upper_rate, of=upper))
    return least(own, tax_on(Decimal(taxable), form.law, status))


def _own_tax(form, at):
    """Of both spouses, each within the part of the wage base that months give."""
    if at == _LAST:
        return total([one.tax for one in form.every("us.sch-se")])
    return total([_own_tax_of(form, at, *names) for names in _PEOPLE.values()])


def _own_tax_of(form, at, profit, wages):
    law, annual = form.law.self_employment, _factor(form, at)
    earnings = share(law.share, of=greatest(_of(form, profit, at), 0))
    base = pro_rata(form.law.payroll.wage_base, Decimal(form.law.underpayment.annualized.months[at]), 12)
    room = excess(base, over=_of(form, wages, at))
    of_security = share(law.social_security_rate * annual, of=least(earnings, room))
    return total(form.rounding(of_security), form.rounding(share(law.medicare_rate * annual, of=earnings)))


def _other_taxes(form, at):
    if at == _LAST:
        every = total(form.income.other_tax_before_credits, form.regular.other_taxes)
        return excess(every, over=_mine(form, "own_tax", at))
    return total(_of(form, "other_taxes", at))


def _taxes(form, at):
    return total([_mine(form, name, at) for name in ("tax", "own_tax", "other_taxes")])


def _credits(form, at):
    """Of a period the year's, unless others were entered."""
    if at == _LAST or not form.entered.is_keyed(f"credits_{_COLUMNS[at]}"):
        return excess(_mine(form, "taxes", _LAST), over=form.regular.tax)
    return total(_of(form, "credits", at))


def _after_credits(form, at):
    return excess(_mine(form, "taxes", at), over=_mine(form, "credits", at))


def _share_of_it(form, at):
    return share(form.law.underpayment.annualized.shares[at], of=_mine(form, "after_credits", at))


def _before(form, at):
    return total([_mine(form, "installment", one) for one in range(at)])


def _rest(form, at):
    return excess(_mine(form, "share_of_it", at), over=_mine(form, "before", at))


def _regular(form, at):
    return total(form.regular.instalment)


def _made_up(form, at):
    """What earlier installments were less than the regular ones: it comes back later. IRC 6654(d)(2)(B)(ii)."""
    return excess(_mine(form, "most", at - 1), over=_mine(form, "installment", at - 1)) if at else total(0)


def _most(form, at):
    return total(_mine(form, "regular", at), _mine(form, "made_up", at))


def _installment(form, at):
    return least(_mine(form, "rest", at), _mine(form, "most", at))


_LINES = (
    ("1", "income", "Adjusted gross income", _income), ("3", "annual_income", "Annualized income", _annual_income),
    ("6", "itemized", "Annualized itemized deductions", _itemized),
    ("8", "deduction", "Standard or itemized deduction", _deduction),
    ("9", "other_deductions", "Deductions for QBI and of Schedule 1-A", _other_deductions),
    ("13", "taxable", "Annualized taxable income", _taxable), ("14", "tax", "Tax", _tax),
    ("15", "own_tax", "Self-employment tax", _own_tax), ("16", "other_taxes", "Other taxes", _other_taxes),
    ("17", "taxes", "Total tax", _taxes), ("18", "credits", "Credits", _credits),
    ("19", "after_credits", "Tax after credits", _after_credits),
    ("21", "share_of_it", "Applicable percentage of line 19", _share_of_it),
    ("22", "before", "Installments of earlier columns", _before), ("23", "rest", "Line 21 less line 22", _rest),
    ("24", "regular", "Regular installment", _regular), ("25", "made_up", "Reductions made up", _made_up),
    ("26", "most", "Lines 24 and 25", _most), ("27", "installment", "Annualized income installment", _installment),
    ("36", "own_tax_again", "Annualized self-employment tax", lambda form, at: total(_mine(form, "own_tax", at))),
)  # fmt: skip


def _lines():
    """Each line in its four columns."""
    found = {}
    for number, name, label, make in _LINES:
        for at, column in enumerate(_COLUMNS):
            line_number, words = f"{number}-{column.upper()}", f"{label}, column {column}"
            found[f"{name}_{column}"] = Line(line_number, words, partial(_read, make, at))
    return found


def _read(make, at, form):
    return make(form, at)


class AnnualizedInstallments(FederalForm):
    """Form 2210, Schedule AI. IRC 6654(d)(2)."""

    number, name = "2210-AI", "Annualized income installment method"
    columns = ("March", "May", "August", "December")
    income, regular = linked("us.1040"), linked("us.2210")

    @classmethod
    def idle(cls, run):
        return not run.single("penalty").annualise

    @property
    def entered(self):
        return self.run.single("annualized")

    def required(self):
        return self.regular.required()

    vars().update(_lines())

    @fact("Required installments")
    def installments(self):
        """The four of them, first to last."""
        return tuple(_mine(self, "installment", at) for at in range(len(_COLUMNS)))
