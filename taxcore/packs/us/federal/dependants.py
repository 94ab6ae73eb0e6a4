"""Who of the dependents is what: qualifying child or relative, and for which credit. IRC 152, 24. One worksheet each.

Tie-breaks between two taxpayers (152(c)(4)), multiple support (152(d)(3)) and children of divorced parents (152(e)) are not
decided here: a preparer who lists somebody vouches that nobody else's claim comes first.
"""

from taxcore.engine import fact, line, nothing_because, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.people import CHILD_KINDS

_MORE_THAN_HALF = 7  # months; more than half of the year


def first_failed(conditions):
    """The reason of the first condition that does not hold; empty when all do."""
    return next((reason for holds, reason in conditions if not holds), "")


OWN_SUPPORT = "provided over half of own support"  # a reason that another rule looks for: it is written once


class Dependant(FederalForm):
    """What the law makes of one person. IRC 152(c) qualifying child, 152(d) qualifying relative, 24(c), (h)."""

    number, name, worksheet, per = "Dependent", "Dependent", True, "dependant"

    @property
    def who(self):
        return next(person for person in self.run.people("dependant") if person.key == self.key)

    @fact("Why not a qualifying child")
    def not_a_child(self):
        who, age = self.who, self.who.years_old()
        young = age is not None and (age < 19 or (age < 24 and who.student))
        return first_failed([
            *self._for_anybody(),
            (who.relationship in CHILD_KINDS, "the relationship is not that of a qualifying child"),
            ((who.months_at_home or 0) >= _MORE_THAN_HALF, "lived with the taxpayer half the year or less"),
            (young or who.disabled, "is 19 or older, and not a student under 24 or disabled"),
            (not who.supports_self, OWN_SUPPORT),
        ])  # fmt: skip

    @fact("Why not a qualifying relative")
    def not_a_relative(self):
        who = self.who
        lived_here = who.relationship != "none" or who.months_at_home == 12
        return first_failed([
            *self._for_anybody(),
            (self.not_a_child != "", "is a qualifying child"),
            (lived_here, "is not a relative and not a household member all year"),
            (who.gross_income < self.law.dependant.gross_income_below, "gross income is too high"),
            (who.supported is True, "the taxpayer did not provide over half of the support"),
        ])  # fmt: skip

    @fact("Is a dependent")
    def is_dependant(self):
        return "" in (self.not_a_child, self.not_a_relative)

    @fact("Is a qualifying child for the EIC")
    def counts_for_earned_income(self):
        """The support test does not matter there. IRC 32(c)(3)(A)."""
        return self.not_a_child in ("", OWN_SUPPORT) and bool(self.who.number)

    @line("1", "Child tax credit", cites="IRC 24(a), (c), (h)")
    def child_credit(self):
        if self.not_a_child:
            return nothing_because(self.not_a_child)
        if self.who.years_old() >= self.law.child_credit.age_below:
            return nothing_because("is 17 or older at the end of the year")
        return total(self.law.child_credit.each)

    @line("2", "Credit for other dependents", cites="IRC 24(h)(4)")
    def other_credit(self):
        if self.child_credit > 0:
            return nothing_because("has the child tax credit")
        if not self.is_dependant:
            return nothing_because(self.not_a_relative)
        return total(self.law.child_credit.other_each)

    def _for_anybody(self):
        who = self.who
        taxpayer = self.person("taxpayer")
        return [
            (not (taxpayer is not None and taxpayer.claimed_by_other), "the taxpayer can be claimed as a dependent"),
            (who.resident is True, "is not known to be a US citizen, national or resident"),
            (not who.joint_return, "files a joint return"),
        ]
