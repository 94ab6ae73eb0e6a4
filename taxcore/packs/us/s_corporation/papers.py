"""Papers of an S corporation's return: what it is, who holds its shares, who runs it. Form 1120-S; IRC 1361 to 1379."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.balances import ADJUSTMENTS, EARNINGS, OTHER_ADJUSTMENTS
from taxcore.packs.us.entity.base import EntityPaper
from taxcore.packs.us.entity.closing import part_row
from taxcore.packs.us.entity.receipts import OwnerStateRow

METHODS = {"cash": "Cash", "accrual": "Accrual", "other": "Other"}
OWNERS = {
    "individual": "Individual", "estate": "Estate", "trust": "Trust that may hold shares", "exempt": "Exempt organization",
    "corporation": "Corporation", "partnership": "Partnership",
}  # fmt: skip
BARRED = ("corporation", "partnership")  # IRC 1361(b)(1)(B)
_SAYS = "A ZIP code has five digits, or nine as 00000-0000."


class About(EntityPaper):
    """What page 1 and Schedule B ask of an S corporation. IRC 1362, 6037."""

    kind, name, official, group = "about", "About the corporation", "Form 1120-S, Schedule B", "about"
    single, always = True, True

    street = Text(None, "Street address", longest=60, needed="Page 1 asks for it.", kept=True)
    city = Text(None, "City", longest=40, needed="Page 1 asks for it.", kept=True)
    state = Choice(None, "State", STATES, needed="Page 1 asks for it.", kept=True)
    zip = Text(
        None, "ZIP code", pattern=r"\d{5}(-\d{4})?", pattern_says=_SAYS, longest=10, needed="Page 1 asks for it.", kept=True
    )
    elected = Day("A", "S election effective", needed="Page 1 asks for it.", cites="IRC 1362(b)", kept=True)
    code = Text("B", "Business code", pattern=r"\d{6}", pattern_says="A business code has six digits.", longest=6,
                needed="Page 1 asks for it.", kept=True)  # fmt: skip
    incorporated = Day("E", "Date incorporated", needed="Page 1 asks for it.", kept=True)
    initial = Flag("H1", "Initial return")
    final = Flag("H2", "Final return")
    fiscal = Flag(None, "Fiscal year, not the calendar year", cites="IRC 441(b), (e)", kept=True)
    ended = Day(None, "Ended on", only=lambda paper: bool(paper.final), needed="When the return is due turns on it.",
                cites="IRC 443(a)(2), 6072")  # fmt: skip
    method = Choice("B1", "Accounting method", METHODS, needed="Schedule B, line 1.", kept=True, begins="Schedule B")
    activity = Text("B2a", "Business activity", longest=60, needed="Schedule B, line 2.", kept=True)
    product = Text("B2b", "Product or service", longest=60, needed="Schedule B, line 2.", kept=True)
    nominee = Flag("B3", "A shareholder is a nominee, a trust or another entity", kept=True)
    restricted = Flag("B5", "Restricted stock, options or warrants", kept=True)
    was_other = Flag("B8", "Was a C corporation, with net unrealized built-in gain left", cites="IRC 1374", kept=True)
    debt_cancelled = Flag("B12", "Debt was canceled, forgiven or modified")
    subsidiary = Flag("B13", "A qualified subsidiary election", cites="IRC 1361(b)(3)", kept=True)
    payments_1099 = Flag("B14a", "Payments that need Form 1099", needed="Schedule B, line 14a.", kept=True)
    filed_1099 = Flag("B14b", "They were or will be filed", only=lambda paper: bool(paper.payments_1099))
    foreign_items = Flag(
        "14", "Items of international tax relevance", cites="Schedule K-2", needed="Schedule K, line 14.", kept=True
    )
    filed_in_time = Flag(None, "Filed, and Schedules K-1 given, by the due date", needed="The penalty turns on it.")

    adjustments_before = Amount("M2", "Accumulated adjustments account when the year began", negative=True, opens=ADJUSTMENTS,
                                cites="IRC 1368(e)(1)", begins="Accounts of Schedule M-2")  # fmt: skip
    earnings_before = Amount(None, "Earnings and profits of C corporation years", opens=EARNINGS, cites="IRC 1368(c)(2)")
    other_before = Amount(None, "Other adjustments account when the year began", negative=True, opens=OTHER_ADJUSTMENTS)


class HoldingRow(Row):
    since = Day(None, "From", help="Empty: from the first day of the year.")
    shares = Count("H", "Shares held", most=999_999_999, needed="The part follows from it.")


class Shareholder(EntityPaper):
    """One shareholder: shares from day to day, and what was distributed. Schedule K-1 (1120-S). IRC 1366, 1377(a)(1)."""

    kind, name, official, group = "shareholder", "Shareholder", "Schedule K-1", "owners"
    again = True
    short, heading = "Shareholder", "called"

    called = Text("F", "Name", longest=60, wide=True, needed="Item F asks for it.", kept=True)
    number = Text("E", "SSN or EIN", secret=True, longest=11, pattern=r"\d{3}-?\d{2}-?\d{4}|\d{2}-?\d{7}",
                  needed="Item E asks for it.", pattern_says="Nine digits, 000-00-0000 or 00-0000000.", kept=True)  # fmt: skip
    street = Text("F1", "Street address", longest=60, needed="Item F asks for it.", kept=True)
    city = Text("F2", "City", longest=40, needed="Item F asks for it.", kept=True)
    state = Choice("F3", "State", STATES, needed="Item F asks for it.", kept=True)
    zip = Text("F4", "ZIP code", longest=10, pattern=r"\d{5}(-\d{4})?", pattern_says=_SAYS, kept=True)
    sort = Choice(None, "What it is", OWNERS, needed="Not everybody may hold shares.", cites="IRC 1361(b)(1)", kept=True)
    alien = Flag(None, "Nonresident alien", cites="IRC 1361(b)(1)(C)", kept=True)
    officer = Flag(None, "Works for the corporation", cites="IRC 3121(d)(1)", kept=True)
    stakes = Rows("G", "Shares", HoldingRow, kept=True)

    distributed = Amount("16D", "Distributions", cites="IRC 1368", begins="Distributions and insurance")
    contributed = Amount(None, "Capital contributed", cites="IRC 1367(a)")
    health_insurance = Amount(None, "Health insurance included in wages", cites="Rev. Rul. 91-26; Notice 2008-1",
                              help="Of whoever holds more than 2%.")  # fmt: skip
    states = Rows(None, "Other states", OwnerStateRow)

    def rows_by_day(self):
        start = self.run.period.start
        return sorted(self.stakes, key=lambda row: row.since or start)

    def weight(self):
        """Shares by days: each share has the same of every day. IRC 1377(a)(1)."""
        period, found, rows = self.run.period, Decimal(0), self.rows_by_day()
        for place, row in enumerate(rows):
            first = max(row.since or period.start, period.start)
            ends = rows[place + 1].since if place + 1 < len(rows) else None
            days = ((ends - first).days if ends else (period.end - first).days + 1) if first <= period.end else 0
            found += Decimal(row.shares or 0) * max(days, 0)
        return found

    def at(self, end):
        """Shares on the first or the last day."""
        return self.held_on(self.run.period.end if end else self.run.period.start)

    def held_on(self, day):
        """Shares on a day."""
        held = [row for row in self.rows_by_day() if (row.since or self.run.period.start) <= day]
        return Decimal(held[-1].shares or 0) if held else Decimal(0)

    def comes_again(self):
        return True


ITEMS = {
    "1": "Ordinary business income (loss)", "2": "Net rental real estate income (loss)", "4": "Interest income",
    "5a": "Ordinary dividends", "5b": "Qualified dividends", "6": "Royalties", "7": "Net short-term capital gain (loss)",
    "8a": "Net long-term capital gain (loss)", "8c": "Unrecaptured section 1250 gain", "9": "Net section 1231 gain (loss)",
    "11": "Section 179 deduction", "12a": "Contributions", "12b": "Investment interest expense", "12d": "Other deductions",
    "14": "Foreign taxes", "16a": "Tax-exempt interest", "16c": "Nondeductible expenses",
}  # fmt: skip


class Closing(EntityPaper):
    """Items that go by parts of the year, because a shareholder's interest ended in it and all agreed. IRC 1377(a)(2)."""

    kind, name, official, group = "closing", "Closing of the books", "IRC 1377(a)(2)", "owners"
    single = True

    agreed = Flag(None, "All affected shareholders and the corporation agreed", cites="26 CFR 1.1377-1(b)(5)",
                  help="The election goes with the return as an attachment.")  # fmt: skip
    rows = Rows(None, "Parts of the year", part_row(ITEMS), help="The last part is what is left of the item.")


class Officer(EntityPaper):
    """One officer's compensation. Form 1125-E; IRC 162(a)(1)."""

    kind, name, official, group = "officer", "Officer", "Form 1125-E", "owners"
    again = True
    short, heading, main = "Officer", "called", "pay"

    called = Text("a", "Name", longest=60, needed="Form 1125-E asks for it.", kept=True)
    number = Text("b", "SSN", secret=True, longest=11, pattern=r"\d{3}-?\d{2}-?\d{4}", pattern_says="Nine digits, 000-00-0000.",
                  needed="Form 1125-E asks for it.", kept=True)  # fmt: skip
    time = Count("c", "Time devoted, %", most=100, kept=True)
    stock = Count("d", "Common stock owned, %", most=100, kept=True)
    pay = Amount("f", "Compensation")


class MoreItems(EntityPaper):
    """What Schedule K has and no account says. IRC 1366(a)(1)."""

    kind, name, official, group = "more-items", "Other items of Schedule K", "Schedule K", "books"
    single = True

    qualified_dividends = Amount("5b", "Qualified dividends", cites="IRC 1(h)(11)")
    collectibles = Amount("8b", "Collectibles (28%) gain or loss", negative=True)


PAPERS = (About, Shareholder, Officer, MoreItems, Closing)
