"""Dividends and sales of securities and digital assets: Forms 1099-DIV, 1099-B, 1099-DA. IRC 6042, 6045."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Day, Flag, Row, Rows, Text, total
from taxcore.packs.us.balances import LONG_LOSS, SHORT_LOSS
from taxcore.packs.us.base import STATES, FederalPaper, Placed
from taxcore.packs.us.papers.statements import PayersStatement, state_rows

EXCLUSIONS = {"100": "100%", "75": "75%", "60": "60%", "50": "50%"}


class DividendStatement(PayersStatement):
    """Dividends and distributions. IRC 301, 852(b)(3), 1(h)(11), 199A(b)(1)(B)."""

    placed = Placed("dividends", also=("capital_gain",))
    kind, name, official, group = "1099-div", "Dividends and distributions", "1099-DIV", "income"
    again = True
    short = "Dividends"
    main, joint_owner = "dividends", True

    dividends = Amount("1a", "Total ordinary dividends")
    qualified = Amount("1b", "Qualified dividends", cites="IRC 1(h)(11)")
    capital_gain = Amount("2a", "Total capital gain distributions", cites="IRC 852(b)(3)")
    unrecaptured = Amount("2b", "Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    small_business = Amount("2c", "Section 1202 gain", cites="IRC 1202")
    small_business_part = Choice(
        None, "Section 1202 exclusion", EXCLUSIONS, cites="IRC 1202(a)",
        needed="The fund's statement says it: 100% of stock bought after September 27, 2010.",
        only=lambda paper: bool(paper.small_business),
    )  # fmt: skip
    collectibles = Amount("2d", "Collectibles (28%) gain", cites="IRC 1(h)(5)")
    property_dividends = Amount("2e", "Section 897 ordinary dividends")
    property_gain = Amount("2f", "Section 897 capital gain")
    return_of_capital = Amount("3", "Nondividend distributions", cites="IRC 301(c)(2)",
                               help="They reduce the basis of the shares and are not taxed until it is used up.")  # fmt: skip
    withheld = Amount("4", "Federal income tax withheld")
    trust_dividends = Amount("5", "Section 199A dividends", cites="IRC 199A(b)(1)(B)")
    investment_expenses = Amount("6", "Investment expenses", help="Not deductible for 2018 and later.")
    foreign_tax = Amount("7", "Foreign tax paid")
    foreign_country = Text("8", "Foreign country", longest=40)
    foreign_income = Amount(None, "Foreign source dividends", help="From the payer's supplement; for Form 1116.")
    cash_liquidation = Amount("9", "Cash liquidation distributions")
    other_liquidation = Amount("10", "Noncash liquidation distributions")
    exempt_interest = Amount("12", "Exempt-interest dividends", cites="IRC 852(b)(5)")
    private_activity = Amount("13", "Specified private activity bond interest dividends", cites="IRC 57(a)(5)")
    government_interest = Amount(None, "Of box 1a, U.S. obligations", cites="31 USC 3124", help="From the payer's supplement.")
    home_bonds = Amount(None, "Of box 12, bonds of the home state", help="From the payer's supplement.")
    not_the_owners = Amount(None, "Nominee amount")
    states = state_rows("14 to 16")


# What Form 8949 asks of a sale: how long it was held, and what the broker told the authority
SECURITIES = {
    "A": "Short-term, basis reported",
    "B": "Short-term, basis not reported",
    "C": "Short-term, not on a 1099-B",
    "D": "Long-term, basis reported",
    "E": "Long-term, basis not reported",
    "F": "Long-term, not on a 1099-B",
}
DIGITAL = {
    "G": "Digital asset, short-term, basis reported",
    "H": "Digital asset, short-term, basis not reported",
    "I": "Digital asset, short-term, not on a 1099-DA",
    "J": "Digital asset, long-term, basis reported",
    "K": "Digital asset, long-term, basis not reported",
    "L": "Digital asset, long-term, not on a 1099-DA",
}
SHORT, LONG = frozenset("ABCGHI"), frozenset("DEFJKL")

ADJUSTMENTS = {
    "B": "Basis on the statement is wrong",
    "C": "Collectible",
    "D": "Market discount is income",
    "E": "Selling expense not on the statement",
    "H": "Gain on the main home left out",
    "L": "Loss that does not count",
    "M": "Several sales in one row",
    "N": "Received for somebody else",
    "O": "Another adjustment",
    "Q": "Qualified small business stock left out",
    "R": "Rollover of gain",
    "S": "Loss on small business stock",
    "T": "Type of gain on the statement is wrong",
    "W": "Wash sale",
    "X": "DC zone or renewal community asset",
    "Y": "Deferred gain now taxed",
    "Z": "Gain deferred into an opportunity fund",
}


class SaleRow(Row):
    """One sale. The adjustment is added to proceeds less basis: positive for a loss not allowed, negative for gain left out.

    Code C makes a long-term gain one of collectibles. IRC 1(h)(5).
    """

    known_as = {
        "box": ("form 8949 code", "8949 box", "applicable checkbox"),
        "description": ("security", "security name", "description of property", "symbol", "what was sold", "asset"),
        "acquired": ("date acquired", "open date", "purchase date", "bought"),
        "sold": ("date sold", "close date", "sale date", "date of sale", "disposed"),
        "proceeds": ("gross proceeds", "sales price", "proceeds", "amount received"),
        "basis": ("cost basis", "cost or other basis", "adjusted basis", "cost", "purchase price"),
        "code": ("adjustment code", "code"),
        "adjustment": ("adjustment amount", "amount of adjustment", "adjustment"),
        "wash_sale": ("wash sale loss disallowed", "disallowed loss", "wash sale"),
        "term": ("term", "holding period", "long or short", "gain type"),
        "reported": ("basis reported", "covered", "basis reported to irs"),
    }
    also_read = {
        "wash_sale": Amount(None, "Wash sale loss not allowed"),
        "term": Choice(None, "Long or short", {"short": "Short", "long": "Long"}),
        "reported": Flag(None, "Basis was reported"),
    }

    box = Choice(None, "Box", SECURITIES | DIGITAL, needed="Choose the holding period and how basis was reported.")
    description = Text("1a", "Description of property", longest=60)
    acquired = Text("1b", "Date acquired", longest=12, help="A date, VARIOUS or INHERITED.")
    sold = Day("1c", "Date sold")
    proceeds = Amount("1d", "Proceeds")
    basis = Amount("1e", "Cost or other basis")
    code = Choice("f", "Adjustment code", ADJUSTMENTS)
    adjustment = Amount("g", "Adjustment amount", negative=True, cites="IRC 1091")

    adjusts = ("adjustment",)

    def gain(self):
        """As Form 8949 has it in column h."""
        return total(self.proceeds, [getattr(self, name) for name in self.adjusts], less=self.basis)

    @classmethod
    def take_in(cls, values):
        """The box follows from how long it was held and whether the basis was reported; a wash sale is adjustment W."""
        taken = super().take_in(values)
        if not taken.get("box") and values.get("term"):
            reported = values.get("reported", "yes") != "no"
            taken["box"] = {("short", True): "A", ("short", False): "B", ("long", True): "D", ("long", False): "E"}[
                values["term"], reported
            ]
        wash = values.get("wash_sale", "")
        if wash and Decimal(wash) and not taken.get("adjustment"):
            taken |= {"code": "W", "adjustment": wash}
        return taken


class SummaryRow(Row):
    """All sales of one box together, as the broker adds them up. Rows with adjustments need the broker's list attached."""

    box = Choice(None, "Box", SECURITIES | DIGITAL, needed="Choose the Form 8949 box of these totals.")
    proceeds = Amount("1d", "Proceeds")
    basis = Amount("1e", "Cost or other basis")
    wash_sales = Amount("1g", "Wash sale loss disallowed", cites="IRC 1091")
    other_adjustment = Amount("g", "Other adjustment", negative=True)
    collectible = Amount(None, "Collectibles gain included", cites="IRC 1(h)(5)", negative=True)
    adjusts = ("wash_sales", "other_adjustment")
    gain = SaleRow.gain


