"""Form MO-1040 with MO-A, MO-NRI and MO-CR: a column for each spouse, a part of the federal tax deducted. RSMo ch. 143."""

from itertools import pairwise

from taxcore.engine import (
    ALL,
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
    total,
    whole,
)
from taxcore.packs.us import places
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.states.base import StateForm, StateReturn


class Column(StateForm):
    """What stands once for each spouse: lines 1 to 7 and 27 to 33. RSMo 143.031, 143.041."""

    jurisdiction = "us-mo"
    number, name, per = "MO-1040 columns", "Yourself and spouse", "person"
    home = linked("us-mo.mo-1040")

    @classmethod
    def keys(cls, run):
        return [person.role for person in run.form("us.1040").filers]

    @property
    def own(self):
        return self.run.form("us-mo.own-income", self.key)

    def _by_interest(self, amount):
        """An amount that comes with interest, as the interest is each spouse's."""
        every = [self.run.form("us-mo.own-income", one.role).interest for one in self.federal.filers]
        if len(every) < 2:
            return total(amount)
        return pro_rata(amount, self.own.interest, every) if total(every) > 0 else pro_rata(amount, 1, 2)

    @line("1", "Federal adjusted gross income")
    def federal_agi(self):
        return total(self.own.agi)

    @line("2", "Additions, MO-A")
    def additions(self):
        return self._by_interest(total(self.everywhere.other_bonds, self.own_additions()))

    @line("3", "Total income")
    def total_income(self):
        return total(self.federal_agi, self.additions)

    @line("4", "Subtractions, MO-A", cites="RSMo 143.121.3")
    def subtractions(self):
        of = self.everywhere
        refunds = total(of.refunds) / len(self.federal.filers)
        return total(self._by_interest(total(of.government_interest, self.own_subtractions())), refunds, self.gains)

    @fact("Capital gain subtraction", rounding=whole)
    def gains(self):
        if "gains" not in self.law:
            return nothing_because("it begins in 2025")
        return share(self.law.gains.excluded, of=excess(self.own.gains, over=0))

    @line("5", "Missouri adjusted gross income", weight="total")
    def missouri_agi(self):
        return total(self.total_income, less=self.subtractions)

    @line("7", "Income percentage", rounding=None)
    def percentage(self):
        """To whole percent; both make a hundred, so the second is the rest."""
        if self.home.missouri_agi <= 0:
            return total(1)
        first = self.home.columns[0]
        if self.key != first.key:
            return total(1, less=first.percentage)
        return least(ratio(excess(self.missouri_agi, over=0), over=self.home.missouri_agi, places=2), 1)

    @line("29", "Taxable income")
    def taxable_income(self):
        return share(self.percentage, of=self.home.subtotal)

    @line("30", "Tax", cites="RSMo 143.011")
    def tax(self):
        """The chart's amounts at its edges are sums of each band's tax in whole dollars."""
        bands = self.law.income_tax.bands
        edge, rate = next(((edge, rate) for edge, rate in reversed(bands) if self.taxable_income >= edge), bands[0])
        below = [whole((upper - lower) * each) for (lower, each), (upper, _) in pairwise(bands) if upper <= edge]
        return total(below, share(rate, of=excess(self.taxable_income, over=edge)))

    @fact("Missouri source income, MO-NRI", rounding=whole)
    def missouri_income(self):
        """Own pay and own business as they belong here; the rest as both spouses' other income is divided."""
        if self.is_whole:
            return total(self.missouri_agi)
        here = self.here
        worked = self._worked(self.key)
        others = [self._worked(one.role) for one in self.federal.filers]
        rest = total(here.agi, less=others)
        mine = total(self.own.total_income, less=[self.own.wages, self.own.business])
        every = [total(form.total_income, less=[form.wages, form.business]) for form in self.every("us-mo.own-income")]
        divided = pro_rata(rest, mine, every) if total(every) > 0 else pro_rata(rest, 1, len(self.federal.filers))
        return total(worked, divided, self._by_interest(self.by_hand()), less=self._by_interest(here.government_interest))

    def _worked(self, role):
        pay = [self.here.wages_of(wage) for wage in self.papers("w2", role) if not wage.statutory_employee]
        businesses = [one for one in trades(self.run) if (one.books.owner or "taxpayer") == role]
        return total(pay, [self.here.business_of(one) for one in businesses])

    @line("32", "Missouri income percentage", rounding=None, cites="RSMo 143.041")
    def missouri_part(self):
        if self.is_whole:
            return total(1)
        if self.missouri_agi <= 0:
            return nothing_because("there is no income")
        return least(ratio(excess(self.missouri_income, over=0), over=self.missouri_agi, places=2), 1)

    @fact("Tax before resident credit", rounding=whole)
    def before_credit(self):
        return share(self.missouri_part, of=self.tax)

    @line("31", "Resident credit, MO-CR", cites="RSMo 143.081")
    def other_states(self):
        """In each, as much of this column's tax as its income is of this spouse's income, to whole percent."""
        elsewhere, base = self.taxed_elsewhere(), self.missouri_agi if self.is_whole else self.missouri_income
        mine = [(one, self._part_of(one)) for one in elsewhere]
        if not any(part > 0 for _, part in mine) or base <= 0:
            return nothing_because(self.no_other_state)
        return least(of={"all states": total([self._credited_here(*pair, base) for pair in mine]), "tax": self.before_credit})

    def _part_of(self, one):
        """How much of what another state taxes is this spouse's."""
        earned = {each.role: places.earned_in(self.run, one.state, each.role) for each in self.federal.filers}
        together = sum(earned.values(), ZERO)
        return earned[self.key] / together if together > 0 else ratio(1, over=len(earned))

    def _credited_here(self, one, part, base):
        twice = least(ratio(share(part, of=one.income), over=base, places=2), 1)
        return least(of={f"tax paid to {one.state}": share(part, of=one.tax), "tax here": share(twice, of=self.before_credit)})

    @line("33", "Balance")
    def balance(self):
        return total(self.before_credit, less=self.other_states)


