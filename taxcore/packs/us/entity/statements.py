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


class BalanceSheet(EntityForm):
    """Schedule L: what every kind of entity has alike. Assets on lines 1 to 14. IRC 6012, 6031, 6037."""

    cash_begun, cash_ended = both_ends("1", "Cash", "cash")
    receivables_begun, receivables_ended = both_ends("2a", "Trade notes and accounts receivable", "receivables")
    allowance_begun, allowance_ended = both_ends("2b", "Less allowance for bad debts", "allowance", owed=True)
    inventory_begun, inventory_ended = both_ends("3", "Inventories", "inventory")
    obligations_begun, obligations_ended = both_ends("4", "U.S. government obligations", "obligations")
    exempt_begun, exempt_ended = both_ends("5", "Tax-exempt securities", "exempt_securities")
    current_begun, current_ended = both_ends("6", "Other current assets", "other_current")
    lent_begun, lent_ended = both_ends("7a", "Loans to owners", "loans_to_owners")
    mortgages_begun, mortgages_ended = both_ends("7b", "Mortgage and real estate loans", "mortgage_loans")
    investments_begun, investments_ended = both_ends("8", "Other investments", "investments")
    buildings_begun, buildings_ended = both_ends("9a", "Buildings and other depreciable assets", "buildings")
    written_begun, written_ended = both_ends("9b", "Less accumulated depreciation", "accumulated", owed=True)
    depletable_begun, depletable_ended = both_ends("10a", "Depletable assets", "depletable")
    depleted_begun, depleted_ended = both_ends("10b", "Less accumulated depletion", "depleted", owed=True)
    land_begun, land_ended = both_ends("11", "Land", "land")
    intangible_begun, intangible_ended = both_ends("12a", "Intangible assets", "intangible")
    amortized_begun, amortized_ended = both_ends("12b", "Less accumulated amortization", "amortized", owed=True)
    others_begun, others_ended = both_ends("13", "Other assets", "other_assets")
    assets_begun, assets_ended = together(
        "14", "Total assets",
        ("cash", "receivables", "inventory", "obligations", "exempt", "current", "lent", "mortgages", "investments", "buildings",
         "depletable", "land", "intangible", "others"),
        ("allowance", "written", "depleted", "amortized"), weight="total",
    )  # fmt: skip
