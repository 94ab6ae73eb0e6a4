"""Rents of an entity (Form 8825); depreciation, section 179 and sales, which it has like an individual's return."""

from taxcore.engine import Amount, Choice, Count, Flag, Row, Rows, Text, excess, fact, least, line, nothing_because, total
from taxcore.packs.us.base import STATES, from_paper
from taxcore.packs.us.entity.balances import TRADE_179
from taxcore.packs.us.entity.base import EntityForm, EntityPaper
from taxcore.packs.us.entity.received import KIND, RENTAL, received
from taxcore.packs.us.property.assets import Form4562, Section179
from taxcore.packs.us.property.sales import Form4797, Sale

KINDS = {"1": "Single family residence", "2": "Multi-family residence", "3": "Vacation or short-term rental", "4": "Commercial",
         "5": "Land", "6": "Royalties", "7": "Self-rental", "8": "Other"}  # fmt: skip


class Trade(EntityPaper):
    """The business itself: what depreciation, section 179 and qualified business income ask of it. IRC 162, 179, 199A."""

    kind, name, official, group = "business", "Business", "Page 1", "about"
    single, always = True, True

    section_179_before = Amount(None, "Section 179 carried over", opens=TRADE_179, cites="IRC 179(b)(3)(B)")
    service_trade = Flag(None, "Specified service trade or business (SSTB)", cites="IRC 199A(d)(2)", kept=True)
    no_trade = Flag(None, "No trade or business for section 199A", kept=True)
    small = Flag(
        None,
        "Average receipts of three years within the limit",
        cites="IRC 448(c)",
        help="Asked only where this year's are above it.",
    )
    wages_paid = Amount(
        None,
        "W-2 wages for section 199A",
        cites="IRC 199A(b)(4)",
        help="If empty, salaries, officers' pay and labor of the books.",
    )
    property_basis = Amount(None, "UBIA of qualified property", cites="IRC 199A(b)(6)", help="If empty, of the register.")


class RentalExpense(Row):
    description = Text(None, "Description", longest=60, needed="Line 15 asks for each.")
    amount = Amount(None, "Amount")


class LetProperty(EntityPaper):
    """One property that the entity lets. Form 8825; IRC 61(a)(5), 702(a), 1366(a)."""

    kind, name, official, group = "rental", "Rental property", "Form 8825", "property"
    again = True
    short, heading, main = "Rental", "address_line", "rents"

    address_line = Text("1a", "Street address", longest=60, wide=True, needed="Line 1 asks for it.", kept=True)
    property_kind = Choice("1b", "Type of property", KINDS, wide=True, needed="Line 1 asks for it.", kept=True)
    state = Choice(None, "State", STATES, needed="The state where it lies taxes its rents.", kept=True)
    rented_days = Count("1c", "Fair rental days", most=366)
    personal_days = Count("1d", "Personal use days", most=366)
    is_trade = Flag(None, "Trade or business for section 199A", cites="IRC 199A(d)(1)", kept=True)

    rents = Amount("2", "Gross rents", begins="Income and expenses")
    advertising = Amount("3", "Advertising")
    auto = Amount("4", "Auto and travel")
    cleaning = Amount("5", "Cleaning and maintenance")
    commissions = Amount("6", "Commissions")
    insurance = Amount("7", "Insurance")
    legal = Amount("8", "Legal and other professional fees")
    interest = Amount("9", "Interest")
    repairs = Amount("10", "Repairs")
    taxes = Amount("11", "Taxes")
    utilities = Amount("12", "Utilities")
    wages = Amount("13", "Wages and salaries")
    others = Rows("15", "Other", RentalExpense)

    def comes_again(self):
        return True

    # What the register of an individual's property asks of one
    is_home, is_royalties = False, False


_COSTS = (
    "advertising",
    "auto",
    "cleaning",
    "commissions",
    "insurance",
    "legal",
    "interest",
    "repairs",
    "taxes",
    "utilities",
    "wages",
)


class OneProperty(EntityForm):
    """One property's column of Form 8825. IRC 61(a)(5), 212."""

    number, name, per = "8825 property", "Rents of one property", "rental"

    @property
    def paper(self):
        return self.run.by_key(("rental",), self.key)

    rents = from_paper("2", "rents", "Gross rents")
    advertising = from_paper("3", "advertising", "Advertising")
    auto = from_paper("4", "auto", "Auto and travel")
    cleaning = from_paper("5", "cleaning", "Cleaning and maintenance")
    commissions = from_paper("6", "commissions", "Commissions")
    insurance = from_paper("7", "insurance", "Insurance")
    legal = from_paper("8", "legal", "Legal and other professional fees")
    interest = from_paper("9", "interest", "Interest")
    repairs = from_paper("10", "repairs", "Repairs")
    taxes = from_paper("11", "taxes", "Taxes")
    utilities = from_paper("12", "utilities", "Utilities")
    wages = from_paper("13", "wages", "Wages and salaries")

    @line("14", "Depreciation")
    def depreciation(self):
        return total(self.run.form("us.4562", self.key).without_179)

    @line("15", "Other")
    def others(self):
        return total([row.amount for row in self.paper.others], self.run.form("us.4562", self.key).amortized)

    @line("16", "Total expenses", weight="total")
    def expenses(self):
        return total([getattr(self, name) for name in _COSTS], self.depreciation, self.others)

    @line("17", "Income or (loss) from the property", weight="total")
    def net(self):
        return total(self.rents, less=self.expenses)


