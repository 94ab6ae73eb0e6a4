"""Schedule E: rents and royalties together, parts II and III with shares of entities. IRC 61(a)(5), 702, 1366, 652, 662."""

from typing import Any, ClassVar

from taxcore.engine import ZERO, excess, fact, line, nothing_because, pro_rata, total
from taxcore.packs.us.balances import PASSIVE_SHARE, SHARE_179
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.papers.shares import KINDS as SHARES


def trade_income(paper):
    """What one entity's business gives, deductions of its owner taken off, but for section 179."""
    ordinary = of_share(paper, "ordinary")
    if paper.kind == "k1-1041":
        return total(ordinary, less=paper.other_deductions)
    own = of_share(paper, "trade_deductions")
    if paper.kind == "k1-1120s":
        return total(ordinary, less=own)
    return total(ordinary, paper.guaranteed, less=[paper.unreimbursed, own])


def royalties_of_shares(run):
    """Royalties that shares pass on: no part of their trades. IRC 702(a)(7), 1366(a)."""
    return [paper.royalties for kind in ("k1-1065", "k1-1120s") for paper in run.papers(kind)]


def expensing(run):
    """Shares in trades that their owners actively conduct: their section 179 is deducted within the limits of all."""
    return [paper for kind in ("k1-1065", "k1-1120s") for paper in run.papers(kind) if paper.participates]


class Share(FederalForm):
    """What one share adds to income: what is passive goes through Form 8582. IRC 469, 702, 1366, 652, 662."""

    number, name, per, worksheet = "Share", "Income or loss of a share", SHARES, True
    rounding: ClassVar[Any] = None  # cents, as the statements have them: the lines of Schedule E round their sums

    @property
    def paper(self):
        return self.run.by_key(SHARES, self.key)

    def required(self):
        return False

    @property
    def takes_part(self):
        """Whether its business is not passive. IRC 469(h)."""
        return bool(self.paper.participates)

    @property
    def is_apart(self):
        """Whether its passive losses wait for income of its own: IRC 469(k)."""
        return bool(self.paper.publicly_traded)

    @fact("Passive losses of this year and before")
    def losses(self):
        return total(excess(ZERO, over=self.rental), excess(ZERO, over=self.other), self.before)

    @fact("Passive income")
    def income(self):
        return total(excess(self.rental, over=ZERO), excess(self.other, over=ZERO))

    @fact("Section 1231 gain that passive losses take", cites="26 CFR 1.469-2T(c)(2)")
    def sold(self):
        """Passive income too, which enters income on Form 4797."""
        if self.takes_part or self.paper.kind == "k1-1041":
            return nothing_because("it is no passive activity's")
        return excess(of_share(self.paper, "section_1231"), over=ZERO)

    @fact("Rental real estate for Form 8582")
    def rental_counted(self):
        """With the gain where the share has nothing but rentals."""
        return total(self.rental, self.sold) if self.rental and not self.other else total(self.rental)

    @fact("Other passive income or loss for Form 8582")
    def other_counted(self):
        return total(self.other) if self.rental and not self.other else total(self.other, self.sold)

    @fact("Ends with all its losses", cites="IRC 469(g)(1)(A)")
    def is_released(self):
        """Disposed of entirely, with an overall loss: nothing of it waits."""
        return bool(self.paper.disposed) and self.losses > total(self.income, self.sold)

    def _wanted(self):
        paper = self.paper
        if paper.kind == "k1-1041" or not paper.participates:
            return total(ZERO)
        return total(of_share(paper, "section_179"), paper.section_179_before)

    @fact("Section 179 of this share", cites="IRC 179(b)(3), (d)(8)")
    def section_179(self):
        """Of what all activities may deduct, its part of what all want."""
        limits = self.run.form("us.section-179")
        if not self._wanted():
            return nothing_because("nothing is elected")
        return pro_rata(limits.allowed, self._wanted(), total(limits.elected, limits.carried))

    @fact("Section 179 of this share carried over", closes=SHARE_179)
    def section_179_left(self):
        limits = self.run.form("us.section-179")
        if not self._wanted():
            return nothing_because("nothing is elected")
        return pro_rata(limits.left, self._wanted(), total(limits.elected, limits.carried))

    @line("1", "Not passive")
    def own(self):
        """Guaranteed payments are none of a passive activity: 26 CFR 1.469-2(e)(2)."""
        if self.takes_part:
            return total(trade_income(self.paper), less=self.section_179)
        paid = self.paper.kind == "k1-1065"
        return total(self.paper.guaranteed, less=self.paper.unreimbursed) if paid else total(ZERO)

    @line("2", "Rental real estate")
    def rental(self):
        return total(of_share(self.paper, "rental"))

    @line("3", "Other passive income or loss")
    def other(self):
        if self.takes_part:
            return total(of_share(self.paper, "other_rental"))
        return total(trade_income(self.paper), of_share(self.paper, "other_rental"), less=self.own)

    @line("4", "Losses of earlier years that waited")
    def before(self):
        return total(self.paper.passive_before)

    @line("5", "Passive income less losses that are allowed", cites="IRC 469")
    def passive(self):
        return total(self.income, less=excess(self.losses, over=self.waits))

    @line("6", "Enters income", weight="total")
    def together(self):
        return total(self.own, self.passive)

    @fact("Loss not allowed this year", closes=PASSIVE_SHARE, cites="IRC 469(b)")
    def waits(self):
        if self.is_released:
            return nothing_because("the share was disposed of entirely")
        if self.is_apart:
            return excess(self.losses, over=total(self.income, self.sold))
        form = self.run.form("us.8582")
        return total(form.waiting(f"{self.key}/rental"), form.waiting(f"{self.key}/other"))


class Partnerships(FederalForm):
    """Schedule E: rents and royalties of every property together, and shares of entities. IRC 61(a)(5), 702, 1366, 652, 662."""

    number, name = "Schedule E", "Supplemental income and loss"
    needs = (*SHARES, "rental")

    def required(self):
        return any(self.papers(kind) for kind in self.needs)

    def _properties(self):
        return self.every("us.sch-e-part-i")

    @line("24", "Income of rents and royalties")
    def rents_income(self):
        """With royalties of shares, which are no part of their trades."""
        return total([excess(one.net, over=ZERO) for one in self._properties()], royalties_of_shares(self.run))

    @line("25", "Losses of rents and royalties")
    def rents_losses(self):
        return total(less=[one.deductible for one in self._properties()])

    @line("26", "Total rental real estate and royalty income or (loss)")
    def rents(self):
        return total(self.rents_income, self.rents_losses)

    @fact("Of all of it, not passive")
    def not_passive(self):
        shares = [total(one.own, one.passive) if one.is_apart else one.own for one in self.every("us.share")]
        let = [total(one.counted, less=one.passive_counted) for one in self._properties() if one.is_passive]
        plain = [one.net for one in self._properties() if not one.is_passive]
        return total(plain, let, royalties_of_shares(self.run), shares)

    @line("32", "Total partnership and S corporation income or (loss)")
    def entities(self):
        return total([one.together for one in self.every("us.share") if one.paper.kind != "k1-1041"])

    @line("37", "Total estate and trust income or (loss)")
    def trusts(self):
        return total([one.together for one in self.every("us.share") if one.paper.kind == "k1-1041"])

    @line("41", "Total income or (loss)", weight="total")
    def together(self):
        return total(self.rents, self.entities, self.trusts)
