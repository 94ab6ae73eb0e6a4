"""Form 1120: page 1, Schedules C and J, and what waits from year to year. IRC 11, 170(b)(2), 172, 243, 246, 1211(a), 1212(a)."""

from decimal import Decimal

from taxcore.engine import Loop, excess, fact, least, line, linked, nothing_because, share, total, whole
from taxcore.engine.amending import corrects
from taxcore.packs.us.carried import as_rows, by_year, left_over
from taxcore.packs.us.entity.balances import CORPORATE_CAPITAL, CORPORATE_CREDITED, CORPORATE_GIFTS, CORPORATE_LOSS
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import credit_of, debit_of
from taxcore.packs.us.entity.page import PageOne, spent
from taxcore.packs.us.entity.property import EntityForm4797
from taxcore.packs.us.entity.received import BUSINESS, RENTAL, received, with_received

_FIFTH, _PERCENT, _NEW_LAW = 20, Decimal("0.01"), 2018
_GIFT_YEARS = _CAPITAL_YEARS = 5
_OLD_LOSS_YEARS = 20


class CorporationReturn(PageOne):
    """Form 1120, page 1. IRC 11(a), 63(a)."""

    number, name = "1120", "U.S. corporation income tax return"
    schedule_c = linked("us.sch-c")
    schedule_j = linked("us.sch-j")
    waiting = linked("us.carryovers")

    @line("4", "Dividends, Schedule C")
    def dividends(self):
        return with_received(self.run, credit_of(self.run, "dividends"), "dividends")

    @line("5", "Interest")
    def interest_income(self):
        return with_received(self.run, credit_of(self.run, "interest_income"), "interest")

    @line("6", "Gross rents")
    def rents(self):
        return credit_of(self.run, "rental_income")

    @line("7", "Gross royalties")
    def royalties(self):
        return with_received(self.run, credit_of(self.run, "royalties"), "royalties")

    @fact("Capital gain or loss of the year", cites="IRC 1222", rounding=whole)
    def capital(self):
        own = total(credit_of(self.run, "short_gain", "long_gain"), self.brought("us.4797", "long_gain"))
        return with_received(self.run, own, "short_gain", "long_gain", "adjusted_long_gain")

    @line("8", "Capital gain net income", cites="IRC 1211(a), 1222(9)")
    def capital_gain(self):
        """Losses only against gains, those of earlier years too, then what is carried back."""
        return excess(self.gain_left, over=self.back_used)

    @fact("Capital gain before what is carried back", rounding=whole)
    def gain_left(self):
        return excess(self.capital, over=self.waiting.capital_used)

    @fact("Capital loss carried back that is used", cites="IRC 1212(a)(1)(A)", rounding=whole)
    def back_used(self):
        """Against the gain, and not so that it makes or increases an operating loss."""
        entered = self.paper("carryovers").capital_back
        if not entered:
            return nothing_because("none is carried back")
        special = total(self.schedule_c.small_share, self.schedule_c.large_share)  # IRC 172(d)(5): without their limit
        room = excess(total(self.before_gifts, less=self.contributions), over=special)
        return least(of={"carried back": total(entered), "gain": self.gain_left, "income without it": room})

    @line("9", "Net gain or (loss), Form 4797", cites="IRC 1231, 1245")
    def gains(self):
        return self.brought("us.4797", "ordinary")

    @fact("Income of partnerships' businesses and rentals", cites="IRC 702(b)")
    def from_entities(self):
        return total(received(self.run, *BUSINESS, *RENTAL))

    @line("10", "Other income")
    def other_income(self):
        return with_received(self.run, credit_of(self.run, "other_income"), *BUSINESS, *RENTAL)

    @line("11", "Total income", weight="total")
    def income(self):
        return total(self._receipts(), self.capital_gain)

    def _receipts(self):
        """All but capital gains."""
        earned = (self.gross_profit, self.dividends, self.interest_income, self.rents, self.royalties)
        return *earned, self.gains, self.other_income

    officers = spent("12", "Compensation of officers", "officers", cites="IRC 162(a)(1)")
    salaries = spent("13", "Salaries and wages", "salaries")
    repairs = spent("14", "Repairs and maintenance", "repairs")
    bad_debts = spent("15", "Bad debts", "bad_debts", cites="IRC 166")
    rent = spent("16", "Rents", "rent")

    @line("17", "Taxes and licenses")
    def taxes(self):
        return with_received(self.run, debit_of(self.run, "taxes", "foreign_tax"), "foreign_tax")

    @line("18", "Interest", cites="IRC 163")
    def interest(self):
        return with_received(self.run, debit_of(self.run, "interest", "investment_interest"), "investment_interest")

    @line("19", "Charitable contributions", cites="IRC 170(b)(2)", loop=Loop(Decimal(1)))
    def contributions(self):
        """This year's first, then earlier ones, within a tenth of income; the circle with operating losses is cut here."""
        return least(of={"given and carried": total(self.given_counted, self.gifts_before), "limit": self.gift_limit})

    @fact("Contributions of this year", rounding=whole)
    def given(self):
        return with_received(self.run, debit_of(self.run, "contributions"), "cash_gifts")

    @fact("Contributions of this year above the floor", cites="IRC 170(b)(2)(A)(i), from 2026", rounding=whole)
    def given_counted(self):
        law = self.law.corporate
        return excess(self.given, over=share(law.gifts_floor, of=self.gift_base)) if "gifts_floor" in law else total(self.given)

    @fact("Contributions of earlier years")
    def gifts_before(self):
        return total([amount for _, amount in self.waiting.gifts_before()])

    @fact("Income by which contributions are limited", cites="IRC 170(b)(2)(D)")
    def gift_base(self):
        """Without contributions, the deduction for dividends and capital losses carried back; with losses carried here."""
        return excess(self.before_gifts, over=self.operating_loss)

    @fact("Limit of contributions", cites="IRC 170(b)(2)(A)", rounding=whole)
    def gift_limit(self):
        return share(self.law.corporate.gifts_share, of=self.gift_base)

    @fact("Section 179 deduction", rounding=whole)
    def expensed(self):
        return self.brought("us.section-179", "allowed")

    @line("20", "Depreciation, Form 4562", cites="IRC 167, 168, 179")
    def depreciation(self):
        return total(
            self.rounding(self.depreciation_now), self.rounding(debit_of(self.run, "rental_depreciation")), self.expensed
        )

    depletion = spent("21", "Depletion", "depletion")
    advertising = spent("22", "Advertising", "advertising")
    retirement = spent("23", "Pension, profit-sharing plans", "retirement", cites="IRC 404")
    benefits = spent("24", "Employee benefit programs", "benefits")

    @line({2022: None, 2023: "25"}, "Energy efficient commercial buildings deduction", cites="IRC 179D")
    def efficient_buildings(self):
        return nothing_because("Form 7205 is not made here")

    @line("26", "Other deductions")
    def others(self):
        costs = debit_of(self.run, "other_deductions", "guaranteed", "rental_costs", "portfolio_costs")
        return with_received(self.run, total(costs, self.meals, self.amortization), "portfolio_deductions")

    def _pay(self):
        return self.officers, self.salaries, self.retirement, self.benefits

    def _costs(self):
        kept = (self.repairs, self.bad_debts, self.rent, self.taxes, self.interest)
        return *kept, self.depletion, self.advertising, self.others

    @fact("Deductions without contributions and section 179")
    def without_gifts(self):
        return total(self._pay(), self._costs(), self.efficient_buildings, total(self.depreciation, less=self.expensed))

    @fact("Income of the business for the limit of section 179", cites="26 CFR 1.179-2(c)(4)")
    def active_income(self):
        """Without that deduction, the one for dividends, contributions, and losses carried here or back."""
        income = (self._receipts(), self.gain_left)
        return total(income, less=[self._pay(), self._costs(), self.rounding(self.depreciation_now)])

    @fact("Taxable income before contributions and capital losses carried back")
    def before_gifts(self):
        return total(self._receipts(), self.gain_left, less=[self.without_gifts, self.expensed])

    @line("27", "Total deductions", weight="total")
    def deductions(self):
        return total(self.without_gifts, self.expensed, self.contributions)

    @line("28", "Taxable income before operating loss and special deductions", weight="total")
    def before_losses(self):
        return total(self.income, less=self.deductions)

    @line("29a", "Net operating loss deduction", cites="IRC 172(a)")
    def operating_loss(self):
        """Losses until 2017 first and in full, then later ones within 80% of what is left."""
        room = excess(self.before_losses, over=self.special)
        older = least(self.waiting.old_losses, room)
        later = least(self.waiting.later_losses, share(self.law.corporate.loss_share, of=excess(room, over=older)))
        return total(older, later)

    @line("29b", "Special deductions, Schedule C", cites="IRC 243, 246(b)")
    def special(self):
        return self.brought("us.sch-c", "deduction")

    @line("29c", "Lines 29a and 29b")
    def taken_off(self):
        return total(self.operating_loss, self.special)

    @line("30", "Taxable income", weight="total", cites="IRC 63(a)")
    def taxable_income(self):
        return total(self.before_losses, less=self.taken_off)

    @line("31", "Total tax, Schedule J", weight="total")
    def tax(self):
        return total(self.schedule_j.together)

    @fact("Estimated tax payments", cites="IRC 6655", rounding=whole)
    def estimates(self):
        """Day by day where they are entered so."""
        rows = self.paper("estimates").rows
        return total([row.amount for row in rows]) if rows else total(self.paper("about").estimates)

    @line("33", "Total payments and credits, Schedule J")
    def payments(self):
        about = self.paper("about")
        return total(about.credited_before, self.estimates, about.with_extension, about.withheld)

    @line("34", "Estimated tax penalty", cites="IRC 6655")
    def penalty(self):
        """As entered; else by Form 2220."""
        about = self.paper("about")
        return total(about.penalty) if about.is_keyed("penalty") else self.brought("us.2220", "penalty")

    @line("35", "Amount owed", weight="total", cites="IRC 6151")
    def owed(self):
        return excess(total(self.tax, self.penalty), over=self.payments)

    @line("36", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=[self.tax, self.penalty])

    @fact("Credited to next year's estimated tax", rounding=whole)
    def credited(self):
        return least(self.paper("about").credited, self.overpaid)

    @fact("Estimated tax credited to next year so far", closes=CORPORATE_CREDITED, rounding=whole)
    def credited_so_far(self):
        """What was credited with the original stays credited; an amendment adds to it."""
        if not corrects(self.run, self.run.pack.authorities[0]):
            return total(self.credited)
        added = self.run.form("us.1120-x").credited
        return total(self.as_filed("overpaid"), added, less=self.as_filed("refund"))

    @line("37", "Refunded", weight="total")
    def refund(self):
        return excess(self.overpaid, over=self.credited)


