"""Schedule C with car and home office, for each business. IRC 162, 274, 280A, 471."""

from decimal import Decimal

from taxcore.engine import ZERO, absent, excess, fact, least, line, linked, nothing_because, pro_rata, ratio, share, times, total
from taxcore.packs.us.base import FederalForm

_HALF = Decimal("0.5")
_EXPENSES = (
    "advertising", "car", "commissions", "contract_labour", "depletion", "depreciation", "employee_benefits", "insurance",
    "mortgage_interest", "other_interest", "professional", "office", "employee_pensions", "rent_equipment", "rent_property",
    "repairs", "supplies", "taxes", "travel", "meals", "utilities", "wages", "others",
)  # fmt: skip


def _from_books(number, name, label):
    """A line that is one amount of the books."""

    @line(number, label)
    def read(form):
        return total(getattr(form.books, name))

    return read


class Business(FederalForm):
    """Profit or loss from one business. IRC 61(a)(2), 162, 274, 280A."""

    number, name, per = "Schedule C", "Profit or loss from business", "business"

    @property
    def books(self):
        return self.run.by_key(("business",), self.key)

    def _statements(self, kind):
        return [paper for paper in self.papers(kind) if paper.business == self.key]

    @line("1", "Gross receipts")
    def receipts(self):
        nec = [paper.pay for paper in self._statements("1099-nec") if not paper.not_business]
        misc = [total(p.other_income, p.fishing, p.medical, p.attorney) for p in self._statements("1099-misc") if p.is_business]
        cards = [excess(p.gross, over=[p.on_other_statement, p.personal]) for p in self._statements("1099-k")]
        return total(self.books.receipts, nec, misc, cards)

    returns = _from_books("2", "returns", "Returns and allowances")

    @line("3", "Receipts after returns")
    def net_receipts(self):
        return total(self.receipts, less=self.returns)

    @line("4", "Cost of goods sold")
    def cost_of_goods(self):
        return total(self.cost_sold)

    @line("5", "Gross profit")
    def gross_profit(self):
        return total(self.net_receipts, less=self.cost_of_goods)

    other_income = _from_books("6", "other_income", "Other income")

    @line("7", "Gross income", weight="total")
    def gross_income(self):
        return total(self.gross_profit, self.other_income)

    advertising = _from_books("8", "advertising", "Advertising")

    @line("9", "Car and truck", cites="IRC 274(d)")
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
    contract_labour = _from_books("11", "contract_labour", "Contract labour")
    depletion = _from_books("12", "depletion", "Depletion")
    depreciation = _from_books("13", "depreciation", "Depreciation and section 179")
    employee_benefits = _from_books("14", "employee_benefits", "Employees' benefits")
    insurance = _from_books("15", "insurance", "Insurance other than health")
    mortgage_interest = _from_books("16a", "mortgage_interest", "Interest on mortgages")
    other_interest = _from_books("16b", "other_interest", "Other interest")
    professional = _from_books("17", "professional", "Legal and professional services")
    office = _from_books("18", "office", "Office expense")
    employee_pensions = _from_books("19", "employee_pensions", "Employees' pension plans")
    rent_equipment = _from_books("20a", "rent_equipment", "Rent, vehicles and equipment")
    rent_property = _from_books("20b", "rent_property", "Rent, other property")
    repairs = _from_books("21", "repairs", "Repairs and maintenance")
    supplies = _from_books("22", "supplies", "Supplies")
    taxes = _from_books("23", "taxes", "Taxes and licences")
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
        return total([row.amount for row in self.books.others])

    @line("28", "Expenses", weight="total")
    def expenses(self):
        return total([getattr(self, name) for name in _EXPENSES])

    @line("29", "Profit before the home office")
    def before_home(self):
        return total(self.gross_income, less=self.expenses)

    @line("30", "Home office", cites="IRC 280A(c)")
    def home(self):
        method = self.books.home_method
        if not method:
            return absent("no home office was keyed")
        if method == "regular":
            return total(self.run.form("us.8829", self.key).deduction)
        law = self.law.home_office
        area = least(Decimal(self.books.home_area or 0), law.most_square_feet)
        months = 12 if self.books.home_months is None else self.books.home_months
        return least(
            of={"by area": pro_rata(share(law.each_square_foot, of=area), months, 12), "profit": excess(self.before_home, over=0)}
        )

    @line("31", "Net profit or loss", weight="total")
    def profit(self):
        return total(self.before_home, less=self.home)

    inventory_start = _from_books("35", "inventory_start", "Inventory at the start")
    purchases = _from_books("36", "purchases", "Purchases")
    labour = _from_books("37", "labour", "Cost of labour")
    materials = _from_books("38", "materials", "Materials and supplies")
    other_costs = _from_books("39", "other_costs", "Other costs")

    @line("40", "Together")
    def goods(self):
        return total(self.inventory_start, self.purchases, self.labour, self.materials, self.other_costs)

    inventory_end = _from_books("41", "inventory_end", "Inventory at the end")

    @line("42", "Cost of goods sold")
    def cost_sold(self):
        return total(self.goods, less=self.inventory_end)

    @line("44a", "Business miles")
    def miles(self):
        return total(self.books.miles or 0)

    @line("44b", "Miles to work and back")
    def commuting_miles(self):
        return total(self.books.commuting_miles or 0)

    @line("44c", "Other miles")
    def other_miles(self):
        return total(self.books.other_miles or 0)

    @fact("Counts as earned income of")
    def earner(self):
        return self.books.owner or "taxpayer"


