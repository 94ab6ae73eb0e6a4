"""Schedule D and Form 8949: gains and losses on property held for investment. IRC 1001, 1091, 1211, 1212, 1221, 1222."""

from taxcore.engine import ZERO, excess, fact, least, line, linked, nothing_because, total, whole
from taxcore.engine.forms import Line
from taxcore.packs.us.balances import LONG_LOSS, SHORT_LOSS
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import AboveBasis, above_basis, of_share
from taxcore.packs.us.basis.papers import BASES
from taxcore.packs.us.papers.investments import DIGITAL, LONG, SECURITIES
from taxcore.packs.us.papers.shares import KINDS as SHARES
from taxcore.packs.us.property.exchanges import exchanged_gains
from taxcore.packs.us.property.homes import reported
from taxcore.packs.us.property.installments import gains

_BOXES = tuple(SECURITIES | DIGITAL)
_STATEMENTS = ("1099-b", "1099-da")


def _statement_rows(run):
    """Every sale and every total, of all brokers; homes."""
    yield from reported(run)
    yield from above_basis(run)
    yield from _excluded_of_funds(run)
    for kind in _STATEMENTS:
        for paper in run.papers(kind):
            yield from paper.summaries
            yield from paper.sales


def _excluded_of_funds(run):
    """Form 8949, code Q: gain of small business stock that a fund passed on, all of it left out. IRC 1202(a)(4)."""
    papers = [paper for paper in run.papers("1099-div") if paper.small_business and paper.small_business_part == "100"]
    return [AboveBasis(ZERO, "F", adjustment=-least(paper.small_business, paper.capital_gain)) for paper in papers]


def is_plain(row):
    """Basis reported and nothing to adjust: it may go straight to Schedule D."""
    return row.box in ("A", "D", "G", "J") and not adjustment_of(row) and not (row.is_keyed("code") and row.code)


def adjustment_of(row):
    """Column g, however the row gives it. What nobody entered is not read: most of thousands of rows have none."""
    names = [name for name in ("adjustment", "wash_sales", "other_adjustment") if row.is_keyed(name)]
    return sum((getattr(row, name) for name in names), ZERO)


class Sales(FederalForm):
    """Form 8949, one for each box. Columns d to h; the rows are the brokers' papers. IRC 1001."""

    number, name, per = "8949", "Sales and other dispositions of capital assets", "box"
    schedule = linked("us.sch-d")

    @classmethod
    def keys(cls, run):
        if run.is_idle("us.sch-d"):
            return []
        used = {box for box, _ in run.form("us.sch-d").rows_by_box}
        return [box for box in _BOXES if box in used]

    def required(self):
        return bool(self._mine())

    def _mine(self):
        return self.schedule.rows_by_box.get((self.key, False), [])

    @line("d", "Proceeds")
    def proceeds(self):
        return total([row.proceeds for row in self._mine()])

    @line("e", "Cost or other basis")
    def basis(self):
        return total([row.basis for row in self._mine()])

    @line("g", "Adjustments")
    def adjustments(self):
        return total([adjustment_of(row) for row in self._mine()])

    @line("h", "Gain or loss", weight="total")
    def gain(self):
        return total(self.proceeds, self.adjustments, less=self.basis)


def _plain_column(number, boxes, name, label):
    """One column of Schedule D line 1a or 8a."""

    def column(form):
        rows = form.rows_by_box
        return total([getattr(row, name) for box in boxes for row in rows.get((box, True), [])])

    return Line(f"{number}-{label[0]}", label[1], column)


def _boxes_column(number, boxes, name, label):
    """One column of the lines that come from Form 8949."""

    def column(form):
        used = [box for box in boxes if (box, False) in form.rows_by_box]
        return total([getattr(form.run.form("us.8949", box), name) for box in used])

    return Line(f"{number}-{label[0]}", label[1], column)


def _gain(number, proceeds, basis, adjustments, label):
    def column(form):
        added = [getattr(form, adjustments)] if adjustments else []
        return total(getattr(form, proceeds), added, less=getattr(form, basis))

    return Line(f"{number}-h", label, column)