class SpecialDeductions(EntityForm):
    """Schedule C: dividends and the deduction for them. IRC 243(a), 246(b)."""

    number, name = "Schedule C", "Dividends, inclusions, and special deductions"
    needs = ("dividends",)
    page = linked("us.1120")

    def _of(self, *, large):
        rows = [row for row in self.paper("dividends").rows if not row.short]
        return total([row.amount for row in rows if ((row.owned or 0) >= _FIFTH) == large])

    @line("1-a", "Dividends, less than 20% owned")
    def small(self):
        return self._of(large=False)

    @line("2-a", "Dividends, 20% or more owned")
    def large(self):
        return self._of(large=True)

    @line("1-c", "50% of them", cites="IRC 243(a)(1)")
    def small_share(self):
        return share(self.law.corporate.dividends_small, of=self.small)

    @line("2-c", "65% of them", cites="IRC 243(c)(1)")
    def large_share(self):
        return share(self.law.corporate.dividends_large, of=self.large)

    @line("9", "Limited deduction", cites="IRC 246(b)")
    def limited(self):
        """No limit where all of it makes a loss. Else of those of a fifth or more first, then of the others by what is left. What
        is carried back does not count."""
        law, income = self.law.corporate, total(self.page.before_losses, self.page.back_used)
        full = total(self.small_share, self.large_share)
        if full > income:
            return full
        large = least(self.large_share, share(law.dividends_large, of=income))
        small = least(self.small_share, share(law.dividends_small, of=excess(income, over=self.large)))
        return total(large, small)

    @line("24", "Total special deductions", weight="total")
    def deduction(self):
        return total(self.limited)