class HomeOffice(FederalForm):
    """Form 8829: business use of the home by actual costs. IRC 280A(c)(1), (5). Depreciation stops filing."""

    number, name, per = "8829", "Business use of the home", "business"
    business = property(lambda form: form.run.form("us.sch-c", form.key))

    @property
    def books(self):
        return self.run.by_key(("business",), self.key)

    def required(self):
        return self.books.home_method == "regular"

    @line("1", "Square feet of the office")
    def area(self):
        return times(self.books.home_area or 0, 1, of="square feet")

    @line("2", "Square feet of the home")
    def whole_area(self):
        return times(self.books.home_total or 0, 1, of="square feet")

    @line("7", "Business share", rounding=None)
    def business_share(self):
        """To six places, which is two more than the form's percent asks for."""
        if self.whole_area == 0:
            return nothing_because("the home's area was not keyed")
        return least(ratio(self.area, over=self.whole_area, places=6), 1)

    @line("8", "Profit it may use up")
    def limit(self):
        return excess(self.business.before_home, over=0)

    @line("10b", "Mortgage interest that is itemised")
    def interest(self):
        return total(self.books.home_interest) if self.books.home_itemised else nothing_because("it is not itemised")

    @line("11b", "Property tax that is itemised")
    def property_tax(self):
        return total(self.books.home_taxes) if self.books.home_itemised else nothing_because("it is not itemised")

    @line("14", "Business part of them")
    def first(self):
        return share(self.business_share, of=total(self.interest, self.property_tax))

    @line("15", "Profit left")
    def after_first(self):
        return excess(self.limit, over=self.first)

    @line("16b", "Mortgage interest that is not itemised")
    def other_interest(self):
        return nothing_because("it is itemised") if self.books.home_itemised else total(self.books.home_interest)

    @line("17b", "Property tax that is not itemised")
    def other_tax(self):
        return nothing_because("it is itemised") if self.books.home_itemised else total(self.books.home_taxes)

    @line("18b", "Insurance")
    def insurance(self):
        return total(self.books.home_insurance)

    @line("19b", "Rent")
    def rent(self):
        return total(self.books.home_rent)

    @line("20b", "Repairs")
    def repairs(self):
        return total(self.books.home_repairs)

    @line("21b", "Utilities")
    def utilities(self):
        return total(self.books.home_utilities)

    @line("22a", "Costs of the office alone")
    def direct(self):
        return total(self.books.home_direct)

    @line("22b", "Other costs of the home")
    def other(self):
        return total(self.books.home_other)

    @line("23b", "Costs of the home together")
    def indirect(self):
        return total(self.other_interest, self.other_tax, self.insurance, self.rent, self.repairs, self.utilities, self.other)

    @line("24", "Business part of them")
    def indirect_share(self):
        return share(self.business_share, of=self.indirect)

    @line("25", "Costs carried in")
    def carried(self):
        return total(self.books.home_carried)

    @line("26", "Operating costs")
    def operating(self):
        return total(self.direct, self.indirect_share, self.carried)

    @line("27", "Allowed")
    def allowed(self):
        return least(of={"profit left": self.after_first, "operating costs": self.operating})

    @line("36", "Deduction", weight="total")
    def deduction(self):
        return total(self.first, self.allowed)

    @line("43", "Operating costs carried on")
    def carried_on(self):
        return excess(self.operating, over=self.allowed)


