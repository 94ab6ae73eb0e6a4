"""Papers of a partnership's return: what it is, its partners, and what is allocated otherwise. Form 1065; IRC 701 to 777."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Day, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.balances import BUILT_IN, NONRECOURSE, PARTNER_CAPITAL, QUALIFIED, RECOURSE
from taxcore.packs.us.entity.base import EntityPaper
from taxcore.packs.us.entity.closing import part_row
from taxcore.packs.us.entity.receipts import OwnerStateRow
from taxcore.packs.us.partnership.adjusted import HOW, BasisAdjustment

KINDS = {
    "general": "Domestic general partnership", "limited": "Domestic limited partnership",
    "llc": "Domestic limited liability company",
    "llp": "Domestic limited liability partnership", "foreign": "Foreign partnership", "other": "Other",
}  # fmt: skip
METHODS = {"cash": "Cash", "accrual": "Accrual", "other": "Other"}
OWNERS = {
    "individual": "Individual", "corporation": "Corporation", "s-corporation": "S corporation", "partnership": "Partnership",
    "trust": "Estate or trust", "exempt": "Exempt organization", "ira": "IRA or retirement plan",
}  # fmt: skip
PROPERTY = {
    "plain": "Other property", "built-in": "Contributed with built-in gain within seven years",
    "securities": "Marketable securities", "hot": "Inventory or unrealized receivables",
}  # fmt: skip
PERCENT = r"\d{1,3}(\.\d{1,7})?"
_SAYS = "A percentage from 0 to 100, such as 33.3333333."


def percent(text):
    """A percentage that is written so; nothing of what is not."""
    try:
        return Decimal(str(text) or 0)
    except ArithmeticError:
        return Decimal(0)


class About(EntityPaper):
    """What page 1 and Schedule B ask of a partnership. IRC 6031."""

    kind, name, official, group = "about", "About the partnership", "Form 1065, Schedule B", "about"
    single, always = True, True

    street = Text(None, "Street address", longest=60, needed="Page 1 asks for it.", kept=True)
    city = Text(None, "City", longest=40, needed="Page 1 asks for it.", kept=True)
    state = Choice(None, "State", STATES, needed="Page 1 asks for it.", kept=True)
    zip = Text(None, "ZIP code", pattern=r"\d{5}(-\d{4})?", longest=10, kept=True,
               pattern_says="A ZIP code has five digits, or nine as 00000-0000.", needed="Page 1 asks for it.")  # fmt: skip
    activity = Text("A", "Principal business activity", longest=60, needed="Page 1 asks for it.", kept=True)
    product = Text("B", "Principal product or service", longest=60, needed="Page 1 asks for it.", kept=True)
    code = Text("C", "Business code", pattern=r"\d{6}", pattern_says="A business code has six digits.", longest=6,
                needed="Page 1 asks for it.", kept=True)  # fmt: skip
    started = Day("E", "Date business started", needed="Page 1 asks for it.", kept=True)
    initial = Flag("G1", "Initial return")
    final = Flag("G2", "Final return")
    fiscal = Flag(None, "Fiscal year, not the calendar year", cites="IRC 441(b), (e)", kept=True)
    ended = Day(None, "Ended on", only=lambda paper: bool(paper.final), needed="When the return is due turns on it.",
                cites="IRC 443(a)(2), 6072")  # fmt: skip
    method = Choice("H", "Accounting method", METHODS, needed="Page 1 asks for it.", kept=True)
    entity_kind = Choice("B1", "Type of entity", KINDS, needed="Schedule B, line 1.", kept=True, begins="Schedule B")
    owned_half = Flag(
        "B2",
        "A partner owns 50% or more, directly or indirectly",
        kept=True,
        needed="Schedule B, line 2. Attach Schedule B-1.",
    )
    owns_others = Flag("B3", "It owns 20% of a corporation or 50% of another entity", kept=True)
    elects_out = Flag(
        "B33",
        "Elects out of the centralized audit regime",
        cites="IRC 6221(b)",
        help="Only where all partners may be: no partnerships, no trusts.",
    )
    representative = Text("B34", "Partnership representative", longest=60, cites="IRC 6223", kept=True,
                          needed="Somebody represents it unless it elects out.",
                          only=lambda paper: not paper.elects_out)  # fmt: skip
    foreign_account = Flag("B8", "Foreign account", cites="31 CFR 1010.350", kept=True)
    debt_cancelled = Flag("B6", "Debt was canceled, forgiven or modified")
    basis_adjusted = Flag("B10", "Section 754 election, or basis adjusted", cites="IRC 734, 743, 754", kept=True)
    adjusted_how = Choice("B10b", "What was adjusted", HOW, cites="IRC 734(b), 743(b)", kept=True,
                          only=lambda paper: bool(paper.basis_adjusted))  # fmt: skip
    payments_1099 = Flag("B16a", "Payments that need Form 1099", needed="Schedule B, line 16a.", kept=True)
    filed_1099 = Flag("B16b", "They were or will be filed", only=lambda paper: bool(paper.payments_1099))
    foreign_items = Flag(
        "16", "Items of international tax relevance", cites="Schedule K-2", needed="Schedule K, line 16.", kept=True
    )
    filed_in_time = Flag("B4c", "Schedules K-1 given and return filed by the due date", needed="Schedule B, line 4.")

    recourse = Amount(None, "Recourse liabilities, end of year", cites="26 CFR 1.752-1(a)(1)", begins="Liabilities by kind",
                      help="What is neither nonrecourse below is recourse.")  # fmt: skip
    nonrecourse = Amount(None, "Nonrecourse liabilities, end of year", cites="26 CFR 1.752-1(a)(2)")
    qualified = Amount(None, "Qualified nonrecourse financing, end of year", cites="IRC 465(b)(6)")


class StakeRow(Row):
    since = Day(None, "From", help="Empty: from the first day of the year.")
    profit = Text("J", "Profit, %", pattern=PERCENT, pattern_says=_SAYS, longest=12, needed="Item J asks for it.")
    loss = Text("J", "Loss, %", pattern=PERCENT, pattern_says=_SAYS, longest=12, help="If empty, as profit.")
    capital = Text("J", "Capital, %", pattern=PERCENT, pattern_says=_SAYS, longest=12, help="If empty, as profit.")

    def part(self, which):
        """A percentage as a number."""
        text = getattr(self, which) if self.is_keyed(which) and getattr(self, which) else self.profit
        return percent(text)


class Partner(EntityPaper):
    """One partner: who, with what part of everything, what came in and went out. Schedule K-1 (1065). IRC 702, 704, 706(d)."""

    kind, name, official, group = "partner", "Partner", "Schedule K-1", "owners"
    again = True
    short, heading = "Partner", "called"

    called = Text("F", "Name", longest=60, wide=True, needed="Item F asks for it.", kept=True)
    number = Text("E", "SSN or EIN", secret=True, longest=11, pattern=r"\d{3}-?\d{2}-?\d{4}|\d{2}-?\d{7}",
                  needed="Item E asks for it.", pattern_says="Nine digits, 000-00-0000 or 00-0000000.", kept=True)  # fmt: skip
    street = Text("F1", "Street address", longest=60, needed="Item F asks for it.", kept=True)
    city = Text("F2", "City", longest=40, needed="Item F asks for it.", kept=True)
    state = Choice("F3", "State", STATES, needed="Item F asks for it.", kept=True)
    zip = Text(
        "F4", "ZIP code", longest=10, pattern=r"\d{5}(-\d{4})?", pattern_says="A ZIP code has five digits, or nine.", kept=True
    )
    sort = Choice("I1", "What type of entity is it", OWNERS, needed="Item I1 asks for it.", kept=True)
    general = Flag("G", "General partner or LLC member-manager", kept=True, needed="Item G asks for it.", cites="IRC 1402(a)(13)")
    active = Flag(None, "Takes part in the business: share of it is self-employment income", cites="IRC 1402(a)(13)", kept=True,
                  help="If empty, as item G.")  # fmt: skip
    stakes = Rows("J", "Shares", StakeRow, kept=True)

    services = Amount(
        "4a", "Guaranteed payments for services", cites="IRC 707(c)", begins="Payments, contributions, distributions"
    )
    for_capital = Amount("4b", "Guaranteed payments for capital", cites="IRC 707(c)")
    health_insurance = Amount(None, "Of them, health insurance", cites="Rev. Rul. 91-26")
    contributed = Amount("L", "Cash contributed")
    contributed_property = Amount("L2", "Property contributed, adjusted basis", cites="IRC 723")
    built_in = Flag("M", "It had built-in gain or loss", cites="IRC 704(c)", only=lambda paper: bool(paper.contributed_property))
    distributed = Amount("19A", "Cash and marketable securities distributed", cites="IRC 731")
    distributed_property = Amount("19C", "Other property distributed, adjusted basis", cites="IRC 732")
    distributed_as = Choice(None, "Kind of property distributed", PROPERTY, wide=True,
                            only=lambda paper: bool(paper.distributed_property),
                            needed="Gain may have to be recognized.",
                            cites="IRC 704(c)(1)(B), 731(c), 737, 751(b)")  # fmt: skip

    capital_before = Amount(
        "L0", "Capital when the year began, tax basis", negative=True, opens=PARTNER_CAPITAL, begins="Capital and liabilities"
    )
    capital_other = Amount(
        "L4", "Other increase or decrease of capital", negative=True, help="Transfers of an interest, section 734(b)."
    )
    built_in_before = Amount("N1", "Section 704(c) gain or loss, beginning", negative=True, opens=BUILT_IN)
    built_in_after = Amount("N2", "Section 704(c) gain or loss, ending", negative=True, cites="IRC 704(c)",
                            help="Net, as far as it is not recognized yet.")  # fmt: skip
    nonrecourse_before = Amount("K1", "Nonrecourse liabilities when the year began", opens=NONRECOURSE)
    qualified_before = Amount("K2", "Qualified nonrecourse financing when the year began", opens=QUALIFIED)
    recourse_before = Amount("K3", "Recourse liabilities when the year began", opens=RECOURSE)

    states = Rows(None, "Other states", OwnerStateRow)

    @active.when_empty
    def _active(self):
        return bool(self.general)

    def weight(self, which):
        """Days of the year by the percentage that held on each: changes count from their day. IRC 706(d)(1); 26 CFR 1.706-4."""
        period, found = self.run.period, Decimal(0)
        rows = sorted(self.stakes, key=lambda row: row.since or period.start)
        for place, row in enumerate(rows):
            first = max(row.since or period.start, period.start)
            ends = rows[place + 1].since if place + 1 < len(rows) else None
            days = ((ends - first).days if ends else (period.end - first).days + 1) if first <= period.end else 0
            found += row.part(which) * max(days, 0)
        return found

    def at(self, which, end):
        """The percentage on the first or the last day."""
        return self.held_on(which, self.run.period.end if end else self.run.period.start)

    def held_on(self, which, day):
        """The percentage on a day."""
        start = self.run.period.start
        held = [row for row in sorted(self.stakes, key=lambda row: row.since or start) if (row.since or start) <= day]
        return held[-1].part(which) if held else Decimal(0)

    def comes_again(self):
        return True


ITEMS = {
    "1": "Ordinary business income (loss)", "2": "Net rental real estate income (loss)", "5": "Interest income",
    "6a": "Ordinary dividends",
    "6b": "Qualified dividends", "7": "Royalties", "8": "Net short-term capital gain (loss)",
    "9a": "Net long-term capital gain (loss)",
    "9c": "Unrecaptured section 1250 gain", "10": "Net section 1231 gain (loss)", "11": "Other income (loss)",
    "12": "Section 179 deduction",
    "13a": "Contributions", "13b": "Investment interest expense", "13d": "Other deductions", "18a": "Tax-exempt interest",
    "18c": "Nondeductible expenses", "21": "Foreign taxes",
}  # fmt: skip


class AllocationRow(Row):
    partner = Refer(None, "Partner", ("partner",), needed="Choose whose part it is.")
    part = Text(None, "Part, %", pattern=PERCENT, pattern_says=_SAYS, longest=12, needed="Enter it.")


class Allocation(EntityPaper):
    """An item that the agreement divides otherwise. IRC 704(a), (b); 26 CFR 1.704-1(b)(2)."""

    kind, name, official, group = "allocation", "Special allocation", "IRC 704(b)", "owners"
    again = True
    short, heading = "Special allocation", "item"

    item = Choice(None, "Item of Schedule K", ITEMS, needed="Choose what is divided otherwise.", kept=True)
    rows = Rows(None, "Parts", AllocationRow, kept=True)

    def comes_again(self):
        return True


_704C = {"traditional": "Traditional", "curative": "Traditional with curative allocations", "remedial": "Remedial"}


class MovedRow(Row):
    partner = Refer(None, "Partner", ("partner",), needed="Choose the partner.")
    amount = Amount(None, "Amount", negative=True, help="The amounts of all partners add up to zero.")


class BuiltIn(EntityPaper):
    """What a contribution with built-in gain or loss moves among the partners: depreciation or gain of one property, as its
    method says. IRC 704(c)(1)(A); 26 CFR 1.704-3."""

    kind, name, official, group = "built-in", "Section 704(c) allocation", "26 CFR 1.704-3", "owners"
    again = True
    short, heading = "Section 704(c) allocation", "property"

    property = Text(None, "Property", longest=60, needed="Name what was contributed.", kept=True)
    method = Choice(None, "Method", _704C, needed="Each property keeps its method.", kept=True)
    item = Choice(None, "Item of Schedule K", ITEMS, wide=True, needed="Choose what is reallocated.", kept=True)
    rows = Rows(None, "Reallocated", MovedRow)

    def comes_again(self):
        return True


class Closing(EntityPaper):
    """Items that go by parts of the year, because interests changed in it. 26 CFR 1.706-4(a)(3), (c)."""

    kind, name, official, group = "closing", "Closing of the books", "26 CFR 1.706-4", "owners"
    single = True

    rows = Rows(None, "Parts of the year", part_row(ITEMS), help="The last part is what is left of the item.")


class MoreItems(EntityPaper):
    """What Schedule K has and no account says. IRC 702(a)."""

    kind, name, official, group = "more-items", "Other items of Schedule K", "Schedule K", "books"
    single = True

    qualified_dividends = Amount("6b", "Qualified dividends", cites="IRC 1(h)(11)")
    collectibles = Amount("9b", "Collectibles (28%) gain or loss", negative=True)
    gross_nonfarm = Amount("14c", "Gross nonfarm income", help="If empty, gross profit.")


PAPERS = (About, Partner, Allocation, MoreItems, Closing, BuiltIn, BasisAdjustment)
