"""Form 8829: business use of the home by actual costs. IRC 280A."""

from taxcore.engine import excess, least, line, nothing_because, ratio, share, times, total
from taxcore.packs.us.base import FederalForm


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