class CapitalGains(FederalForm):
    """Schedule D. Short-term: lines 1 to 7; long-term: 8 to 15; together: 16 to 21. IRC 1211, 1222."""

    number, name = "Schedule D", "Capital gains and losses"
    needs = (
        *_STATEMENTS,
        "1099-div",
        "capital-carryover",
        "asset",
        "installment",
        "exchange",
        "casualty",
        "home-sale",
        *BASES,
        *SHARES,
    )
    income = linked("us.1040")

    def required(self):
        if any(self.papers(kind) for kind in _STATEMENTS) or reported(self.run) or above_basis(self.run):
            return True
        held = (self.short_carried, self.long_carried, self.other_short, self.other_long, self.short_shares, self.long_shares)
        return any(held) or self.unrecaptured > 0 or self.collectibles != 0

    @fact("Sales by Form 8949 box")
    def rows_by_box(self):
        """{(box, plain): rows}, sorted once for all columns."""
        found = {}
        for row in _statement_rows(self.run):
            if row.box:
                found.setdefault((row.box, is_plain(row)), []).append(row)
        return found

    short_plain_proceeds = _plain_column("1a", "AG", "proceeds", ("d", "Proceeds, no adjustments"))
    short_plain_basis = _plain_column("1a", "AG", "basis", ("e", "Cost or other basis, no adjustments"))
    short_plain = _gain("1a", "short_plain_proceeds", "short_plain_basis", "", "Short-term gain or (loss), no adjustments")
    short_a_proceeds = _boxes_column("1b", "AG", "proceeds", ("d", "Proceeds, box A or G"))
    short_a_basis = _boxes_column("1b", "AG", "basis", ("e", "Basis, box A or G"))
    short_a_adjusted = _boxes_column("1b", "AG", "adjustments", ("g", "Adjustments, box A or G"))
    short_a = _gain("1b", "short_a_proceeds", "short_a_basis", "short_a_adjusted", "Short-term, box A or G")
    short_b_proceeds = _boxes_column("2", "BH", "proceeds", ("d", "Proceeds, box B or H"))
    short_b_basis = _boxes_column("2", "BH", "basis", ("e", "Basis, box B or H"))
    short_b_adjusted = _boxes_column("2", "BH", "adjustments", ("g", "Adjustments, box B or H"))
    short_b = _gain("2", "short_b_proceeds", "short_b_basis", "short_b_adjusted", "Short-term, box B or H")
    short_c_proceeds = _boxes_column("3", "CI", "proceeds", ("d", "Proceeds, box C or I"))
    short_c_basis = _boxes_column("3", "CI", "basis", ("e", "Basis, box C or I"))
    short_c_adjusted = _boxes_column("3", "CI", "adjustments", ("g", "Adjustments, box C or I"))
    short_c = _gain("3", "short_c_proceeds", "short_c_basis", "short_c_adjusted", "Short-term, box C or I")

    @line("4", "Short-term gain or (loss), other forms")
    def other_short(self):
        parts = [
            self.brought("us.4684", "short_gain"),
            *gains(self.run, long=False, capital=True),
            *exchanged_gains(self.run, long=False, capital=True),
        ]
        return total(self.paper("capital-carryover").other_short, self.brought("us.6781", "short_term"), parts)

    @line("5", "Net short-term gain or (loss), K-1s")
    def short_shares(self):
        ended = [paper.final_short for paper in self.papers("k1-1041")]
        return total([of_share(share, "short_gain") for kind in SHARES for share in self.papers(kind)], less=ended)

    @line("6", "Short-term capital loss carryover", cites="IRC 1212(b)")
    def short_carried(self):
        return total(less=self.paper("capital-carryover").short_term)

    @line("7", "Net short-term capital gain or (loss)", weight="total")
    def short_term(self):
        gains = (self.short_plain, self.short_a, self.short_b, self.short_c, self.other_short, self.short_shares)
        return total(gains, self.short_carried)

    long_plain_proceeds = _plain_column("8a", "DJ", "proceeds", ("d", "Proceeds, no adjustments"))
    long_plain_basis = _plain_column("8a", "DJ", "basis", ("e", "Cost or other basis, no adjustments"))
    long_plain = _gain("8a", "long_plain_proceeds", "long_plain_basis", "", "Long-term gain or (loss), no adjustments")
    long_d_proceeds = _boxes_column("8b", "DJ", "proceeds", ("d", "Proceeds, box D or J"))
    long_d_basis = _boxes_column("8b", "DJ", "basis", ("e", "Basis, box D or J"))
    long_d_adjusted = _boxes_column("8b", "DJ", "adjustments", ("g", "Adjustments, box D or J"))
    long_d = _gain("8b", "long_d_proceeds", "long_d_basis", "long_d_adjusted", "Long-term, box D or J")
    long_e_proceeds = _boxes_column("9", "EK", "proceeds", ("d", "Proceeds, box E or K"))
    long_e_basis = _boxes_column("9", "EK", "basis", ("e", "Basis, box E or K"))
    long_e_adjusted = _boxes_column("9", "EK", "adjustments", ("g", "Adjustments, box E or K"))
    long_e = _gain("9", "long_e_proceeds", "long_e_basis", "long_e_adjusted", "Long-term, box E or K")
    long_f_proceeds = _boxes_column("10", "FL", "proceeds", ("d", "Proceeds, box F or L"))
    long_f_basis = _boxes_column("10", "FL", "basis", ("e", "Basis, box F or L"))
    long_f_adjusted = _boxes_column("10", "FL", "adjustments", ("g", "Adjustments, box F or L"))
    long_f = _gain("10", "long_f_proceeds", "long_f_basis", "long_f_adjusted", "Long-term, box F or L")

    @line("11", "Long-term gain or (loss), other forms")
    def other_long(self):
        others = (self.brought("us.4797", "long_gain"), self.brought("us.6781", "long_term"))
        parts = [
            self.brought("us.4684", "long_gain"),
            *gains(self.run, long=True, capital=True),
            *exchanged_gains(self.run, long=True, capital=True),
        ]
        return total(self.paper("capital-carryover").other_long, others, parts)

    @line("12", "Net long-term gain or (loss), K-1s")
    def long_shares(self):
        ended = [paper.final_long for paper in self.papers("k1-1041")]
        return total([of_share(share, "long_gain") for kind in SHARES for share in self.papers(kind)], less=ended)

    @line("13", "Capital gain distributions")
    def distributions(self):
        return total([paper.capital_gain for paper in self.papers("1099-div")])

    @line("14", "Long-term capital loss carryover", cites="IRC 1212(b)")
    def long_carried(self):
        return total(less=self.paper("capital-carryover").long_term)

    @line("15", "Net long-term capital gain or (loss)", weight="total")
    def long_term(self):
        gains = (self.long_plain, self.long_d, self.long_e, self.long_f, self.other_long, self.long_shares)
        return total(gains, self.distributions, self.long_carried)

    @line("16", "Total capital gain or (loss)", weight="total")
    def together(self):
        return total(self.short_term, self.long_term)

    @fact("Lines 15 and 16 are both gains")
    def is_gain(self):
        return self.long_term > 0 and self.together > 0

    @line("18", "28% rate gain", cites="IRC 1(h)(4)")
    def collectibles_gain(self):
        """The 28% worksheet: collectibles, less short-term loss and long-term loss carried over from last year."""
        if not self.is_gain:
            return nothing_because("no long-term gain remains")
        losses = least(total(self.short_term), 0)
        return excess(total(self.collectibles, losses, self.long_carried), over=0)

    @fact("Collectibles gain before losses")
    def collectibles(self):
        shares = [share.collectibles for kind in SHARES for share in self.papers(kind)]
        sales = [self._collectible_in(row) for row in _statement_rows(self.run) if row.box in LONG]
        return total(sales, [paper.collectibles for paper in self.papers("1099-div")], shares)

    @staticmethod
    def _collectible_in(row):
        """What a row's totals say of it; of a single sale all its gain, where its code is C."""
        if "collectible" in row.specs:
            return row.collectible
        if not (row.is_keyed("code") and row.code == "C"):
            return ZERO
        return total(row.proceeds, adjustment_of(row), less=row.basis)

    @fact("Unrecaptured section 1250 gain before losses")
    def unrecaptured(self):
        shares = [share.unrecaptured for kind in SHARES for share in self.papers(kind)]
        other = self.paper("capital-carryover").unrecaptured
        sold = self.brought("us.4797", "unrecaptured")
        parts = [one.unrecaptured for one in self.every("us.6252") if one.paper.sort == "capital"]
        homes = [one.unrecaptured for one in reported(self.run)]
        funds = [paper.unrecaptured for paper in self.papers("1099-div")]
        return total(funds, shares, other, sold, parts, homes)

    @line("19", "Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def property_gain(self):
        """Its worksheet: less what of short-term loss, carried loss and collectibles loss line 18 has not used."""
        if not self.is_gain:
            return nothing_because("no long-term gain remains")
        before = total(self.collectibles, least(total(self.short_term), 0), self.long_carried)
        return excess(total(self.unrecaptured, least(before, 0)), over=0)

    @line("21", "Capital loss deduction", cites="IRC 1211(b)")
    def loss_allowed(self):
        if self.together >= 0:
            return nothing_because("there is no loss", self.together)
        limit = self.law.capital_gains.loss_limit[self.income.status]
        return total(less=least(of={"loss": total(less=self.together), "most of the year": limit}))

    @fact("Capital gain or (loss) on Form 1040")
    def counted(self):
        return total(self.together) if self.together >= 0 else total(self.loss_allowed)

    @fact("Net capital gain for preferred rates", cites="IRC 1222(11)")
    def preferred(self):
        """The smaller of lines 15 and 16, never below zero; distributions where the schedule is not needed."""
        return excess(least(self.long_term, self.together), over=0)


class LossCarryover(FederalForm):
    """What of the loss goes into next year. Worksheet of Schedule D; IRC 1212(b)."""

    number, name, worksheet = "Capital loss carryover", "Capital loss carryover", True
    needs = ("1099-b", "1099-da", "capital-carryover", "asset", "installment", "home-sale", "basis-s", "basis-p", *SHARES)
    income = linked("us.1040")
    gains = linked("us.sch-d")

    def required(self):
        return self.gains.together < 0

    @line("1", "Taxable income before adjustments")
    def taxable_income(self):
        return total(self.income.adjusted_gross_income, less=self.income.deductions)

    @line("2", "Capital loss deduction")
    def loss(self):
        return total(less=self.gains.loss_allowed)

    @line("3", "Taxable income plus loss")
    def together(self):
        return excess(total(self.taxable_income, self.loss), over=0)

    @line("4", "Capital loss used")
    def used(self):
        return least(of={"loss deducted": self.loss, "income it can offset": self.together})

    @line("5", "Short-term loss")
    def short_loss(self):
        return total(less=least(self.gains.short_term, 0))

    @line("6", "Long-term gain")
    def long_gain(self):
        return excess(self.gains.long_term, over=0)

    @line("7", "Loss used against it")
    def against_short(self):
        return total(self.used, self.long_gain)

    @line("8", "Short-term capital loss carryover to next year", weight="total", closes=SHORT_LOSS, used="short_used")
    def short_carried(self):
        return excess(self.short_loss, over=self.against_short)

    @line("9", "Long-term loss")
    def long_loss(self):
        return total(less=least(self.gains.long_term, 0))

    @line("10", "Short-term gain")
    def short_gain(self):
        return excess(self.gains.short_term, over=0)

    @line("11", "Loss left after short-term losses")
    def left(self):
        return excess(self.used, over=self.short_loss)

    @line("12", "Used against long-term loss")
    def against_long(self):
        return total(self.short_gain, self.left)

    @line("13", "Long-term capital loss carryover to next year", weight="total", closes=LONG_LOSS, used="long_used")
    def long_carried(self):
        return excess(self.long_loss, over=self.against_long)

    @fact("Short-term loss that left", rounding=whole)
    def short_used(self):
        return self._gone(self.gains.short_term, self.gains.short_carried, self.short_loss, self.short_carried)

    @fact("Long-term loss that left", rounding=whole)
    def long_used(self):
        return self._gone(self.gains.long_term, self.gains.long_carried, self.long_loss, self.long_carried)

    def _gone(self, together, carried_in, loss, carried_on):
        """Taken by this year's gains of its own kind, by those of the other kind, or deducted."""
        own = excess(total(together, less=carried_in), over=0)  # what was carried in is a negative line
        return total(least(total(less=carried_in), own), excess(loss, over=carried_on))
