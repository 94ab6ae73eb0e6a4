"""Basis of a shareholder and of a partner, and amounts at risk: which losses of the year an owner may deduct.

IRC 465, 704(d), 705, 731, 752, 1366(d), 1367, 1368. Passive losses come after these: IRC 469.
"""

from decimal import Decimal
from functools import partial

from taxcore.engine import ZERO, excess, fact, greatest, least, line, nothing_because, pro_rata, ratio, share, total, whole
from taxcore.engine.forms import Line
from taxcore.packs.us.balances import (
    DEBT_BASIS,
    LOAN,
    PARTNER_BASIS,
    PARTNER_LOSS,
    RISK_LOSS,
    RISK_TRADE,
    SHAREHOLDER_LOSS,
    STOCK_BASIS,
)
from taxcore.packs.us.base import FederalForm, from_paper
from taxcore.packs.us.basis.limits import FORM_OF, limits_risk
from taxcore.packs.us.basis.papers import BASES, DEDUCTIONS, ITEMS, NOT_AT_RISK_RULES, amount_of
from taxcore.packs.us.federal.trades import trade_by_key

# Lines of Form 7203, part III, and of the partner's worksheet
_OF_SHAREHOLDERS = {
    "ordinary": "35", "rental": "36", "other_rental": "37", "short_gain": None, "long_gain": None, "section_1231": "39",
    "other_income": "40", "section_179": "41", "cash_gifts": "42", "investment_interest": "43",
    "portfolio_deductions": None, "trade_deductions": None, "foreign_tax": "46",
}  # fmt: skip
_OF_PARTNERS = dict(zip(ITEMS, map(str, range(12, 25)), strict=True))
_GAINS = ("short_gain", "long_gain")
# Lines of Form 7203 with several items, which wait apart: by their last item
_TOGETHER = {"long_gain": ("38", "Net capital loss", _GAINS),
             "trade_deductions": ("45", "Other deductions", ("portfolio_deductions", "trade_deductions"))}  # fmt: skip


def _lost(name, form):
    """Column a: what the share brings of it this year, where it is a loss or a deduction."""
    if form.share is None:
        return total(ZERO)
    amount = amount_of(form.share, name)
    return total(amount) if name in DEDUCTIONS else excess(ZERO, over=amount)


def _before(name, form):
    return total([row.amount for row in form.paper.rows if row.item == name])


def _wanted(name, form):
    return total(getattr(form, f"{name}_lost"), getattr(form, f"{name}_before"))


def _part(of, suffix, name, form):
    """An item's part of what is allowed; the last one has the rest, so that the parts are all of it to the dollar."""
    allowed = getattr(form, of)
    if name == form.last_item:
        others = [getattr(form, f"{other}_{suffix}") for other in form.items if other != name]
        return least(excess(allowed, over=others), _wanted(name, form))
    return pro_rata(allowed, _wanted(name, form), form.lost)


def _left(name, form):
    taken = [getattr(form, f"{name}_{part}") for part in form.taken_by]
    return excess(_wanted(name, form), over=taken)


def _columns(numbers, *taken, last):
    """Lines of each kind of loss: of the year, of before, what is allowed by stock and by debt (or by basis), what is left."""
    found = {}
    for name, number in numbers.items():
        columns = (("A", "lost", "of this year", _lost), ("B", "before", "of earlier years", _before), *taken,
                   (last, "left", "carried over", _left))  # fmt: skip
        for letter, suffix, words, make in columns:
            numbered = f"{number}-{letter}" if number else None
            found[f"{name}_{suffix}"] = Line(numbered, f"{ITEMS[name]}, {words}", partial(make, name))
        if number is None and name in _TOGETHER:
            found |= {f"{name}_all_{suffix}": _sum_of(name, letter, suffix, words) for letter, suffix, words, _ in columns}
    return found


def _sum_of(name, letter, suffix, words):
    """A column of a line with several items."""
    number, label, items = _TOGETHER[name]
    names = [f"{item}_{suffix}" for item in items]
    return Line(f"{number}-{letter}", f"{label}, {words}", lambda form: total([getattr(form, one) for one in names]))