class _Sales(PayersStatement):
    placed = Placed()
    joint_owner, group = True, "income"
    withheld = Amount("4", "Federal income tax withheld")
    summaries = Rows(None, "Summary totals by Form 8949 box", SummaryRow)
    sales = Rows(None, "Transactions", SaleRow)


class BrokerStatement(_Sales):
    """Sales of securities through one broker. IRC 6045(g)."""

    kind, name, official, short = "1099-b", "Broker sales", "1099-B", "Sales"
    again = True
    stands_for = "summaries"
    situated = Choice(None, "Real estate located in", STATES,
                      help="That state taxes the gain wherever the seller lives.")  # fmt: skip
    contracts = Amount("11", "Profit or (loss) on regulated futures contracts", negative=True, cites="IRC 1256")
    states = state_rows("14 to 16")


class DigitalAssetStatement(_Sales):
    """Sales of digital assets; the statement exists since 2025, the sales were taxed before. IRC 6045(g)(3)(D)."""

    kind, name, official, short = "1099-da", "Digital asset proceeds", "1099-DA", "Digital assets"
    again = True
    stands_for = "summaries"
    since = 2025


class CapitalCarryover(FederalPaper):
    """What last year's Schedule D left. IRC 1212(b)."""

    kind, name, official, group = "capital-carryover", "Capital loss carryover", "Schedule D, prior year", "income"
    single, owned = True, False

    short_term = Amount(
        "6",
        "Short-term loss carryover from prior year",
        help="From last year's carryover worksheet, as a positive amount.",
        opens=SHORT_LOSS,
    )
    long_term = Amount(
        "14",
        "Long-term loss carryover from prior year",
        help="From last year's carryover worksheet, as a positive amount.",
        opens=LONG_LOSS,
    )
    other_short = Amount("4", "Other short-term gain or loss", negative=True, help="Forms 6252, 4684, 6781, 8824.")
    other_long = Amount("11", "Other long-term gain or loss", negative=True, help="Forms 2439, 6252, 4684, 6781, 8824.")
    unrecaptured = Amount("19", "Unrecaptured section 1250 gain from other sources", cites="IRC 1(h)(6)")