class IncomeTax(StateReturn):
    """Individual income tax return. RSMo 143.011 to 143.181."""

    jurisdiction = "us-mo"
    number, name = "MO-1040", "Individual income tax return"

    @property
    def columns(self):
        return self.every("us-mo.mo-1040-columns")

    @line("6", "Total Missouri adjusted gross income", weight="total")
    def missouri_agi(self):
        return total([column.missouri_agi for column in self.columns])

    @fact("Social Security exemption", rounding=whole, cites="RSMo 143.125")
    def social_security(self):
        """From 62; up to 2023 less what the income is above a limit."""
        law, own = self.law.social_security, self.every("us-mo.own-income")
        old = [form.benefits for form in own if self._is_old(form.key, law.age)]
        if "alone_up_to" not in law:
            return total(old)
        limit = law.couple_up_to if self.federal.status == "joint" else law.alone_up_to
        return excess(total(old), over=excess(self.missouri_agi, over=limit))

    def _is_old(self, role, age):
        person = self.person(role)
        return person is not None and ((person.age_at_end() or 0) >= age or person.disabled)

    @fact("Private pension exemption", rounding=whole, cites="RSMo 143.124")
    def private_pension(self):
        law, status = self.law.private_pension, self.federal.status
        limit = law["couple_up_to" if self.is_joint else "separate_up_to" if status == "separate" else "alone_up_to"]
        income = excess(self.missouri_agi, over=self.everywhere.benefits)
        each = [least(form.retirement, law.each) for form in self.every("us-mo.own-income")]
        return excess(total(each), over=excess(income, over=limit))

    @line("8", "Pension and Social Security exemption, MO-A Part 3")
    def pensions(self):
        return total(self.social_security, self.private_pension)

    @line("9", "Federal tax")
    def federal_tax(self):
        """After credits, and less those that are paid out. MO-1040 instructions, line 9."""
        federal = self.federal
        paid_out = [federal.earned_income_credit, federal.additional_child_credit, federal.education_paid]
        return excess(federal.tax_after_credits, over=paid_out)

    @line("12", "Part of it", rounding=None, cites="RSMo 143.171")
    def federal_part(self):
        found = next((rate for up_to, rate in self.law.federal_tax.steps if self.missouri_agi <= up_to), None)
        return nothing_because("the income is above the last step", self.missouri_agi) if found is None else total(found)

    @line("13", "Federal tax deduction")
    def federal_deduction(self):
        law = self.law.federal_tax
        most = law.most_couple if self.federal.status == "joint" else law.most_alone
        return least(of={"part of the federal tax": share(self.federal_part, of=self.federal_tax), "most": most})

    @fact("Missouri itemized deductions, MO-A Part 2", rounding=whole, cites="RSMo 143.141")
    def itemized(self):
        """What is itemized, with Social Security and Medicare tax, without state income tax in the part the cap left."""
        federal = self.federal
        if not federal.is_itemised:
            return nothing_because("the federal return is not itemized")
        insured = [total(wage.social_security_withheld, wage.medicare_withheld) for wage in self.papers("w2")]
        itemised = total(federal.itemized.deduction, insured, self._self_employment())
        return excess(itemised, over=self.state_tax_in_itemized())

    def _self_employment(self):
        return total(self.federal.adjusting.half_self_employment, self.federal.adjusting.half_self_employment)

    @line("14", "Standard or itemized deduction")
    def deduction(self):
        return greatest(of={"standard": self.federal.standard.deduction, "itemized in Missouri": self.itemized})

    @line("15", "Additional deduction: head of household or surviving spouse")
    def head_of_household(self):
        if self.federal.status not in ("head_of_household", "surviving_spouse"):
            return nothing_because("it does not apply to the filing status")
        return total(self.law.head_of_household.more)

    @line("25", "Deductions", weight="total")
    def deductions(self):
        return total(self.pensions, self.federal_deduction, self.deduction, self.head_of_household)

    @line("26", "Income after deductions")
    def subtotal(self):
        return excess(self.missouri_agi, over=self.deductions)

    @fact("Tax, both columns", rounding=whole)
    def tax(self):
        return total([column.before_credit for column in self.columns])

    @fact("Resident credit, both columns", rounding=whole)
    def other_states(self):
        return total([column.other_states for column in self.columns])

    @fact("Missouri-source taxable income", rounding=whole)
    def taxed_here(self):
        return total([share(column.missouri_part, of=column.taxable_income) for column in self.columns])

    @fact("Income for another state's credit", rounding=whole)
    def credited_income(self):
        return total([column.missouri_income for column in self.columns])

    @fact("Missouri working family tax credit", rounding=whole, cites="RSMo 143.177")
    def working_family(self):
        """Not paid out; for residents of the whole year."""
        if not self.is_whole:
            return nothing_because("it requires full-year residency")
        credit = share(self.law.working_family.share_of_federal, of=self.federal.earned_income_credit)
        return least(credit, excess(self.tax, over=self.other_states))

    @line("36", "Tax", weight="total")
    def total_tax(self):
        return excess(self.tax, over=[self.other_states, self.working_family])

    @line("37", "Missouri tax withheld")
    def withheld(self):
        return self.withheld_here()

    @line("38", "Estimated tax and applied payments")
    def estimates(self):
        return total(self.estimates_here(), self.questions.applied_before)

    @line("41", "Payment with Form MO-60")
    def with_extension(self):
        return self.extension_here()

    @line("45", "Payments", weight="total")
    def payments(self):
        return total(self.withheld, self.estimates, self.with_extension)

    @line("49", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.total_tax)

    @line("50", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("53", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=self.applied)

    @line("56", "Amount due", weight="total")
    def owed(self):
        return excess(self.total_tax, over=self.payments)