class _Basis(FederalForm):
    """What the two have in common. The share's K-1 brings income and losses, the paper of the basis the rest."""

    items = tuple(ITEMS)

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers(cls.per)]

    @property
    def paper(self):
        return self.run.by_key((self.per,), self.key)

    @property
    def share(self):
        """The Schedule K-1, or None where the paper names none."""
        return self.run.by_key(BASES[self.per], str(self.paper.share or ""))

    def required(self):
        return self.share is not None

    def _income(self, *names):
        if self.share is None:
            return nothing_because("no Schedule K-1 is named")
        return total([greatest(amount_of(self.share, name), ZERO) for name in names])

    def _all(self, suffix):
        return [getattr(self, f"{name}_{suffix}") for name in self.items]

    @property
    def last_item(self):
        """The last kind of loss that there is."""
        return next((name for name in reversed(self.items) if _wanted(name, self) > 0), "")

    def left_by_item(self):
        """What is carried over, as rows of next year's paper."""
        return _rows((name, getattr(self, f"{name}_left")) for name in self.items)

    def allowed_of(self, name):
        """What basis lets through of one item."""
        return total([getattr(self, f"{name}_{part}") for part in self.taken_by])


def _rows(amounts):
    return [{"item": name, "amount": f"{amount:f}"} for name, amount in amounts if amount > 0]


