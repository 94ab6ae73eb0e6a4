"""Schedule F, cash method. IRC 61, 77, 126, 162, 175, 451(f); 26 CFR 1.61-4."""

from functools import partial

from taxcore.engine import excess, fact, least, line, share, total
from taxcore.packs.us.balances import CONSERVATION, CROP_INSURANCE
from taxcore.packs.us.base import from_paper
from taxcore.packs.us.federal.passive_trades import LimitedTrade
from taxcore.packs.us.property.assets import added_back
from taxcore.packs.us.property.papers import ANIMALS

_INCOME = (
    "resale_profit", "raised", "cooperatives_taxed", "programs_taxed", "loans_elected", "loans_taxed", "crop_taxed",
    "crop_of_before", "custom_hire_income", "other_income",
)  # fmt: skip
_EXPENSES = (
    "car", "chemicals", "conservation", "custom_hire", "depreciation", "employee_benefits", "feed", "fertilizer", "freight",
    "fuel", "insurance", "mortgage_interest", "other_interest", "wages", "employee_pensions", "rent_equipment", "rent_land",
    "repairs", "seeds", "storage", "supplies", "taxes", "utilities", "veterinary", "others",
)  # fmt: skip
_from_books = partial(from_paper, of="books")


class Farm(LimitedTrade):
    """Profit or loss from farming. IRC 61, 77, 126, 162, 175, 451(f)."""

    number, name, per = "Schedule F", "Profit or loss from farming", "farm"
    is_statutory = False  # nobody is a statutory employee on a farm: IRC 3121(d)(3)

    @property
    def books(self):
        return self.run.by_key(("farm",), self.key)

    @property
    def earner(self):
        return self.books.owner or "taxpayer"

    def _given(self, kind, name):
        return [getattr(paper, name) for paper in self.papers(kind) if paper.farm == self.key]

    resale = _from_books("1a", "resale", "Sales of livestock and other resale items")
    resale_cost = _from_books("1b", "resale_cost", "Cost or other basis of what was sold")

    @line("1c", "Resale items, less their cost")
    def resale_profit(self):
        return total(self.resale, less=self.resale_cost)

    raised = _from_books("2", "raised", "Sales of livestock, produce, grains raised")
    cooperatives = _from_books("3a", "cooperatives", "Cooperative distributions")
    cooperatives_taxed = _from_books("3b", "cooperatives_taxable", "Cooperative distributions, taxable")

    @line("4a", "Agricultural program payments")
    def programs(self):
        return total(self.books.programs, self._given("1099-g", "agriculture"))

    @line("4b", "Agricultural program payments, taxable", cites="IRC 126")
    def programs_taxed(self):
        return excess(self.programs, over=self.books.programs_untaxed)

    @line("5a", "CCC loans reported under election", cites="IRC 77")
    def loans_elected(self):
        return total(self.books.loans_elected, self._given("1099-g", "market_gain"))

    loans_forfeited = _from_books("5b", "loans_forfeited", "Loans forfeited")
    loans_taxed = _from_books("5c", "loans_taxable", "Loans forfeited, taxable")

    @line("6a", "Crop insurance proceeds and disaster payments")
    def crop_insurance(self):
        return total(self.books.crop_insurance, self._given("1099-misc", "crop_insurance"))

    @fact("Taxable crop insurance and disaster payments")
    def _crop_taxable(self):
        return excess(self.crop_insurance, over=self.books.crop_untaxed)

    @line("6b", "Crop insurance and disaster payments, taxable", cites="IRC 451(f)")
    def crop_taxed(self):
        return total(self._crop_taxable, less=self.crop_put_off)

    @fact("Crop insurance deferred to next year", cites="IRC 451(f)", closes=CROP_INSURANCE)
    def crop_put_off(self):
        return total(self._crop_taxable if self.books.crop_deferred else 0)

    crop_of_before = _from_books("6d", "crop_deferred_before", "Crop insurance deferred from last year")
    custom_hire_income = _from_books("7", "custom_hire_income", "Custom hire income")

    @line("8", "Other income")
    def other_income(self):
        """With excess depreciation of vehicles: IRC 280F(b)(2)."""
        return total(self.books.other_income, added_back(self.run, self.key))

    @line("9", "Gross income", weight="total")
    def gross_income(self):
        return total([getattr(self, name) for name in _INCOME])

    car = _from_books("10", "car", "Car and truck expenses")
    chemicals = _from_books("11", "chemicals", "Chemicals")

    @fact("Gross income from farming", cites="26 CFR 1.175-5(a)")
    def gross_from_farming(self):
        """With gains on animals kept for work, breeding or milk."""
        sold = [one.gain for one in self.every("us.sale-of-property") if self._is_animal(one)]
        return total(self.gross_income, [excess(gain, over=0) for gain in sold])

    def _is_animal(self, sale):
        return sale.is_there and sale.asset.used_in == self.key and sale.asset.sort in ANIMALS

    @line("12", "Conservation expenses", cites="IRC 175(b)")
    def conservation(self):
        paid = total(self.books.conservation, self.books.conservation_before)
        return least(of={"paid and carried over": paid, "25% of gross income": self._conservation_limit()})

    def _conservation_limit(self):
        return share(self.law.farm.conservation, of=excess(self.gross_from_farming, over=0))

    @fact("Conservation expenses carried over", cites="IRC 175(b)", closes=CONSERVATION)
    def conservation_left(self):
        return excess(total(self.books.conservation, self.books.conservation_before), over=self.conservation)

    custom_hire = _from_books("13", "custom_hire", "Custom hire")

    @line("14", "Depreciation and section 179", cites="IRC 167, 168, 179")
    def depreciation(self):
        return total(self.run.form("us.4562", self.key).together)

    employee_benefits = _from_books("15", "employee_benefits", "Employee benefit programs")
    feed = _from_books("16", "feed", "Feed")
    fertilizer = _from_books("17", "fertilizer", "Fertilizers and lime")
    freight = _from_books("18", "freight", "Freight and trucking")
    fuel = _from_books("19", "fuel", "Gasoline, fuel and oil")
    insurance = _from_books("20", "insurance", "Insurance (other than health)")
    mortgage_interest = _from_books("21a", "mortgage_interest", "Mortgage interest")
    other_interest = _from_books("21b", "other_interest", "Other interest")
    wages = _from_books("22", "wages", "Labor hired")
    employee_pensions = _from_books("23", "employee_pensions", "Pension and profit-sharing plans")
    rent_equipment = _from_books("24a", "rent_equipment", "Rent or lease: vehicles, machinery, equipment")
    rent_land = _from_books("24b", "rent_land", "Rent or lease: land, animals, other")
    repairs = _from_books("25", "repairs", "Repairs and maintenance")
    seeds = _from_books("26", "seeds", "Seeds and plants")
    storage = _from_books("27", "storage", "Storage and warehousing")
    supplies = _from_books("28", "supplies", "Supplies")
    taxes = _from_books("29", "taxes", "Taxes")
    utilities = _from_books("30", "utilities", "Utilities")
    veterinary = _from_books("31", "veterinary", "Veterinary, breeding, and medicine")

    @line("32", "Other expenses")
    def others(self):
        return total([row.amount for row in self.books.others], self.run.form("us.4562", self.key).amortized)

    @line("33", "Total expenses", weight="total")
    def expenses(self):
        return total([getattr(self, name) for name in _EXPENSES])

    def result(self):
        return total(self.gross_income, less=self.expenses)

    @line("34", "Net farm profit or (loss)", weight="total")
    def profit(self):
        return self.after_limits()

    @fact("Profit before section 179", cites="IRC 179(b)(3)(C)")
    def before_section_179(self):
        """Worked out without line 14, which depends on it."""
        others = [getattr(self, name) for name in _EXPENSES if name != "depreciation"]
        return total(self.gross_income, less=[*others, self.run.form("us.4562", self.key).without_179])
