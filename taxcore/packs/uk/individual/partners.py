"""A share of a partnership: its profit or loss of the trade, and of other income on the full pages. ITTOIA 2005 Part 9."""

from decimal import Decimal

from taxcore.engine import excess, fact, least, line, share, total
from taxcore.packs.uk.balances import PARTNER_CLASS_4, PARTNER_LOSS, PARTNER_PROPERTY, PARTNER_TRANSITION
from taxcore.packs.uk.base import up
from taxcore.packs.uk.individual.trading import OfOnePaper, Source

_FULL_ONLY = (
    "transition_part",
    "transition_before",
    "overlap",
    "property",
    "property_before",
    "dividends",
    "interest_taxed",
    "other_income",
)


class PartnershipProfit(Source):
    """A partner's share of one partnership, whichever pages it is written on. ITTOIA 2005 ss. 850 to 855."""

    number, name, per = "Partnership profit", "Profit as a partner", "partnership"
    needs = ("partnership",)

    @fact("Share of the profit or loss")
    def share(self):
        return total(self.rounding(self.paper.share))

    @fact("Profit of the twelve months")
    def twelve_months(self):
        return excess(self.share, over=Decimal(0))

    @fact("Loss of the twelve months")
    def twelve_months_loss(self):
        return excess(Decimal(0), over=self.share)

    @fact("Transition profit left", closes=PARTNER_TRANSITION)
    def transition_left(self):
        return excess(self.transition_whole, over=self.transition)

    @fact("Loss to carry forward", closes=PARTNER_LOSS, used="loss_used", cites="ITA 2007 s. 83")
    def loss_forward(self):
        return self.left_of_losses()

    @fact("Kept for class 4", closes=PARTNER_CLASS_4, used="class_4_used", cites="SSCBA 1992 Sch. 2 para. 3(4)")
    def class_4_left(self):
        return self.left_for_class_4()

    # Other income of the partnership

    @fact("Savings", cites="ITTOIA 2005 s. 851")
    def savings(self):
        """Taxed interest with the tax taken off it."""
        gross = share(self.run.form("uk.sa100").one_and_a_quarter, of=self.rounding(self.paper.interest_taxed))
        return total(self.rounding(self.paper.interest), gross)

    @fact("Tax taken off interest")
    def interest_tax(self):
        main = self.run.form("uk.sa100")
        return share(main.one_and_a_quarter - 1, of=self.rounding(self.paper.interest_taxed))

    @fact("Dividends")
    def dividends(self):
        return total(self.rounding(self.paper.dividends))

    @fact("Other income")
    def other(self):
        return total(self.rounding(self.paper.other_income))

    @fact("Losses of its property before, used", rounding=up)
    def property_used(self):
        return least(self.paper.property_before, excess(self.rounding(self.paper.property), over=Decimal(0)))

    @fact("Property", cites="ITTOIA 2005 s. 859")
    def property(self):
        """The firm's lettings are a business apart from a partner's own."""
        return excess(self.rounding(self.paper.property), over=self.property_used)

    @fact("Loss of its property to carry forward", closes=PARTNER_PROPERTY, used="property_used", cites="ITA 2007 s. 118")
    def property_left(self):
        fresh = excess(Decimal(0), over=self.rounding(self.paper.property))
        return total(excess(self.paper.property_before, over=self.property_used), fresh)


def is_full(paper):
    """Whether a share is written on the full pages: for income that only they have, and where basis periods changed."""
    return any(paper.is_keyed(name) for name in _FULL_ONLY)


class _PartnershipPage(OfOnePaper):
    per = "partnership"
    needs = ("partnership",)

    @property
    def of(self):
        return self.run.form("uk.partnership-profit", self.key)

    @line("8", "Share of the partnership's profit or loss")
    def share(self):
        return total(self.of.share)

    @line("17", "Losses brought forward set against this year's profit")
    def loss_used(self):
        return total(self.of.loss_used)

    @line("20", "Total taxable profits", weight="total")
    def taxable(self):
        return total(self.of.taxable, self.of.transition)

    @line("22", "Adjusted loss for the year")
    def net_loss(self):
        return total(self.of.net_loss)

    @line("23", "Loss set off against other income")
    def loss_against_income(self):
        return total(self.of.loss_against_income)

    @line("24", "Loss carried back to earlier years")
    def loss_carried_back(self):
        return total(self.of.loss_carried_back)

    @line("25", "Total loss to carry forward")
    def loss_forward(self):
        return total(self.of.loss_forward)

    @line("28", "Share of untaxed interest")
    def interest(self):
        return total(self.paper.interest)

    @line("30", "Share of deductions of contractors")
    def deducted(self):
        return total(self.of.deducted)


class PartnershipPage(_PartnershipPage):
    """SA104S, one for each partnership with nothing but a trade and untaxed interest."""

    number, name = "SA104S", "Partnership (short)"

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers("partnership") if not is_full(paper)]


class FullPartnershipPage(_PartnershipPage):
    """SA104F: with the change of basis periods, lettings, dividends, taxed interest and other income besides."""

    number, name = "SA104F", "Partnership (full)"

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers("partnership") if is_full(paper)]

    @line("11", "Overlap relief used this year")
    def overlap(self):
        return total(self.paper.overlap)

    @line("11.1", "Transition profit of the year")
    def transition(self):
        return total(self.of.transition)

    @line("37", "Share of the profit of UK property")
    def property(self):
        return total(self.of.property)

    @line("40", "Loss of property to carry forward")
    def property_left(self):
        return total(self.of.property_left)

    @line("51", "Share of other income")
    def other(self):
        return total(self.of.other)

    @line("70", "Share of taxed interest, the net amount")
    def interest_taxed(self):
        return total(self.paper.interest_taxed)

    @line("73", "Share of dividends")
    def dividends(self):
        return total(self.of.dividends)