class ShareholderBasis(_Basis):
    """Form 7203: stock and debt basis of one share of an S corporation. IRC 1366(d), 1367, 1368; 26 CFR 1.1367-1, -2."""

    number, name, per = "7203", "S corporation shareholder stock and debt basis limitations", "basis-s"
    columns = ("This year", "Earlier years", "By stock", "By debt", "Carried over")
    taken_by = ("by_stock", "by_debt")

    stock = from_paper("1", "stock", "Stock basis at the beginning of the year")
    contributed = from_paper("2", "contributed", "Capital contributions or additional stock")

    @line("3a", "Ordinary business income")
    def ordinary_income(self):
        return self._income("ordinary")

    @line("3b", "Net rental real estate income")
    def rental_income(self):
        return self._income("rental")

    @line("3c", "Other net rental income")
    def other_rental_income(self):
        return self._income("other_rental")

    @line("3d", "Interest income")
    def interest(self):
        return self._income("interest")

    @line("3e", "Ordinary dividends")
    def dividends(self):
        return self._income("dividends")

    @line("3f", "Royalties")
    def royalties(self):
        return self._income("royalties")

    @line("3g", "Net capital gains")
    def capital_gains(self):
        return self._income(*_GAINS)

    @line("3h", "Net section 1231 gain")
    def section_1231_gain(self):
        return self._income("section_1231")

    @line("3i", "Other income")
    def other(self):
        return self._income("other_income")

    @line("3k", "Tax-exempt income")
    def exempt(self):
        return self._income("exempt_interest")

    @line("3m", "Other items that increase stock basis")
    def more(self):
        return total(self.paper.other_increases)

    @line("4", "Items that increase stock basis")
    def income(self):
        return total(self.ordinary_income, self.rental_income, self.other_rental_income, self.interest, self.dividends,
                     self.royalties, self.capital_gains, self.section_1231_gain, self.other, self.exempt, self.more)  # fmt: skip

    @line("5", "Stock basis before distributions")
    def before_distributions(self):
        return total(self.stock, self.contributed, self.income)

    distributed = from_paper("6", "distributed", "Distributions (excluding dividend distributions)")

    @line("7", "Stock basis after distributions")
    def after_distributions(self):
        return excess(self.before_distributions, over=self.distributed)

    nondeductible = from_paper("8a", "nondeductible", "Nondeductible expenses")

    @line("9", "Nondeductible expenses and other decreases")
    def decreases(self):
        return total(self.nondeductible)

    @line("10", "Stock basis before losses and deductions", weight="total")
    def before_losses(self):
        return excess(self.after_distributions, over=self.decreases)

    @line("11", "Losses and deductions allowed by stock basis")
    def by_stock(self):
        return least(self.lost, self.before_losses)

    @line("12", "Debt basis restored")
    def to_debt(self):
        return total(self.restored)

    @line("14", "Lines 11 and 12")
    def taken(self):
        return total(self.by_stock, self.to_debt)

    @line("15", "Stock basis at the end of the year", weight="total", closes=STOCK_BASIS)
    def stock_at_end(self):
        return excess(self.before_losses, over=self.taken)

    loan = from_paper("16", "loan", "Loan balance at the beginning of the year")
    lent = from_paper("17", "lent", "Additional loans")

    @line("18", "Loan balance before repayment")
    def lent_in_all(self):
        return total(self.loan, self.lent)

    repaid = from_paper("19", "repaid", "Principal repaid")

    @line("20", "Loan balance at the end of the year", closes=LOAN)
    def loan_at_end(self):
        return excess(self.lent_in_all, over=self.repaid)

    debt = from_paper("21", "debt", "Debt basis at the beginning of the year")

    @line("22", "Additional loans")
    def debt_added(self):
        return total(self.lent)

    @line("23", "Debt basis restoration", cites="26 CFR 1.1367-2(c)")
    def restored(self):
        """By the year's income above distributions, expenses and losses: up to what was used of the loans' basis."""
        net = excess(self.income, over=[self.distributed, self.decreases, self.lost])
        return least(net, excess(self.loan, over=self.debt))

    @line("24", "Debt basis before repayment")
    def debt_before_repayment(self):
        return total(self.debt, self.debt_added, self.restored)

    @line("25", "Line 24 divided by line 18", rounding=None)
    def part_of_loan(self):
        return least(ratio(self.debt_before_repayment, over=self.lent_in_all, places=6), Decimal(1))

    @line("26", "Nontaxable debt repayment")
    def repaid_of_basis(self):
        return share(self.part_of_loan, of=self.repaid)

    @line("27", "Debt basis before nondeductible expenses and losses")
    def debt_after_repayment(self):
        return excess(self.debt_before_repayment, over=self.repaid_of_basis)

    @line("28", "Nondeductible expenses above stock basis")
    def more_decreases(self):
        return excess(self.decreases, over=self.after_distributions)

    @line("29", "Debt basis before losses and deductions")
    def debt_before_losses(self):
        return excess(self.debt_after_repayment, over=self.more_decreases)

    @line("30", "Losses and deductions allowed by debt basis")
    def by_debt(self):
        return least(excess(self.lost, over=self.by_stock), self.debt_before_losses)

    @line("31", "Debt basis at the end of the year", weight="total", closes=DEBT_BASIS)
    def debt_at_end(self):
        return excess(self.debt_before_losses, over=self.by_debt)

    @line("32", "Repayment")
    def repayment(self):
        return total(self.repaid)

    @line("33", "Nontaxable repayment")
    def nontaxable(self):
        return total(self.repaid_of_basis)

    @line("34", "Reportable gain", cites="26 CFR 1.1367-2(d); Rev. Rul. 64-162")
    def gain_of_loan(self):
        return excess(self.repayment, over=self.nontaxable)

    vars().update(
        _columns(
            _OF_SHAREHOLDERS,
            ("C", "by_stock", "allowed by stock basis", partial(_part, "by_stock", "by_stock")),
            ("D", "by_debt", "allowed by debt basis", partial(_part, "by_debt", "by_debt")),
            last="E",
        )
    )

    @line("47-A", "Losses and deductions, of this year")
    def lost_now(self):
        return total(self._all("lost")) if self.share is not None else total(ZERO)

    @line("47-B", "Losses and deductions, of earlier years")
    def lost_before(self):
        return total(self._all("before")) if self.share is not None else total(ZERO)

    @fact("Losses and deductions of this year and before")
    def lost(self):
        return total(self.lost_now, self.lost_before)

    @line("47-C", "Losses and deductions, allowed by stock basis")
    def allowed_by_stock(self):
        return total(self.by_stock)

    @line("47-D", "Losses and deductions, allowed by debt basis")
    def allowed_by_debt(self):
        return total(self.by_debt)

    @line(
        "47-E",
        "Losses and deductions, carried over",
        weight="total",
        closes=SHAREHOLDER_LOSS,
        by_origin="left_by_item",
        used="of_before",
    )
    def left(self):
        return total(self._all("left"))

    @fact("Losses allowed by basis")
    def allowed(self):
        return total(self.by_stock, self.by_debt)

    @fact("Losses of earlier years allowed")
    def of_before(self):
        return excess(self._all("before"), over=self.left)

    @fact("Basis before losses")
    def basis_for_risk(self):
        return total(self.before_losses, self.debt_before_losses)

    @fact("Distributions above stock basis", cites="IRC 1368(b)(2)")
    def above_basis(self):
        if self.share is None:
            return nothing_because("no Schedule K-1 is named")
        return excess(self.distributed, over=self.before_distributions)


