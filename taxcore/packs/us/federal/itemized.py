"""Schedule A: itemized deductions. IRC 63(d), 163, 164, 165, 170, 213."""

from taxcore.engine import (
    ZERO,
    excess,
    fact,
    greatest,
    least,
    line,
    linked,
    nothing_because,
    pro_rata,
    ratio,
    share,
    steps,
    times,
    total,
)
from taxcore.packs.us.balances import (
    ABOVE_CAP,
    ITEMIZED_TOTAL,
    NEGATIVE_INCOME,
    SALES_TAX_BEFORE,
    STANDARD_BEFORE,
    STATE_TAX_DEDUCTED,
)
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.federal.self_employed_health import care_limit
from taxcore.packs.us.papers.shares import KINDS as SHARES


class Itemized(FederalForm):
    """Itemized deductions. IRC 63(d). The cap on taxes falls with income from 2025; 2026 brings a floor of gifts and a limit."""

    number, name = "Schedule A", "Itemized deductions"
    income = linked("us.1040")

    def required(self):
        return self.income.is_itemised

    @property
    def costs(self):
        return self.paper("itemized")

    @line("1", "Medical and dental expenses")
    def medical(self):
        premiums = [paper.medicare_premiums for paper in self.papers("ssa-1099")]
        care = [self._care("care_premiums", "taxpayer"), self._care("spouse_care_premiums", "spouse")]
        own = [one.unused for one in self.every("us.7206")]
        return total(self.costs.medical, self.costs.health_premiums, premiums, care, self._medical_miles(), own)

    def _care(self, name, role):
        person, paid = self.person(role), getattr(self.costs, name)
        if not paid or person is None:
            return nothing_because("no premiums were paid")
        return least(paid, care_limit(self.law, person.age_at_end() or 0))

    def _medical_miles(self):
        law, miles = self.law.mileage, self.costs.medical_miles or 0
        if "medical_from_july" not in law:
            return times(miles, law.medical, of="miles")
        later = min(self.costs.medical_miles_from_july or 0, miles)
        return total(times(miles - later, law.medical, of="miles"), times(later, law.medical_from_july, of="miles from July"))

    @line("2", "Adjusted gross income")
    def agi(self):
        return greatest(self.income.adjusted_gross_income, 0)

    @line("3", "7.5% of AGI")
    def medical_floor(self):
        return share(self.law.itemized.medical_floor, of=self.agi)

    @line("4", "Deductible medical and dental expenses")
    def medical_allowed(self):
        return excess(self.medical, over=self.medical_floor)

    @line("5a", "State and local income or sales taxes", cites="IRC 164(b)(5)")
    def state_tax(self):
        return greatest(of={"income tax": self.state_income_tax, "sales tax": total(self.costs.sales_tax)})

    @fact("State income tax deducted", closes=STATE_TAX_DEDUCTED)
    def state_tax_deducted(self):
        """Where it was more than sales tax; None where nothing was itemized, for then a refund of it is no income."""
        if not self.income.is_itemised:
            return None
        by_income = self.state_income_tax >= self.costs.sales_tax
        return total(self.state_income_tax) if by_income else nothing_because("sales tax was deducted")

    @fact("Itemized deductions, for a refund next year", closes=ITEMIZED_TOTAL)
    def itemised_total(self):
        return total(self.deduction) if self.income.is_itemised else None

    @fact("Sales tax instead, for a refund next year", closes=SALES_TAX_BEFORE)
    def sales_tax_instead(self):
        return total(self.costs.sales_tax) if self.income.is_itemised and self.costs.is_keyed("sales_tax") else None

    @fact("Taxes above the cap", closes=ABOVE_CAP)
    def above_cap(self):
        return excess(self.taxes_together, over=self.taxes_capped) if self.income.is_itemised else None

    @fact("Standard deduction instead, for a refund next year", closes=STANDARD_BEFORE)
    def standard_instead(self):
        return total(self.income.standard.deduction) if self.income.is_itemised else None

    @fact("Taxable income below zero, for a refund next year", closes=NEGATIVE_INCOME)
    def negative_income(self):
        income = total(self.agi, less=self.income.deductions)
        return income if self.income.is_itemised and income < 0 else None

    @fact("State and local income tax paid in the year")
    def state_income_tax(self):
        """Withheld, paid in estimates during the year, and paid for earlier years; or the one total that was entered for all."""
        if self.costs.is_keyed("state_tax_in_all"):
            return total(self.costs.state_tax_in_all)
        wages = [total(row.withheld, row.local_withheld) for wage in self.papers("w2") for row in wage.states]
        boxes = [row.amount for wage in self.papers("w2") for row in wage.others if row.kind == "state"]
        rows = [row for paper in self.run.all_papers() if paper.kind != "w2" for row in getattr(paper, "states", ())]
        estimates = [row.amount for row in self.paper("estimates").state_rows if row.paid and row.paid.year == self.year]
        return total(wages, boxes, [row.withheld for row in rows], estimates, self.costs.state_income_tax)

    @line("5b", "State and local real estate taxes")
    def property_tax(self):
        escrow = [paper.property_tax for paper in self.papers("1098")]
        return excess(total(self.costs.property_tax, escrow), over=self._of_home_offices("property_tax"))

    @line("5c", "State and local personal property taxes")
    def vehicle_tax(self):
        return total(self.costs.vehicle_tax)

    @line("5d", "Total state and local taxes")
    def taxes_together(self):
        return total(self.state_tax, self.property_tax, self.vehicle_tax)

    @fact("Limit on state and local taxes", cites="IRC 164(b)(6), (7)")
    def cap(self):
        law, status = self.law.itemized, self.income.status
        most = law.state_tax_cap[status]
        if "state_tax_cap_fall" not in law:
            return total(most)
        fall = share(
            law.state_tax_cap_fall.rate,
            of=excess(total(self.agi, self.income.left_out_abroad), over=law.state_tax_cap_falls_from[status]),
        )
        return greatest(of={"limit less 30% of excess income": total(most, less=fall), "least": law.state_tax_cap_least[status]})

    @line("5e", "State and local taxes, limited")
    def taxes_capped(self):
        return least(of={"taxes": self.taxes_together, "cap": self.cap})

    @line("6", "Total other taxes")
    def other_taxes(self):
        paid = total(self.brought("us.1116", "tax"), [one.tax for one in self.every("us.1116-category")])
        deducted = paid if self.paper("foreign-tax").deduct_instead else ZERO
        return total(self.costs.other_taxes, deducted)

    @line("7", "Total taxes", weight="total")
    def taxes(self):
        return total(self.taxes_capped, self.other_taxes)

    @line("8a", "Home mortgage interest and points on Form 1098")
    def mortgage(self):
        """Less the credit of a certificate, whether it was used or waits: IRC 163(g)."""
        credit = self.brought("us.8396", "of_year")
        return excess(self.brought("us.mortgage-limit", "deductible"), over=[self._of_home_offices("interest"), credit])

    def _of_home_offices(self, name):
        """What Form 8829 takes of a home's interest or tax is not taken here again."""
        offices = [one for one in self.every("us.8829") if one.required()]
        return [self._part(one, name) for one in offices]

    @staticmethod
    def _part(office, name):
        whole = office.books.home_interest if name == "interest" else office.books.home_taxes
        return share(office.business_share, of=whole) if office.books.home_itemised else ZERO

    @line("8b", "Home mortgage interest not on Form 1098")
    def unreported(self):
        return total(self.costs.unreported_mortgage)

    @line("8c", "Points not on Form 1098")
    def points(self):
        return total(self.costs.points)

    @line({2022: None, 2026: "8d"}, "Mortgage insurance premiums", cites="IRC 163(h)(3)(E)")
    def insurance(self):
        """It falls by a tenth for each 1,000 begun above 100,000 of income, or half of both apart."""
        if "from_2026" not in self.law.itemized:
            return nothing_because("it is deductible again from 2026")
        law, apart = self.law.itemized.from_2026, 2 if self.income.status == "separate" else 1
        above = excess(self.agi, over=ratio(law.insurance_falls_from, over=apart))
        taken = share(law.insurance_each, of=steps(above, of=ratio(law.insurance_step, over=apart)))
        paid = total([paper.insurance for paper in self.papers("1098") if paper.use != "other"])
        return share(excess(1, over=taken), of=paid)

    @line("8e", "Total home interest")
    def home_interest(self):
        return total(self.mortgage, self.unreported, self.points, self.insurance)

    @line("9", "Investment interest")
    def investment(self):
        return self.brought("us.4952", "deduction")

    @line("10", "Interest", weight="total")
    def interest(self):
        return total(self.home_interest, self.investment)

    @line("11", "Gifts by cash or check")
    def money(self):
        return self.brought("us.gifts", "given_money")

    @line("12", "Gifts other than by cash or check")
    def things(self):
        return self.brought("us.gifts", "given_things")

    @line("13", "Carryover from prior year")
    def carried_gifts(self):
        return self.brought("us.gifts", "carried")

    @line("14", "Total gifts to charity", weight="total")
    def all_gifts(self):
        given = total(self.money, self.things, self.carried_gifts)
        if "from_2026" not in self.law.itemized:
            return given
        return excess(given, over=share(self.law.itemized.from_2026.gift_floor, of=self.agi))

    @line("15", "Casualty and theft losses")
    def casualty(self):
        return total(self.costs.casualty, self.brought("us.4684", "deduction"))

    @line("16", "Other")
    def others(self):
        """Gambling losses never above winnings; from 2026 nine tenths of them. IRC 165(d)."""
        winnings = self.run.form("us.sch-1").gambling
        law = self.law.itemized
        losses = total(self.costs.gambling_losses)
        if "from_2026" in law:
            losses = share(law.from_2026.gambling_share, of=losses)
        papers = [p for kind in SHARES for p in self.papers(kind)]
        shares = [getattr(p, name, ZERO) for p in papers for name in ("estate_tax", "final_itemized")]
        portfolio = [of_share(p, "portfolio_deductions") for p in papers]
        qualified = self.brought("us.4684", "net_qualified")
        return total(least(losses, winnings), self.costs.other, shares, portfolio, qualified)

    @fact("Before the overall limitation")
    def before_limit(self):
        parts = (self.medical_allowed, self.taxes, self.interest, self.all_gifts, self.casualty, self.others)
        return total(parts)

    @line("17", "Itemized deductions", weight="total")
    def deduction(self):
        return excess(self.before_limit, over=self.limited_by)

    @fact("Overall limitation", cites="IRC 68")
    def limited_by(self):
        """From 2026: 2/37 of the deductions, or of the income in the highest bracket before them and after the business
        deduction, which does not know it. IRC 68(a), 199A(e)(1)."""
        if "from_2026" not in self.law.itemized:
            return nothing_because("it begins in 2026")
        return self._limited_by(self.income.business_deduction)

    @fact("Itemized deductions, for the choice")
    def at_least(self):
        """With the limitation as if there were no business deduction, which itself depends on the choice."""
        if "from_2026" not in self.law.itemized:
            return total(self.before_limit)
        return excess(self.before_limit, over=self._limited_by(ZERO))

    def _limited_by(self, business):
        law, top = self.law.itemized.from_2026, self.law.income_tax[self.income.status][-1][0]
        above = excess(self.income.adjusted_gross_income - self.income.additional_in_all - business, over=top)
        base = least(of={"itemised": self.before_limit, "income in the highest bracket": above})
        return pro_rata(base, law.limitation_numerator, law.limitation_denominator)