class SelfEmploymentTax(FederalForm):
    """Schedule SE of one person. IRC 1401, 1402. Farms, church pay and optional methods have no paper yet."""

    number, name, per = "Schedule SE", "Self-employment tax", "person"
    needs = ("business", "k1-1065")

    def required(self):
        return self.tax > 0

    @line("2", "Net profit of all businesses")
    def profit(self):
        businesses = [one.profit for one in self.every("us.sch-c") if one.earner == self.key]
        shares = [self._of_share(share_) for share_ in self.papers("k1-1065", self.key)]
        return total(businesses, shares)

    @line("3", "Together")
    def together(self):
        return total(self.profit)

    @line("4a", "92.35% of a profit")
    def earnings(self):
        if self.together <= 0:
            return total(self.together)
        return share(self.law.self_employment.share, of=self.together)

    @line("4c", "Earnings, from 400 on", cites="IRC 1402(b)(2)")
    def taxed(self):
        if self.earnings < self.law.self_employment.least:
            return nothing_because("earnings are below 400", self.earnings)
        return total(self.earnings)

    @line("6", "Earnings from self-employment")
    def net_earnings(self):
        return total(self.taxed)

    @line("7", "Wage base")
    def base(self):
        return self.law.payroll.wage_base

    @line("8a", "Social security wages and tips")
    def wages(self):
        papers = [wage for wage in self.papers("w2") if (wage.owner or "taxpayer") == self.key]
        return total([p.social_security_wages for p in papers], [p.social_security_tips for p in papers])

    @line("8d", "Together")
    def wages_together(self):
        return total(self.wages)

    @line("9", "Base left")
    def room(self):
        return excess(self.base, over=self.wages_together)

    @line("10", "12.4% up to it")
    def social_security(self):
        return share(self.law.self_employment.social_security_rate, of=least(self.net_earnings, self.room))

    @line("11", "2.9%")
    def medicare(self):
        return share(self.law.self_employment.medicare_rate, of=self.net_earnings)

    @line("12", "Self-employment tax", weight="total")
    def tax(self):
        if self.net_earnings == 0:
            return total(self.taxed) if self.together > 0 else nothing_because("there are no earnings from self-employment")
        return total(self.social_security, self.medicare)

    @line("13", "Half of it", cites="IRC 164(f)")
    def half(self):
        return share(_HALF, of=self.tax)

    def _of_share(self, paper):
        return total(paper.self_employment, less=paper.unreimbursed)


class Partnerships(FederalForm):
    """Schedule E, parts II and III: shares of entities. IRC 702, 1366, 652, 662. Rentals stop filing."""

    number, name = "Schedule E", "Supplemental income"
    needs = ("k1-1065", "k1-1120s", "k1-1041")

    def required(self):
        return any(self.papers(kind) for kind in ("k1-1065", "k1-1120s", "k1-1041"))

    @line("32", "Partnerships and S corporations")
    def entities(self):
        partners = [
            total(p.ordinary, p.guaranteed, less=[p.unreimbursed, p.section_179]) for p in self.papers("k1-1065")
        ]  # fmt: skip
        return total(partners, [total(p.ordinary, less=p.section_179) for p in self.papers("k1-1120s")])

    @line("37", "Estates and trusts")
    def trusts(self):
        return total([total(p.ordinary, less=p.other_deductions) for p in self.papers("k1-1041")])

    @line("41", "Together", weight="total")
    def together(self):
        return total(self.entities, self.trusts)


