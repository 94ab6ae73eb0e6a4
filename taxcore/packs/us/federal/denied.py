"""Form 8862: a credit is claimed again after it was denied. IRC 24(g)(2), 25A(b)(4)(B), 32(k)(2)."""

from taxcore.engine import line, nothing_because, total
from taxcore.packs.us.base import FederalForm


class ClaimedAgain(FederalForm):
    """Form 8862. What the return says itself (age, relation, residence; parts III and IV) is no line. IRC 32(k)(2)."""

    number, name = "8862", "Information to claim certain credits after disallowance"
    needs = ("denied-before",)

    @property
    def asked(self):
        return self.run.single("denied-before")

    def required(self):
        return bool(self.claimed)

    @property
    def claimed(self):
        """What was denied then and is claimed now, in the form's order."""
        income, asked = self.run.form("us.1040"), self.asked
        now = {
            "earned_income": income.earned_income_credit > 0,
            "child": total(income.child_credit, income.additional_child_credit) > 0,
            "education": income.education_paid > 0,
        }
        return [name for name, is_claimed in now.items() if is_claimed and getattr(asked, name)]

    @line("1", "Tax year")
    def of_year(self):
        return total(self.year)

    @line("2a", "Earned income credit, claimed again")
    def earned_income(self):
        return total(int("earned_income" in self.claimed))

    @line("2b", "Child tax credit, claimed again")
    def child(self):
        return total(int("child" in self.claimed))

    @line("2c", "American opportunity credit, claimed again")
    def education(self):
        return total(int("education" in self.claimed))

    @line("9a", "Days of main home in the U.S., taxpayer")
    def days_here(self):
        return self._days("days_here")

    @line("9b", "Days of main home in the U.S., spouse")
    def spouse_days_here(self):
        return self._days("spouse_days_here")

    def _days(self, name):
        if not self.earned_income or self.run.form("us.earned-income-credit").children:
            return nothing_because("there is a qualifying child, or no earned income credit")
        return total(getattr(self.asked, name) or 0)


class ClaimedAgainForChild(FederalForm):
    """Form 8862, line 7, for one child. IRC 32(c)(3)(A)."""

    number, name, per = "8862 child", "Form 8862, one child", "dependant"
    needs = ("denied-before",)

    def required(self):
        counts = self.run.form("us.dependent", self.key).counts_for_earned_income
        return bool(self.run.form("us.8862").earned_income) and counts and not self.run.single("denied-before").only_income

    @line("7", "Days child lived with taxpayer in the U.S.")
    def days(self):
        rows = [row for row in self.run.single("denied-before").children if row.child == self.key]
        return total([row.days or 0 for row in rows])
