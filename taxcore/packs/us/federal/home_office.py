"""Form 8829: business use of the home by actual costs. IRC 280A."""

from decimal import Decimal

from taxcore.engine import excess, least, line, nothing_because, ratio, share, times, total
from taxcore.packs.us.balances import HOME_DEPRECIATION, HOME_OFFICE
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.property.macrs import Life

_PERCENT = Decimal("0.01")


class HomeOffice(FederalForm):
    """Form 8829: business use of the home by actual costs. IRC 280A(c)(1), (5), 168(c)."""

    number, name, per = "8829", "Expenses for business use of your home", "business"
    business = property(lambda form: form.run.form("us.sch-c", form.key))

    @property
    def books(self):
        return self.run.by_key(("business",), self.key)

    def required(self):
        return self.books.home_method == "regular"

    @line("1", "Area used for business")
    def area(self):
        return times(self.books.home_area or 0, 1, of="square feet")

    @line("2", "Total area of home")
    def whole_area(self):
        return times(self.books.home_total or 0, 1, of="square feet")

    @line("7", "Business percentage", rounding=None)
    def business_share(self):
        """To six places, which is two more than the form's percent asks for."""
        if self.whole_area == 0:
            return nothing_because("the area of the home is not entered")
        return least(ratio(self.area, over=self.whole_area, places=6), 1)

    @line("8", "Profit limit")
    def limit(self):
        return excess(self.business.before_home, over=0)

    @line("10b", "Deductible mortgage interest")
    def interest(self):
        return total(self.books.home_interest) if self.books.home_itemised else nothing_because("it is not itemized")

    @line("11b", "Real estate taxes")
    def property_tax(self):
        return total(self.books.home_taxes) if self.books.home_itemised else nothing_because("it is not itemized")

    @line("14", "Business part")
    def first(self):
        return share(self.business_share, of=total(self.interest, self.property_tax))

    @line("15", "Profit remaining")
    def after_first(self):
        return excess(self.limit, over=self.first)

    @line("16b", "Excess mortgage interest")
    def other_interest(self):
        return nothing_because("it is itemized") if self.books.home_itemised else total(self.books.home_interest)

    @line("17b", "Excess real estate taxes")
    def other_tax(self):
        return nothing_because("it is itemized") if self.books.home_itemised else total(self.books.home_taxes)

    @line("18b", "Insurance")
    def insurance(self):
        return total(self.books.home_insurance)

    @line("19b", "Rent")
    def rent(self):
        return total(self.books.home_rent)

    @line("20b", "Repairs and maintenance")
    def repairs(self):
        return total(self.books.home_repairs)

    @line("21b", "Utilities")
    def utilities(self):
        return total(self.books.home_utilities)

    @line("22a", "Direct expenses")
    def direct(self):
        return total(self.books.home_direct)

    @line("22b", "Other expenses")
    def other(self):
        return total(self.books.home_other)

    @line("23b", "Total indirect expenses")
    def indirect(self):
        return total(self.other_interest, self.other_tax, self.insurance, self.rent, self.repairs, self.utilities, self.other)

    @line("24", "Business part")
    def indirect_share(self):
        return share(self.business_share, of=self.indirect)

    @line("25", "Carryover of prior year operating expenses")
    def carried(self):
        return total(self.books.home_carried)

    @line("26", "Operating expenses")
    def operating(self):
        return total(self.direct, self.indirect_share, self.carried)

    @line("27", "Allowable expenses")
    def allowed(self):
        return least(of={"profit left": self.after_first, "operating costs": self.operating})

    @line("28", "Profit left for depreciation")
    def left_for_depreciation(self):
        return excess(self.after_first, over=self.allowed)

    @line("30", "Depreciation of the home")
    def depreciation(self):
        return total(self.of_home)

    @line("31", "Carryover of earlier years' depreciation")
    def depreciation_before(self):
        return total(self.books.home_depreciation_before)

    @line("32", "Depreciation that could be deducted")
    def depreciation_wanted(self):
        return total(self.depreciation, self.depreciation_before)

    @line("33", "Allowable depreciation")
    def depreciation_allowed(self):
        return least(of={"profit left": self.left_for_depreciation, "depreciation": self.depreciation_wanted})

    @line("36", "Deduction", weight="total")
    def deduction(self):
        return total(self.first, self.allowed, self.depreciation_allowed)

    @line("37", "Smaller of the home's basis and value")
    def home(self):
        return total(self.books.home_basis)

    @line("38", "Land")
    def land(self):
        return total(self.books.home_land)

    @line("39", "Building")
    def building(self):
        return excess(self.home, over=self.land)

    @line("40", "Business basis of the building")
    def business_basis(self):
        return share(self.business_share, of=self.building)

    @line("41", "Depreciation percentage", rounding=None, cites="IRC 168(c)")
    def rate(self):
        """Nonresidential real property, by the month in which it was first used. Rev. Proc. 87-57."""
        since = self.books.home_since
        if since is None or since.year > self.year:
            return nothing_because("the day of its first use is not entered")
        return total(Life(Decimal(39), "nonresidential", month=since.month).rate(self.year - since.year + 1))

    @line("42", "Depreciation of the year")
    def of_home(self):
        if not self.required():
            return nothing_because("the simplified method has none")
        return share(self.rate * _PERCENT, of=self.business_basis)

    @line("44", "Depreciation carried to next year", closes=HOME_DEPRECIATION)
    def depreciation_carried(self):
        return (
            excess(self.depreciation_wanted, over=self.depreciation_allowed)
            if self.required()
            else total(self.depreciation_before)
        )

    @line("43", "Operating expenses carried to next year", closes=HOME_OFFICE)
    def carried_on(self):
        """What is carried waits through years of the simplified method. Rev. Proc. 2013-13, sec. 4.05."""
        if not self.required():
            return total(self.carried)
        return excess(self.operating, over=self.allowed)