class EarnedIncome(FederalForm):
    """What one person earned, for everything that depends on it. IRC 32(c)(2), 219(f)(1), 21(d), 24(d)."""

    number, name, per, worksheet = "Earned income", "Earned income", "person", True
    income = linked("us.1040")

    def required(self):
        return False

    def _wages(self):
        return [wage for wage in self.papers("w2") if (wage.owner or "taxpayer") == self.key]

    @line("1", "Wages")
    def wages(self):
        employed = [wage.wages for wage in self._wages() if not wage.statutory_employee]
        others = self.papers("other-income", self.key)
        disabled = [p for p in self.papers("1099-r", self.key) if p.disability_pension]
        more = ([total(p.household_wages, p.other_earned, p.medicaid_waiver) for p in others], [p.gross for p in disabled])
        return total(employed, more)

    @line("2", "Pay of nonqualified plans in the wages")
    def deferred(self):
        return total([wage.nonqualified_plans for wage in self._wages()])

    @line("3", "Net earnings of own business")
    def own_business(self):
        return total(self.brought("us.sch-se", "together", self.key), less=self.brought("us.sch-se", "half", self.key))

    @line("4", "Statutory employee's profit")
    def statutory(self):
        return absent("no statutory employee's books are on the return")

    @line("5", "Earned income", weight="total")
    def earned(self):
        return total(self.wages, self.own_business, less=self.deferred)

    @fact("Combat pay that may count")
    def combat_pay(self):
        return total([p.combat_pay for p in self.papers("other-income", self.key)])

    @fact("Compensation for IRAs", cites="IRC 219(f)(1)")
    def compensation(self):
        """Wages and a profit, less half the tax on it and payments into plans; alimony under old agreements; combat pay."""
        others = self.papers("other-income", self.key)
        profit = excess(total(self.own_business), over=self.brought("us.plans", "deduction", self.key))
        pay = excess(self.wages, over=self.deferred)
        return total(pay, profit, [p.alimony for p in others], self.combat_pay)


class Plans(FederalForm):
    """Deduction of the self-employed for SEP, SIMPLE and 401(k), of one person. IRC 404(a)(8), 404(h), 408(p), 415(c)."""

    number, name, per, worksheet = "Plans", "Self-employed retirement plans", "person", True
    needs = ("business", "k1-1065")

    def required(self):
        return self.paid > 0

    def _books(self):
        return self.papers("business", self.key)

    @line("1", "Net earnings less half the tax")
    def earnings(self):
        schedule = self.run.form("us.sch-se", self.key)
        return excess(schedule.together, over=schedule.half)

    @line("2", "Paid in by the employer's side")
    def by_employer(self):
        shares = [paper.sep for paper in self.papers("k1-1065", self.key)]
        return total([total(books.sep, books.profit_sharing) for books in self._books()], shares)

    @line("3", "Most of it", cites="IRC 404(a)(8)(D), 401(a)(17)")
    def employer_limit(self):
        """A quarter of what is left after it, which is a fifth of what there is before."""
        law = self.law.plans
        return least(of={"a fifth of earnings": share(law.share, of=least(self.earnings, law.pay)), "most": law.additions})

    @line("4", "Deferral and SIMPLE")
    def deferred(self):
        return total([total(books.deferral, books.simple) for books in self._books()])

    @line("5", "Most of it", cites="IRC 402(g), 414(v), 408(p)(2)")
    def deferral_limit(self):
        law, person = self.law.deferrals, self.person(self.key)
        older = person is not None and (person.age_at_end() or 0) >= 50
        spent = [sum(w.coded({"D", "E", "F", "S", "AA", "BB"})) for w in self.papers("w2") if (w.owner or "taxpayer") == self.key]
        most = total(law.limit, law.catch_up if older else 0)
        return excess(least(most, self.earnings), over=[Decimal(amount) for amount in spent])

    @line("6", "Paid in")
    def paid(self):
        return total(self.by_employer, self.deferred)

    @line("7", "Deduction", weight="total")
    def deduction(self):
        law, person = self.law, self.person(self.key)
        older = person is not None and (person.age_at_end() or 0) >= 50
        allowed = total(least(self.by_employer, self.employer_limit), least(self.deferred, self.deferral_limit))
        most = total(law.plans.additions, law.deferrals.catch_up if older else 0)
        return least(of={"within each limit": allowed, "most of all": most, "earnings": self.earnings})

    def of_paper(self, key):
        """The part of one business, for its qualified income: as much as was paid through it, in the share allowed."""
        paid = sum((total(b.sep, b.profit_sharing, b.deferral, b.simple) for b in self._books() if b.key == key), ZERO)
        paid += sum((p.sep for p in self.papers("k1-1065", self.key) if p.key == key), ZERO)
        return pro_rata(self.deduction, paid, self.paid)
