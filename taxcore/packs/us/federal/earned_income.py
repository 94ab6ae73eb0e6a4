"""Earned income credit: the official table's rule, by bands of 50. IRC 32."""

from decimal import Decimal

from taxcore.engine import Operand, excess, explained, fact, least, line, linked, nothing_because, total, whole
from taxcore.packs.us.base import FederalForm

_BAND = Decimal(50)
# Why there is no credit: what checks decide by is the code, what people read is made of it
ABROAD, NO_INCOME, APART, INVESTED, NO_NUMBER, AGE, CLAIMED = (
    "abroad",
    "no-income",
    "apart",
    "invested",
    "no-number",
    "age",
    "claimed",
)
REASONS = {
    ABROAD: "income earned abroad is left out",
    NO_INCOME: "there is no earned income",
    APART: "a married taxpayer must file jointly",
    INVESTED: "investment income is above the limit",
    NO_NUMBER: "someone has no SSN",
    AGE: "no one is age 25 to 64, and there is no qualifying child",
    CLAIMED: "the taxpayer can be claimed as a dependent",
}


class EarnedIncomeCredit(FederalForm):
    """Worksheet behind the line of Form 1040. IRC 32(a), (b), (c)(1), (f), (i)."""

    number, name, worksheet = "Earned income credit", "Earned income credit", True
    income = linked("us.1040")

    def required(self):
        return self.credit > 0

    @fact("Qualifying children, up to 3")
    def children(self):
        return min(sum(1 for one in self.every("us.dependent") if one.counts_for_earned_income), 3)

    @fact("Total investment income", cites="IRC 32(i)")
    def invested(self):
        """Interest taxed or not, dividends, gain; income of shares the owner took no part in."""
        income = self.income
        gain = excess(income.capital_gain, over=self.brought("us.4797", "long_gain"))  # not of business property: IRC 32(i)(2)(D)
        passive = excess(self.run.form("us.8960").passive if not self.run.is_idle("us.sch-e") else 0, over=0)
        return total(income.taxable_interest, income.exempt_interest, income.dividends, gain, passive)

    @fact("Separated, with a child at home", cites="IRC 32(d)(2)")
    def lives_apart(self):
        return bool(self.paper("filing").lived_apart_half) and self.children > 0

    @fact("Why not allowed")
    def not_allowed(self):
        """The reason in words; empty when the credit is possible."""
        return REASONS.get(self.denied, "")

    @fact("Which condition fails")
    def denied(self):
        """The code of the first condition that fails, in the order of the instructions; empty when the credit is possible."""
        income, law = self.income, self.law.earned_income_credit
        old_enough = any(law.youngest <= (person.age_at_end() or 0) <= law.oldest for person in income.filers)
        dependant = any(person.claimed_by_other for person in income.filers)
        conditions = [
            (not income.left_out_abroad, ABROAD),
            (self.earned > 0, NO_INCOME),
            (income.status != "separate" or self.lives_apart, APART),
            (self.invested <= law.investment_income, INVESTED),
            (all(person.number for person in income.filers), NO_NUMBER),
            (self.children or old_enough, AGE),
            (self.children or not dependant, CLAIMED),
        ]
        return next((reason for holds, reason in conditions if not holds), "")

    @line("1", "Earned income")
    def earned(self):
        """Care benefits that are taxed are pay. Combat pay counts where that is chosen: it is entered only then. IRC 32(c)(2)."""
        people = [self.run.form("us.earned-income", person.role) for person in self.income.filers]
        return excess(
            total([one.earned for one in people], self.income.care_benefits, [one.combat_pay for one in people]), over=0
        )

    @line("2", "Credit on earned income")
    def at_earned(self):
        return self._allowed(self.earned)

    @line("3", "Adjusted gross income")
    def agi(self):
        return self.income.adjusted_gross_income

    @line("5", "Credit on AGI")
    def at_agi(self):
        if self.agi < self._start():
            return total(self.at_earned)
        return self._allowed(self.agi)

    @line("6", "Earned income credit", weight="total")
    def credit(self):
        return least(of={"credit on earned income": self.at_earned, "credit on AGI": self.at_agi})

    def _allowed(self, amount):
        return nothing_because(self.not_allowed) if self.not_allowed else self._by_table(amount)

    def by_children(self):
        """The law's amounts for that many children, whatever an override says."""
        return self.law.earned_income_credit.children[str(max(min(int(self.children), 3), 0))]

    def _start(self):
        return self.by_children().phase_out_joint if self.income.status == "joint" else self.by_children().phase_out

    def _by_table(self, amount):
        """Credit of the table's band: worked out for the band's middle, in whole dollars."""
        row, start = self.by_children(), self._start()
        below = row.below_joint if self.income.status == "joint" else row.below

        def redo(value):
            if value <= 0 or value >= below:
                return Decimal(0)
            low = value // _BAND * _BAND
            middle = (low + min(low + _BAND, below)) / 2  # the table's last band is cut off where the credit ends
            full = min(middle * row.rate, row.most)
            return whole(max(min(full, row.most - max(middle - start, Decimal(0)) * row.phase_out_rate), Decimal(0)))

        note = f"{self.children} children, phase-out from {start:,}"
        return explained("Official table", redo(amount), [Operand(amount)], redo, note=note)


class ScheduleEIC(FederalForm):
    """Schedule EIC: the children behind the credit, one each. IRC 32(c)(3)."""

    number, name, per = "Schedule EIC", "Earned income credit, qualifying child", "dependant"

    def required(self):
        made = self.run.form("us.dependent", self.key)
        return self.run.form("us.earned-income-credit").credit > 0 and made.counts_for_earned_income

    @line("3", "Year of birth")
    def born(self):
        who = self.run.form("us.dependent", self.key).who
        return total(who.birth_date.year if who.birth_date else 0)

    @line("6", "Months child lived with taxpayer")
    def months(self):
        return total(self.run.form("us.dependent", self.key).who.months_at_home or 0)