class PartnerBasis(_Basis):
    """A partner's basis in one partnership over a year. IRC 704(d), 705, 731(a), 733, 752; 26 CFR 1.704-1(d)."""

    number, name, per, worksheet = "Partner basis", "Basis of a partner's interest", "basis-p", True
    columns = ("This year", "Earlier years", "Allowed", "Carried over")
    taken_by = ("by_basis",)

    basis = from_paper("1", "basis", "Basis at the beginning of the year")
    contributed = from_paper("2", "contributed", "Money and property contributed")

    @line("3", "Increase of the share of liabilities", cites="IRC 752(a)")
    def more_liabilities(self):
        return greatest(self.paper.liabilities, ZERO)

    @line("4", "Income and other increases", cites="IRC 705(a)(1)")
    def income(self):
        """Guaranteed payments are no distributive share: 26 CFR 1.707-1(c)."""
        names = ("ordinary", "rental", "other_rental", "interest", "dividends", "royalties", *_GAINS, "section_1231",
                 "other_income", "exempt_interest")  # fmt: skip
        return total(self._income(*names), self.paper.other_increases)

    @line("5", "Basis before distributions")
    def before_distributions(self):
        return total(self.basis, self.contributed, self.more_liabilities, self.income)

    @line("6", "Money distributed, with a decrease of the share of liabilities", cites="IRC 752(b)")
    def money(self):
        return total(self.paper.distributed, excess(ZERO, over=self.paper.liabilities))

    @line("7", "Property distributed")
    def property_distributed(self):
        return least(self.paper.property_distributed, excess(self.before_distributions, over=self.money))

    @line("8", "Nondeductible expenses")
    def nondeductible(self):
        return total(self.paper.nondeductible)

    @line("9", "Basis before losses", weight="total")
    def before_losses(self):
        return excess(self.before_distributions, over=[self.money, self.property_distributed, self.nondeductible])

    @line("10", "Losses and deductions allowed by basis")
    def allowed(self):
        return least(self.lost, self.before_losses)

    @line("11", "Basis at the end of the year", weight="total", closes=PARTNER_BASIS)
    def at_end(self):
        return excess(self.before_losses, over=self.allowed)

    vars().update(_columns(_OF_PARTNERS, ("C", "by_basis", "allowed", partial(_part, "allowed", "by_basis")), last="D"))

    @line("25-A", "Losses and deductions, of this year and earlier ones", weight="total")
    def lost(self):
        return total(self._all("lost"), self._all("before")) if self.share is not None else total(ZERO)

    @line(
        "25-D",
        "Losses and deductions, carried over",
        weight="total",
        closes=PARTNER_LOSS,
        by_origin="left_by_item",
        used="of_before",
    )
    def left(self):
        return total(self._all("left"))

    @fact("Losses of earlier years allowed")
    def of_before(self):
        return excess(self._all("before"), over=self.left)

    @fact("Basis before losses, as it counts at risk")
    def basis_for_risk(self):
        return total(self.before_losses)

    @fact("Money above the basis", cites="IRC 731(a)(1)")
    def above_basis(self):
        if self.share is None:
            return nothing_because("no Schedule K-1 is named")
        return excess(self.money, over=self.before_distributions)


def _at_risk(name):
    """What of one item of a share is allowed: its part in whole dollars, of the last item the rest."""

    def read(form):
        if form.books is not None or form.basis.share is None:
            return total(ZERO)
        if name in NOT_AT_RISK_RULES:
            return form.basis.allowed_of(name)
        if name == form.last_item:
            others = [getattr(form, f"{other}_allowed") for other in form._items() if other != name]
            return least(excess(form.allowed, over=others), form.wanted(name))
        return pro_rata(form.allowed, form.wanted(name), form.losses)

    return fact(f"{ITEMS[name]}, allowed", rounding=whole)(read)


