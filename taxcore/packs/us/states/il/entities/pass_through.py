"""Forms IL-1065 and IL-1120-ST, with Schedule K-1-P of each owner. 35 ILCS 5/201(c), (d), (p), 203(b), (d), 204, 709.5."""

from typing import Any

from taxcore.engine import excess, fact, greatest, least, line, linked, nothing_because, pro_rata, share, total, whole
from taxcore.packs.us.entity.base import part_of
from taxcore.packs.us.states.il.entities.base import IllinoisEntity, Modified, after_losses, allocated, settled, shared

# Owners who pay the replacement tax themselves, or nothing; an estate or trust does
REPLACED = ("corporation", "s-corporation", "partnership", "trust", "exempt")


class Unmodified(Modified):
    """Steps 2 and 3: what the federal return passes on, together. 35 ILCS 5/203(b)(1), (d)(1), (e)(2)(H)."""

    schedule = linked("us.sch-k")

    def _of(self, *names):
        return total([getattr(self.schedule, name) for name in names])

    @line("1", "Ordinary income or loss")
    def ordinary(self):
        return self._of("ordinary")

    @line("2", "Net rental real estate income or loss")
    def rental(self):
        return self._of("rental")

    @line("3", "Other net rental income or loss")
    def other_rental(self):
        return nothing_because("no other rentals are known here")

    @line("4", "Portfolio income or loss")
    def portfolio(self):
        return self._of("interest", "dividends", "royalties", "short_gain", "long_gain")

    @line("5", "Net section 1231 gain or loss")
    def section_1231(self):
        return self._of("section_1231")

    @line("6", "Other items of income or loss")
    def other_items(self):
        return nothing_because("Schedule K has none")

    @line("7", "Ordinary income or loss, together", weight="total")
    def income(self):
        parts = (self.ordinary, self.rental, self.other_rental, self.portfolio, self.section_1231, self.other_items)
        return total(parts)

    @line("8", "Charitable contributions")
    def contributions(self):
        return self._of("contributions")

    @line("9", "Section 179 deduction")
    def section_179(self):
        return self._of("section_179")

    @line("10", "Interest on investment debt")
    def investment_interest(self):
        return self._of("investment_interest")

    @line("11", "Other items of expense")
    def other_costs(self):
        return self._of("portfolio_costs", "foreign_tax")

    @line("12", "Lines 8 through 11")
    def costs(self):
        return total(self.contributions, self.section_179, self.investment_interest, self.other_costs)

    @line("13", "Unmodified base income or loss", weight="total")
    def unmodified(self):
        return total(self.income, less=self.costs)

    @fact("Income or loss that owners divide", rounding=whole)
    def divided(self):
        """With the additions and subtractions that are not about owners."""
        asked = self.asked
        plus = (self.exempt(), asked.own_tax, asked.other_additions, self.own_depreciation())
        return total(self.unmodified, plus, less=[asked.government_interest, asked.other_subtractions])

    def owners(self):
        return self.every("us-il.sch-k-1-p")

    def _of_replaced(self):
        return [one.distributable for one in self.owners() if one.owner.sort in REPLACED]

    @fact("Loss of owners who pay replacement tax themselves", rounding=whole)
    def loss_of_replaced(self):
        return excess(0, over=self._of_replaced())

    @fact("Income of owners who pay replacement tax themselves", rounding=whole)
    def income_of_replaced(self):
        return excess(self._of_replaced(), over=0)


def pass_through(base, first, exempt):
    """Steps 6 to 8: the replacement tax, what the entity withholds and pays for owners. `exempt`: whether 1,000 of its net
    income is."""

    class PassThrough(after_losses(allocated(base, first), first + 11)):
        @line(str(first + 16), "Standard exemption", cites="35 ILCS 5/204(a), (b)")
        def exemption(self):
            """In the part of base income that is Illinois'; not of corporations."""
            if not exempt:
                return nothing_because("a corporation has none")
            if self.base_income <= 0 or self.allocable <= 0:
                return nothing_because("there is no base income")
            return least(pro_rata(self.rates.exempt, self.allocable, self.base_income), self.rates.exempt)

        @line(str(first + 17), "Net income", weight="total")
        def net_income(self):
            """Nothing is left over by the exemption below what there is."""
            return total(self.after_losses, less=least(self.exemption, excess(self.after_losses, over=0)))

        @line(str(first + 18), "Replacement tax", cites="35 ILCS 5/201(c), (d)")
        def replacement_tax(self):
            return share(self.rates.replacement, of=excess(self.net_income, over=0))

        @line(str(first + 19), "Recapture of investment credits")
        def recapture(self):
            return nothing_because("no investment credit was taken here")

        @line(str(first + 20), "Replacement tax before credits")
        def before_credits(self):
            return total(self.replacement_tax, self.recapture)

        @line(str(first + 21), "Investment credits")
        def credits(self):
            return nothing_because("Form IL-477 is not made here")

        @line(str(first + 22), "Replacement tax after credits", weight="total")
        def replacement(self):
            return total(self.before_credits, less=self.credits)

        @line(str(first + 23), "Pass-through withholding", cites="35 ILCS 5/709.5")
        def withholding(self):
            return total([one.withheld for one in self.owners()])

        @line(str(first + 24), "Pass-through entity income", cites="35 ILCS 5/201(p)(2)")
        def elected_income(self):
            """Nothing is taken off for partners' services, owners who pay replacement tax, losses, or as exempt."""
            if not self.asked.entity_tax:
                return nothing_because("no PTE tax is elected")
            return excess(share(self.factor, of=total([one.distributable for one in self.owners()])), over=0)

        @line(str(first + 25), "Pass-through entity (PTE) tax", cites="35 ILCS 5/201(p)(1)")
        def entity_tax(self):
            return share(self.rates.entity_tax, of=self.elected_income)

    return PassThrough