class TaxComputation(EntityForm):
    """Schedule J, part I. IRC 11(b)."""

    number, name = "Schedule J", "Tax computation and payment"
    page = linked("us.1120")

    def required(self):
        return True

    @line("1a", "Income tax", cites="IRC 11(b)")
    def income_tax(self):
        return share(self.law.corporate.rate, of=excess(self.page.taxable_income, over=0))

    @line("5e", "Credits")
    def credits(self):
        return least(self.paper("about").credits, self.income_tax)

    @line("7", "Income tax less credits")
    def after_credits(self):
        return total(self.income_tax, less=self.credits)

    @line("11a", "Total tax", weight="total")
    def together(self):
        return total(self.after_credits)


class CorporationForm4797(EntityForm4797):
    """Form 4797 of a corporation: a net section 1231 gain is capital gain, a loss ordinary. IRC 1231(a)."""

    @line("11", "Loss, if any, from line 7")
    def loss(self):
        return least(total(self.net), Decimal(0))

    @fact("Long-term gain for Schedule D")
    def long_gain(self):
        return excess(self.net, over=0)


class Waiting(EntityForm):
    """Our own worksheet: what of earlier years is used, and what waits. IRC 170(d)(2), 172(b), 1212(a)."""

    number, name, worksheet = "Carryovers", "Carryovers of a corporation", True
    page = linked("us.1120")

    def required(self):
        return bool(self.losses or self.gifts or self.capital)

    def _rows(self, name, years):
        return by_year(getattr(self.paper("carryovers"), name), self.year - years, self.year)

    def losses_before(self):
        """(year, amount): those until 2017 for twenty years, later ones without end."""
        rows = self.paper("carryovers").losses
        kept = by_year(rows, 0, self.year)
        return [one for one in kept if one[0] >= _NEW_LAW or one[0] >= self.year - _OLD_LOSS_YEARS]

    def gifts_before(self):
        return self._rows("gifts", _GIFT_YEARS)

    def capital_before(self):
        return self._rows("capital", _CAPITAL_YEARS)

    @line("1", "Operating losses until 2017")
    def old_losses(self):
        return total([amount for year, amount in self.losses_before() if year < _NEW_LAW])

    @line("2", "Operating losses since 2018")
    def later_losses(self):
        return total([amount for year, amount in self.losses_before() if year >= _NEW_LAW])

    @line("3", "Capital losses used against this year's gain")
    def capital_used(self):
        return least(total([amount for _, amount in self.capital_before()]), excess(self.page.capital, over=0))

    @line("4", "Operating losses carried to the next year", closes=CORPORATE_LOSS, by_origin="losses_left")
    def losses(self):
        return total([Decimal(row["amount"]) for row in self.losses_left()])

    @line("5", "Contributions carried to the next year", closes=CORPORATE_GIFTS, by_origin="gifts_left")
    def gifts(self):
        return total([Decimal(row["amount"]) for row in self.gifts_left()])

    @line("6", "Capital losses carried to the next year", closes=CORPORATE_CAPITAL, by_origin="capital_left")
    def capital(self):
        return total([Decimal(row["amount"]) for row in self.capital_left()])

    def losses_left(self):
        """The oldest are used first; a loss of this year is new."""
        left = left_over(self.losses_before(), self.page.operating_loss)
        own = excess(0, over=self.page.taxable_income)
        kept = [one for one in left if one[0] >= _NEW_LAW or one[0] > self.year - _OLD_LOSS_YEARS]
        return as_rows([*kept, (self.year, own)])

    def gifts_left(self):
        """This year's are used first, then the oldest."""
        page = self.page
        own = least(page.given_counted, page.contributions)
        left = left_over(self.gifts_before(), total(page.contributions, less=own))
        return as_rows(
            [*(one for one in left if one[0] > self.year - _GIFT_YEARS), (self.year, total(page.given_counted, less=own))]
        )

    def capital_left(self):
        left = left_over(self.capital_before(), self.capital_used)
        own = excess(total(less=self.page.capital), over=self.rounding(self.paper("carryovers").capital_taken))
        return as_rows([*(one for one in left if one[0] > self.year - _CAPITAL_YEARS), (self.year, own)])