def _counted(name):
    """One item of a share as the rest of the return reads it."""

    def read(form):
        if form.basis.share is None:
            return total(ZERO)
        allowed = getattr(form, f"{name}_allowed")
        return total(allowed) if name in DEDUCTIONS else total(greatest(amount_of(form.basis.share, name), ZERO), less=allowed)

    return fact(f"{ITEMS[name].removesuffix(' loss')}, after basis and risk", rounding=whole)(read)


class AtRisk(FederalForm):
    """Form 6198: losses of one share or trade up to what its owner can lose. IRC 465(a), (b)."""

    number, name = "6198", "At-risk limitations"
    per = ("basis-s", "basis-p", "business", "farm")

    @classmethod
    def keys(cls, run):
        return [paper.key for kind in cls.per for paper in run.papers(kind) if kind in BASES or limits_risk(paper)]

    @property
    def books(self):
        """The trade's books, or None where it is a share."""
        return trade_by_key(self.run, self.key)

    @property
    def basis(self):
        """The form of the share's basis."""
        return self.run.form(FORM_OF[self.paper.kind], self.key)

    @property
    def paper(self):
        return self.run.by_key(self.per, self.key)

    def required(self):
        if self.books is not None:
            return True
        return self.basis.share is not None and (self.paper.not_at_risk > 0 or self.before > 0)

    @fact("Losses of earlier years not at risk", rounding=whole)
    def before(self):
        if self.books is not None:
            return total(self.paper.risk_before)
        return total([row.amount for row in self.paper.risk_rows])

    def wanted(self, name):
        """What basis allows of an item's losses, and what waited at risk."""
        return total(self.basis.allowed_of(name), [row.amount for row in self.paper.risk_rows if row.item == name])

    def _items(self):
        return [name for name in ITEMS if name not in NOT_AT_RISK_RULES]

    @fact("Income of the activity")
    def gross(self):
        if self.books is not None or self.basis.share is None:
            return total(ZERO)
        names = [name for name in self._items() if name not in DEDUCTIONS]
        return total([greatest(getattr(self.basis.share, name), ZERO) for name in names])

    @fact("Losses of the activity")
    def losses(self):
        return total([self.wanted(name) for name in self._items()])

    @line("5", "Current year profit (loss)", weight="total")
    def result(self):
        if self.books is not None:
            return total(self.books.before_risk, less=self.before)
        return total(self.gross, less=self.losses)

    @line("20", "Amount at risk")
    def at_risk(self):
        """Of a share: its basis before this year's result, without what is not at risk; what waited had used it up."""
        if self.books is not None:
            return total(self.paper.at_risk)
        return excess(total(self.basis.basis_for_risk, self.before), over=[self.gross, self.paper.not_at_risk])

    @line("21", "Deductible loss", weight="total")
    def deductible(self):
        return least(excess(ZERO, over=self.result), self.at_risk)

    @fact("Profit or loss that counts")
    def counted(self):
        return total(less=self.deductible) if self.result < 0 else total(self.result)

    @fact("Losses that are allowed")
    def allowed(self):
        return total(self.gross, self.deductible) if self.result < 0 else total(self.losses)

    @property
    def last_item(self):
        return next((name for name in reversed(self._items()) if self.wanted(name) > 0), "")

    vars().update({f"{name}_allowed": _at_risk(name) for name in ITEMS} | {f"{name}_counted": _counted(name) for name in ITEMS})

    @fact("Losses not at risk carried over")
    def left(self):
        return excess(ZERO, over=total(self.result, self.deductible))

    @fact("Losses of a share not at risk carried over", closes=RISK_LOSS, by_origin="left_by_item", used="of_before")
    def left_of_share(self):
        return total(self.left) if self.books is None else nothing_because("it is a trade")

    @fact("Loss of a trade not at risk carried over", closes=RISK_TRADE, used="of_before")
    def left_of_trade(self):
        return total(self.left) if self.books is not None else nothing_because("it is a share")

    @fact("Losses of earlier years deducted")
    def of_before(self):
        return excess(self.before, over=self.left)

    def left_by_item(self):
        return _rows((name, total(self.wanted(name), less=getattr(self, f"{name}_allowed"))) for name in self._items())


FORMS = (ShareholderBasis, AtRisk, PartnerBasis)