def _due(form):
    return form.replacement, form.withholding, form.entity_tax


class Added(Unmodified):
    """Step 4 as far as both have it alike. 35 ILCS 5/203(b)(2), (d)(2)."""

    @line("14", "Unmodified base income or loss")
    def begun(self):
        return total(self.unmodified)

    @line("15", "Exempt interest", cites="35 ILCS 5/203(b)(2)(A), (d)(2)(A)")
    def exempt_interest(self):
        return self.exempt()

    @line("16", "Illinois taxes deducted", cites="35 ILCS 5/203(b)(2)(B), (d)(2)(B)")
    def own_tax(self):
        return total(self.asked.own_tax)

    @line("17", "Special depreciation addition", cites="35 ILCS 5/203(b)(2)(E-10), (d)(2)(D-5)")
    def more_depreciation(self):
        return total(self.depreciation_added)

    @line("18", "Related-party expenses addition")
    def related(self):
        return nothing_because("Schedule 80/20 is not made here")

    @line("19", "Distributive share of additions")
    def share_of_additions(self):
        return nothing_because("no share of another entity is known here")

    def together_alike(self):
        """Lines 14 to 19."""
        plus = (self.exempt_interest, self.own_tax, self.more_depreciation, self.related, self.share_of_additions)
        return self.begun, plus


class _Partnership(Added):
    """Steps 4 and 5 of a partnership. 35 ILCS 5/203(d)(2)."""

    @line("20", "Guaranteed payments to partners", cites="35 ILCS 5/203(d)(2)(C)")
    def guaranteed(self):
        return total(self.schedule.guaranteed)

    @line("21", "Loss of partners who pay replacement tax", cites="35 ILCS 5/203(d)(2)(D-10)")
    def replaced_loss(self):
        return total(self.loss_of_replaced)

    @line("22", "Other additions")
    def additions(self):
        return total(self.asked.other_additions)

    @line("23", "Income or loss", weight="total")
    def with_additions(self):
        return total(self.together_alike(), self.guaranteed, self.replaced_loss, self.additions)

    @line("24", "Interest on U.S. obligations", cites="35 ILCS 5/203(d)(2)(G); 31 USC 3124")
    def government_interest(self):
        return total(self.asked.government_interest)

    @line("25", "August 1, 1969 valuation limitation")
    def valuation(self):
        return nothing_because("nothing held since 1969 is known here")

    @line("26", "Personal service income or pay of partners", cites="35 ILCS 5/203(d)(2)(H)")
    def personal_service(self):
        return total(self.asked.personal_service)

    @line("27", "Income of partners who pay replacement tax", cites="35 ILCS 5/203(d)(2)(I)")
    def replaced_income(self):
        return total(self.income_of_replaced)

    @line("30", "Special depreciation subtraction", cites="35 ILCS 5/203(d)(2)(O)")
    def less_depreciation(self):
        return total(self.depreciation_taken_off)

    @line("33", "Other subtractions")
    def subtractions(self):
        return total(self.asked.other_subtractions)

    @line("34", "Total subtractions")
    def taken_off(self):
        parts = (self.personal_service, self.replaced_income, self.less_depreciation, self.subtractions)
        return total(self.government_interest, self.valuation, parts)

    @line("35", "Base income or loss", weight="total", cites="35 ILCS 5/203(d)(1)")
    def base_income(self):
        return total(self.with_additions, less=self.taken_off)


