"""Interest and original issue discount, Forms 1099-INT and 1099-OID. IRC 6049."""

from taxcore.engine import Amount, Choice, Flag, Row, Rows, Text, excess, total
from taxcore.packs.us.base import STATES, Placed
from taxcore.packs.us.papers.statements import PayersStatement, state_rows


class InterestStateRow(Row):
    state = Choice("15", "State", STATES, needed="Choose the state of this row.")
    state_number = Text("16", "State number", longest=20)
    withheld = Amount("17", "Withheld")


class InterestStatement(PayersStatement):
    """One payer's statement for one owner, or for both. Premiums: IRC 171(e); market discount: 1278(b)."""

    placed = Placed("interest")
    kind, name, official, group = "1099-int", "Interest statement", "1099-INT", "income"
    short = "Interest"
    main, joint_owner = "interest", True

    interest = Amount("1", "Interest")
    early_withdrawal = Amount("2", "Early withdrawal penalty", cites="IRC 62(a)(9)")
    government_interest = Amount("3", "Interest on US bonds and Treasury obligations", cites="31 USC 3124")
    withheld = Amount("4", "Federal tax withheld")
    investment_expenses = Amount("5", "Investment expenses", help="Not deductible since 2018.")
    foreign_tax = Amount("6", "Foreign tax paid")
    foreign_country = Text("7", "Foreign country", longest=40)
    exempt_interest = Amount("8", "Tax-exempt interest", cites="IRC 103")
    private_activity = Amount("9", "Private activity bond interest, part of box 8", cites="IRC 57(a)(5)")
    market_discount = Amount("10", "Market discount", cites="IRC 1278(b)")
    premium = Amount("11", "Bond premium", cites="IRC 171(e)")
    treasury_premium = Amount("12", "Bond premium on Treasury obligations", cites="IRC 171(e)")
    exempt_premium = Amount("13", "Bond premium on tax-exempt bonds", cites="IRC 171(a)(2)")
    home_bonds = Amount(None, "Of box 8, from bonds of the home state", help="Its own state does not tax them.")
    bond_number = Text("14", "Number of the bond", longest=20)
    states = Rows("15", "States, boxes 15 to 17", InterestStateRow)
    accrued = Amount(
        None,
        "Accrued interest bought with a bond",
        help="Paid to the seller; it belongs to the seller.",
        begins="Adjustments, Schedule B",
    )
    not_the_owners = Amount(None, "Passed on to the real owner", help="Interest received in one's name for somebody else.")
    seller_financed = Flag(None, "Paid by somebody who lives in the home sold")
    education_bonds = Amount(None, "Savings bond interest used for education, Form 8815", cites="IRC 135",
                             help="The amount that Form 8815 allows; the form itself is not made here.")  # fmt: skip

    def taxed(self):
        """Boxes 1, 3 and 10, less premium, accrued interest and what belongs to somebody else."""
        income = total(self.interest, self.government_interest, self.market_discount)
        return excess(income, over=[self.premium, self.treasury_premium, self.accrued, self.not_the_owners])

    def exempt(self):
        return excess(self.exempt_interest, over=self.exempt_premium)

    def from_government(self):
        """What a state may not tax."""
        return excess(self.government_interest, over=self.treasury_premium)


class DiscountStatement(PayersStatement):
    """Original issue discount. IRC 1272; acquisition premium: 1272(a)(7)."""

    placed = Placed("discount")
    kind, name, official, group = "1099-oid", "Issue discount statement", "1099-OID", "income"
    short = "Discount"
    main, joint_owner = "discount", True

    discount = Amount("1", "Original issue discount of the year")
    other_interest = Amount("2", "Other periodic interest")
    early_withdrawal = Amount("3", "Early withdrawal penalty", cites="IRC 62(a)(9)")
    withheld = Amount("4", "Federal tax withheld")
    market_discount = Amount("5", "Market discount")
    acquisition_premium = Amount("6", "Acquisition premium")
    description = Text("7", "Description", longest=60, wide=True)
    treasury_discount = Amount("8", "Discount on Treasury obligations", cites="31 USC 3124")
    investment_expenses = Amount("9", "Investment expenses", help="Not deductible since 2018.")
    premium = Amount("10", "Bond premium")
    exempt_discount = Amount("11", "Tax-exempt discount")
    states = state_rows("12 to 14")

    def taxed(self):
        income = total(self.discount, self.other_interest, self.market_discount, self.treasury_discount)
        return excess(income, over=[self.acquisition_premium, self.premium])

    def exempt(self):
        return total(self.exempt_discount)

    def from_government(self):
        return total(self.treasury_discount)
