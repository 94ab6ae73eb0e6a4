"""A state's return corrected after it was filed: what is owed or refunded after what was paid and refunded before.

Ten states have ten papers for it (amending.toml in each folder names them). They ask the same: the figures as filed and correct,
and the settlement. The lines here have numbers of our own, and are a worksheet for that reason.
"""

from taxcore.engine import excess, line, total
from taxcore.engine.amending import corrects
from taxcore.packs.us.base import columns_of
from taxcore.packs.us.states.base import StateForm


def _named(name):
    """Columns A and C of the line that the state's authority names so."""
    return (lambda form: form.home.as_filed(getattr(form.authority, name)),
            lambda form: total(getattr(form.home, getattr(form.authority, name))))  # fmt: skip


class StateAmended(StateForm):
    """As filed, change, correct; then what was settled. State law: amending.toml in its folder; IRC 6402."""

    number, name, worksheet = "Amended return", "Correction settled", True
    columns = ("As filed", "Change", "Correct")

    @classmethod
    def idle(cls, run):
        return super().idle(run) or not corrects(run, run.pack.authority(cls.jurisdiction))

    @property
    def authority(self):
        return self.run.pack.authority(self.jurisdiction)

    @property
    def home(self):
        """The state's return."""
        return self.run.form(self.authority.form.code())

    income_filed, income_change, income = columns_of("1", "Income", *_named("income"))
    tax_filed, tax_change, tax = columns_of("2", "Tax", *_named("tax"))
    balance_filed, balance_change, balance = columns_of(
        "3",
        "Owed, or overpaid if negative",
        lambda form: form.balance_of(form.home.as_filed),
        lambda form: form.balance_of(lambda name: getattr(form.home, name)),
        weight="total",
    )

    def balance_of(self, of_home):
        """Owed, less what is refunded and what is applied to next year."""
        return total(of_home("owed"), less=[of_home("refund"), of_home("applied")])

    @property
    def settled(self):
        """The row of what the state got and gave, or None."""
        return next((row for row in self.paper("amendment").settled if row.authority == self.state()), None)

    @line("4", "Paid with original and since")
    def paid(self):
        return total(self.settled.paid, self.settled.paid_later) if self.settled else total(0)

    @line("5", "Overpayment as filed or adjusted")
    def overpaid_before(self):
        if self.settled is not None and self.settled.is_keyed("overpaid"):
            return total(self.settled.overpaid)
        return excess(0, over=self.balance_filed)

    @line("6", "Amount owed", weight="total")
    def owed(self):
        return excess(total(self.balance, self.overpaid_before), over=self.paid)

    @line("7", "Refund", weight="total")
    def refund(self):
        return excess(self.paid, over=total(self.balance, self.overpaid_before))