class _SmallCorporation(Added):
    """Steps 4 and 5 of an S corporation. 35 ILCS 5/203(b)(2)."""

    @line("20", "Loss of shareholders who pay replacement tax")
    def replaced_loss(self):
        return total(self.loss_of_replaced)

    @line("21", "Other additions")
    def additions(self):
        return total(self.asked.other_additions)

    @line("22", "Income or loss", weight="total")
    def with_additions(self):
        return total(self.together_alike(), self.replaced_loss, self.additions)

    @line("23", "Interest on U.S. obligations", cites="35 ILCS 5/203(b)(2)(J); 31 USC 3124")
    def government_interest(self):
        return total(self.asked.government_interest)

    @line("24", "Income of shareholders who pay replacement tax", cites="35 ILCS 5/203(b)(2)(S)")
    def replaced_income(self):
        return total(self.income_of_replaced)

    @line("28", "Special depreciation subtraction", cites="35 ILCS 5/203(b)(2)(T)")
    def less_depreciation(self):
        return total(self.depreciation_taken_off)

    @line("31", "Other subtractions")
    def subtractions(self):
        return total(self.asked.other_subtractions)

    @line("32", "Total subtractions")
    def taken_off(self):
        return total(self.government_interest, self.replaced_income, self.less_depreciation, self.subtractions)

    @line("33", "Base income or loss", weight="total", cites="35 ILCS 5/203(b)(1)")
    def base_income(self):
        return total(self.with_additions, less=self.taken_off)


_PARTNERSHIP: Any = settled(pass_through(_Partnership, 36, True), ("64", "66", "67", "68", "69", "70"), _due)
_SMALL_CORPORATION: Any = settled(pass_through(_SmallCorporation, 34, False), ("62", "64", "65", "66", "67", "68"), _due)


class PartnershipReturn(_PARTNERSHIP):
    """Form IL-1065."""

    number, name = "IL-1065", "Partnership replacement tax return"


class SmallCorporationReturn(_SMALL_CORPORATION):
    """Form IL-1120-ST."""

    number, name = "IL-1120-ST", "Small business corporation replacement tax return"


class ShareHere(IllinoisEntity):
    """Schedule K-1-P: what an owner has of it for Illinois, the credit of the entity's tax, what is withheld."""

    number, name = "Schedule K-1-P", "Owner's share of income, deductions, credits and recapture"

    @property
    def federal_share(self):
        return self.run.form("us.sch-k-1", self.key)

    @property
    def owner(self):
        return self.run.by_key((self.per,), self.key)

    @fact("Share of income with additions and subtractions", rounding=whole)
    def distributable(self):
        """With what is guaranteed to this partner."""
        of = self.federal_share
        return total(shared(self, self.home.divided), of.guaranteed if "guaranteed" in of.specs else 0)

    @fact("Of it from sources in Illinois", rounding=whole)
    def income_here(self):
        return share(self.home.factor, of=self.distributable)

    @fact("Ordinary income from sources in Illinois", rounding=whole)
    def ordinary_here(self):
        return share(self.home.factor, of=self.federal_share.ordinary)

    @fact("Additions less subtractions", rounding=whole)
    def modified(self):
        told = self.home.exempt() if self.is_of_illinois else 0  # Form IL-1040 has it already, on line 2
        return total(shared(self, total(self.home.divided, less=[self.home.unmodified, told])))

    @fact("Of them from sources in Illinois", rounding=whole)
    def modified_here(self):
        """All of them to who is of Illinois."""
        return total(self.modified) if self.is_of_illinois else share(self.home.factor, of=self.modified)

    @property
    def is_of_illinois(self):
        return self.owner.state == "IL" or not self.owner.state

    @line("53", "Pass-through entity (PTE) tax credit", cites="35 ILCS 5/201(p)(4)")
    def credit(self):
        """By the shares of what is taxed to the entity; together all of its tax."""
        if not self.home.entity_tax:
            return nothing_because("no PTE tax is elected")
        return self._part_of_tax()

    def _part_of_tax(self):
        owners = self.home.owners()
        weights = [greatest(one.distributable, 0) for one in owners]
        return part_of(self.home.entity_tax, weights, [one.key for one in owners].index(self.key))

    @property
    def certified(self):
        return self.key in [row.owner for row in self.asked.certified]

    @line("54", "Pass-through withholding", cites="35 ILCS 5/709.5")
    def withheld(self):
        """Of who lives or is organized elsewhere, less the credit above."""
        if self.is_of_illinois:
            return nothing_because("the owner is an Illinois resident")
        if self.certified:
            return nothing_because("the owner filed Form IL-1000-E")
        rate = self.rates.withheld[self.owner.sort] if self.owner.sort else 0
        return excess(share(rate, of=excess(self.income_here, over=0)), over=self.credit)


class PartnersShare(ShareHere):
    """Of a partner."""

    per = "partner"


class ShareholdersShare(ShareHere):
    """Of a shareholder."""

    per = "shareholder"
