"""Schedule C with car and home office, for each business. IRC 162, 274, 280A, 471."""

from decimal import Decimal
from functools import partial

from taxcore.engine import absent, excess, fact, least, line, pro_rata, share, times, total
from taxcore.packs.us.balances import INVENTORY
from taxcore.packs.us.base import from_paper
from taxcore.packs.us.federal.passive_trades import LimitedTrade
from taxcore.packs.us.property.assets import added_back

_EXPENSES = (
    "advertising", "car", "commissions", "contract_labour", "depletion", "depreciation", "employee_benefits", "insurance",
    "mortgage_interest", "other_interest", "professional", "office", "employee_pensions", "rent_equipment", "rent_property",
    "repairs", "supplies", "taxes", "travel", "meals", "utilities", "wages", "others",
)  # fmt: skip
_from_books = partial(from_paper, of="books")


class Business(LimitedTrade):
    """Profit or loss from one business. IRC 61(a)(2), 162, 274, 280A."""

    number, name, per = "Schedule C", "Profit or loss from business", "business"

    @property
    def books(self):
        return self.run.by_key(("business",), self.key)

    def _statements(self, kind):
        return [paper for paper in self.papers(kind) if paper.business == self.key]

    @line("1", "Gross receipts or sales")
    def receipts(self):
        nec = [paper.pay for paper in self._statements("1099-nec") if not paper.not_business]
        misc = [total(p.other_income, p.fishing, p.medical, p.attorney) for p in self._statements("1099-misc") if p.is_business]
        cards = [excess(p.gross, over=[p.on_other_statement, p.personal]) for p in self._statements("1099-k")]
        return total(self.books.receipts, nec, misc, cards, [paper.wages for paper in self._pay()])

    def _pay(self):
        """Statements of a statutory employee that this business reports: IRC 3121(d)(3)."""
        return [paper for paper in self.papers("w2") if paper.statutory_employee and paper.business == self.key]

    @fact("Of a statutory employee")
    def is_statutory(self):
        return bool(self._pay())

    returns = _from_books("2", "returns", "Returns and allowances")

    @line("3", "Net receipts")
    def net_receipts(self):
        return total(self.receipts, less=self.returns)

    @line("4", "Cost of goods sold")
    def cost_of_goods(self):
        return total(self.cost_sold)

    @line("5", "Gross profit")
    def gross_profit(self):
        return total(self.net_receipts, less=self.cost_of_goods)

    @line("6", "Other income")
    def other_income(self):
        """With excess depreciation of vehicles: IRC 280F(b)(2)."""
        return total(self.books.other_income, added_back(self.run, self.key))

    @line("7", "Gross income", weight="total")
    def gross_income(self):
        return total(self.gross_profit, self.other_income)

    advertising = _from_books("8", "advertising", "Advertising")

    @line("9", "Car and truck expenses", cites="IRC 274(d)")
    def car(self):
        books = self.books
        if books.car_method == "actual":
            return total(books.car_actual, books.parking)
        miles, law = books.miles or 0, self.law.mileage
        if "business_from_july" not in law:
            return total(times(miles, law.business, of="miles"), books.parking)
        later = min(books.miles_from_july or 0, miles)
        both = total(times(miles - later, law.business, of="miles"), times(later, law.business_from_july, of="miles from July"))
        return total(both, books.parking)

    commissions = _from_books("10", "commissions", "Commissions and fees")
    contract_labour = _from_books("11", "contract_labour", "Contract labor")
    depletion = _from_books("12", "depletion", "Depletion")

    @line("13", "Depreciation and section 179", cites="IRC 167, 168, 179")
    def depreciation(self):
        return total(self.books.depreciation, self.run.form("us.4562", self.key).together)

    employee_benefits = _from_books("14", "employee_benefits", "Employee benefit programs")
    insurance = _from_books("15", "insurance", "Insurance (other than health)")
    mortgage_interest = _from_books("16a", "mortgage_interest", "Mortgage interest")
    other_interest = _from_books("16b", "other_interest", "Other interest")
    professional = _from_books("17", "professional", "Legal and professional services")
    office = _from_books("18", "office", "Office expense")
    employee_pensions = _from_books("19", "employee_pensions", "Pension and profit-sharing plans")
    rent_equipment = _from_books("20a", "rent_equipment", "Rent or lease: vehicles, machinery, equipment")
    rent_property = _from_books("20b", "rent_property", "Rent or lease: other business property")
    repairs = _from_books("21", "repairs", "Repairs and maintenance")
    supplies = _from_books("22", "supplies", "Supplies")
    taxes = _from_books("23", "taxes", "Taxes and licenses")
    travel = _from_books("24a", "travel", "Travel")

    @line("24b", "Deductible meals", cites="IRC 274(n)")
    def meals(self):
        law, books = self.law.meals, self.books
        restaurant = least(books.restaurant_meals, books.meals)
        others = excess(books.meals, over=restaurant)
        return total(share(law.share, of=others), share(law.restaurant_share, of=restaurant))

    utilities = _from_books("25", "utilities", "Utilities")
    wages = _from_books("26", "wages", "Wages")

    @line({2022: "27a", 2024: "27b"}, "Other expenses")
    def others(self):
        return total([row.amount for row in self.books.others], self.run.form("us.4562", self.key).amortized)

    @line("28", "Total expenses", weight="total")
    def expenses(self):
        return total([getattr(self, name) for name in _EXPENSES])

    @line("29", "Tentative profit or (loss)")
    def before_home(self):
        return total(self.gross_income, less=self.expenses)

    @fact("Tentative profit before section 179", cites="IRC 179(b)(3)(C)")
    def before_section_179(self):
        """Worked out without line 13, which depends on it: all other costs, and depreciation without section 179."""
        depreciation = self.run.form("us.4562", self.key)
        others = [getattr(self, name) for name in _EXPENSES if name != "depreciation"]
        return total(self.gross_income, less=[*others, self.books.depreciation, depreciation.without_179])

    @line("30", "Expenses for business use of home", cites="IRC 280A(c)")
    def home(self):
        method = self.books.home_method
        if not method:
            return absent("no home office was entered")
        if method == "regular":
            return total(self.run.form("us.8829", self.key).deduction)
        law = self.law.home_office
        area = least(Decimal(self.books.home_area or 0), law.most_square_feet)
        months = 12 if self.books.home_months is None else self.books.home_months
        return least(
            of={"by area": pro_rata(share(law.each_square_foot, of=area), months, 12), "profit": excess(self.before_home, over=0)}
        )

    def result(self):
        return total(self.before_home, less=self.home)

    @line("31", "Net profit or (loss)", weight="total")
    def profit(self):
        return self.after_limits()

    inventory_start = _from_books("35", "inventory_start", "Inventory at beginning of year")
    purchases = _from_books("36", "purchases", "Purchases")
    labour = _from_books("37", "labour", "Cost of labor")
    materials = _from_books("38", "materials", "Materials and supplies")
    other_costs = _from_books("39", "other_costs", "Other costs")

    @line("40", "Goods available for sale")
    def goods(self):
        return total(self.inventory_start, self.purchases, self.labour, self.materials, self.other_costs)

    inventory_end = _from_books("41", "inventory_end", "Inventory at end of year", closes=INVENTORY)

    @line("42", "Cost of goods sold")
    def cost_sold(self):
        return total(self.goods, less=self.inventory_end)

    @line("44a", "Business miles")
    def miles(self):
        return total(self.books.miles or 0)

    @line("44b", "Commuting miles")
    def commuting_miles(self):
        return total(self.books.commuting_miles or 0)

    @line("44c", "Other miles")
    def other_miles(self):
        return total(self.books.other_miles or 0)

    @fact("Net earnings of")
    def earner(self):
        return self.books.owner or "taxpayer"
