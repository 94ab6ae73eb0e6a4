"""Cost of goods sold (Form 1125-A) and the balance sheet (Schedule L) out of the books."""

from taxcore.engine import line, total
from taxcore.engine.forms import Line
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import accounts_of, before_of, credit_of, debit_of


class CostOfGoods(EntityForm):
    """Form 1125-A. IRC 471, 263A."""

    number, name = "1125-A", "Cost of goods sold"

    @classmethod
    def idle(cls, run):
        return not accounts_of(run, "inventory", "purchases", "cogs", "labor", "costs_263a", "other_costs")

    @line("1", "Inventory at beginning of year")
    def begun(self):
        return total(before_of(self.run, "inventory"))

    @line("2", "Purchases")
    def purchases(self):
        """What was bought: the cost as booked and what inventory gained, so that line 8 is what the books and entries have."""
        return total(debit_of(self.run, "purchases", "cogs"), self.ended, less=self.begun)

    @line("3", "Cost of labor")
    def labor(self):
        return debit_of(self.run, "labor")

    @line("4", "Additional section 263A costs")
    def costs_263a(self):
        return debit_of(self.run, "costs_263a")

    @line("5", "Other costs")
    def others(self):
        return debit_of(self.run, "other_costs")

    @line("6", "Total")
    def together(self):
        return total(self.begun, self.purchases, self.labor, self.costs_263a, self.others)

    @line("7", "Inventory at end of year")
    def ended(self):
        return debit_of(self.run, "inventory")

    @line("8", "Cost of goods sold", weight="total")
    def cost(self):
        return total(self.together, less=self.ended)


def both_ends(number, label, *keys, owed=False, **options):
    """The two amounts of a line of Schedule L: when the year began, and when it ended. `owed`: what stands on the credit side."""

    def begun(form):
        before = before_of(form.run, *keys)
        return total(less=before) if owed else total(before)

    def ended(form):
        return (credit_of if owed else debit_of)(form.run, *keys, tax=False)

    return Line(f"{number}-b", f"{label}, beginning of year", begun), Line(
        f"{number}-d", f"{label}, end of year", ended, **options
    )


def together(number, label, plus, minus=(), **options):
    """A sum of lines, at both ends: names without their ends."""

    def at(end):
        return lambda form: total(
            [getattr(form, f"{one}_{end}") for one in plus], less=[getattr(form, f"{one}_{end}") for one in minus]
        )

    return (Line(f"{number}-b", f"{label}, beginning of year", at("begun"), **options),
            Line(f"{number}-d", f"{label}, end of year", at("ended"), **options))  # fmt: skip


# Name, line of Form 1065 and line of Forms 1120 and 1120-S, caption, whether it stands on the credit side; the tax line
_ASSETS = (
    ("cash", "1", "1", "Cash", False, "cash"),
    ("receivables", "2a", "2a", "Trade notes and accounts receivable", False, "receivables"),
    ("allowance", "2b", "2b", "Less allowance for bad debts", True, "allowance"),
    ("inventory", "3", "3", "Inventories", False, "inventory"),
    ("obligations", "4", "4", "U.S. government obligations", False, "obligations"),
    ("exempt", "5", "5", "Tax-exempt securities", False, "exempt_securities"),
    ("current", "6", "6", "Other current assets", False, "other_current"),
    ("lent", "7a", "7", "Loans to {owners}", False, "loans_to_owners"),
    ("mortgages", "7b", "8", "Mortgage and real estate loans", False, "mortgage_loans"),
    ("investments", "8", "9", "Other investments", False, "investments"),
    ("buildings", "9a", "10a", "Buildings and other depreciable assets", False, "buildings"),
    ("written", "9b", "10b", "Less accumulated depreciation", True, "accumulated"),
    ("depletable", "10a", "11a", "Depletable assets", False, "depletable"),
    ("depleted", "10b", "11b", "Less accumulated depletion", True, "depleted"),
    ("land", "11", "12", "Land", False, "land"),
    ("intangible", "12a", "13a", "Intangible assets", False, "intangible"),
    ("amortized", "12b", "13b", "Less accumulated amortization", True, "amortized"),
    ("others", "13", "14", "Other assets", False, "other_assets"),
)


def assets(owners, corporate):
    """{name: line} of Schedule L's assets with their total, in the numbers of a partnership's or a corporation's form."""
    made = {}
    for name, of_partnership, of_corporation, label, owed, key in _ASSETS:
        number = of_corporation if corporate else of_partnership
        made[f"{name}_begun"], made[f"{name}_ended"] = both_ends(number, label.format(owners=owners), key, owed=owed)
    plus, minus = ([name for name, *_, owed, _ in _ASSETS if owed is side] for side in (False, True))
    made["assets_begun"], made["assets_ended"] = together(
        "15" if corporate else "14", "Total assets", plus, minus, weight="total"
    )
    return made