class Rents(EntityForm):
    """Form 8825: rental real estate income and expenses of a partnership or an S corporation. IRC 702(a), 1366(a)(1)."""

    number, name = "8825", "Rental real estate income and expenses"
    needs = ("rental", KIND)

    def required(self):
        return bool(self.papers("rental")) or self.of_shares != 0

    def _every(self, name):
        return [getattr(one, name) for one in self.every("us.8825-property")]

    @line("18a", "Total gross rents")
    def rents(self):
        return total(self._every("rents"))

    @line("18b", "Total expenses")
    def expenses(self):
        return total(less=self._every("expenses"))

    @line("19", "Net gain or (loss), Form 4797, rental real estate")
    def sold(self):
        if self.run.is_idle("us.4797"):
            return nothing_because("nothing was sold")
        return total([self.run.form("us.4797").ordinary_of(one.key) for one in self.every("us.8825-property")])

    @line("20a", "Rental real estate of other entities")
    def of_shares(self):
        return total(received(self.run, *RENTAL))

    @line("21", "Net rental real estate income or (loss)", weight="total")
    def net(self):
        return total(self.rents, self.expenses, self.sold, self.of_shares)


class EntitySection179(Section179):
    """Part I of Form 4562 of an entity: its own dollar limit, and its own income. IRC 179(b), (d)(8)."""

    needs = ("asset", "business")

    @line("5", "Dollar limitation", cites="IRC 179(b)(1), (2), (4)")
    def dollars(self):
        return excess(self.most, over=self.reduction)

    @line("8", "Elected cost")
    def elected(self):
        return total([one.section_179 for one in self._this_year()])

    @line("10", "Carryover of earlier years")
    def carried(self):
        return total(self.run.single("business").section_179_before)

    @line("11", "Business income limitation", cites="IRC 179(b)(3), (d)(8)")
    def income(self):
        """The entity's income of its trade, before this deduction and what it pays owners for services."""
        return least(excess(self.run.form(self.run.pack.authorities[0].form.code()).active_income, over=0), self.dollars)


class EntityForm4562(Form4562):
    """Depreciation and amortization of one activity; section 179 is told apart and passed on. IRC 167, 168, 179, 197."""

    per = ("business", "rental")

    def _wanted(self):
        elected = [one.section_179 for one in self.assets() if one.number_of_year == 1]
        paper = self.run.by_key(("business", "rental"), self.key)
        return total(elected, paper.section_179_before if paper is not None and paper.kind == "business" else 0)

    @line("22", "Total depreciation", weight="total")
    def together(self):
        return total(self.without_179)

    @fact("Section 179 carried over", closes=TRADE_179)
    def carried_on(self):
        if self.key != "business":
            return nothing_because("it is carried by the business")
        return total(self.limits.left)


class EntitySale(Sale):
    """One asset that was sold. An entity has no home, and sells nothing by installments here. IRC 1001, 1245, 1250."""

    @fact("Gain of a home that is not taxed")
    def excluded(self):
        return nothing_because("it is no home of the entity")


class EntityForm4797(Form4797):
    """Sales of business property of an entity; what is netted over years is its owners'. IRC 1231."""

    needs = ("asset", KIND)

    @fact("Section 1231 gain or loss of shares")
    def shares(self):
        return total(received(self.run, "section_1231", "adjusted_1231"))

    @line("4", "Section 1231 gain of installment sales")
    def in_parts(self):
        return nothing_because("installment sales are not made here")

    @line("5", "Section 1231 gain of like-kind exchanges")
    def exchanged(self):
        return nothing_because("like-kind exchanges are not made here")

    @line("15", "Ordinary gain of installment sales")
    def in_parts_short(self):
        return nothing_because("installment sales are not made here")

    @line("16", "Ordinary gain of like-kind exchanges")
    def exchanged_short(self):
        return nothing_because("like-kind exchanges are not made here")

    @line("8", "Nonrecaptured section 1231 losses")
    def earlier(self):
        return nothing_because("owners net it over years")

    @line("11", "Loss, if any, from line 7")
    def loss(self):
        return nothing_because("section 1231 gain or loss is passed on")

    @line("12", "Gain recaptured as ordinary income")
    def recaptured(self):
        return nothing_because("section 1231 gain or loss is passed on")

    @fact("Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def unrecaptured(self):
        """Of what was sold; owners net it with their own."""
        return total([one.unrecaptured for one in self._sold(long=True)])

    @fact("Losses that are not recaptured yet")
    def left(self):
        return nothing_because("owners net it over years")

    @fact("Ordinary gain of the business")
    def ordinary_of_trade(self):
        """Of what is used in properties that are let, Form 8825 says it."""
        let = [self.ordinary_of(paper.key) for paper in self.papers("rental")]
        return total(self.ordinary, less=let)
