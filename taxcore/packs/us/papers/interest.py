"""Interest and original issue discount, Forms 1099-INT and 1099-OID. IRC 6049."""

from taxcore.engine import Amount, Choice, Flag, Row, Rows, Text, excess, total
from taxcore.packs.us.base import STATES, Placed
from taxcore.packs.us.papers.statements import PayersStatement, state_rows


class InterestStateRow(Row):
    state = Choice("15", "State", STATES, needed="Choose the state of this row.")
    state_number = Text("16", "State number", longest=20)
    withheld = Amount("17", "Tax withheld")


class InterestStatement(PayersStatement):
    """One payer's statement for one owner, or for both. Premiums: IRC 171(e); market discount: 1278(b)."""

    placed = Placed("interest")
    kind, name, official, group = "1099-int", "Interest income", "1099-INT", "income"
    again = True
    short = "Interest"
    main, joint_owner = "interest", True

    interest = Amount("1", "Interest")
    early_withdrawal = Amount("2", "Early withdrawal penalty", cites="IRC 62(a)(9)")
    government_interest = Amount("3", "Interest on U.S. savings bonds and Treasury obligations", cites="31 USC 3124")
    withheld = Amount("4", "Federal income tax withheld")
    investment_expenses = Amount("5", "Investment expenses", help="Not deductible for 2018 and later.")
    foreign_tax = Amount("6", "Foreign tax paid")
    foreign_country = Text("7", "Foreign country", longest=40)
    exempt_interest = Amount("8", "Tax-exempt interest", cites="IRC 103")
    private_activity = Amount("9", "Specified private activity bond interest", cites="IRC 57(a)(5)")
    market_discount = Amount("10", "Market discount", cites="IRC 1278(b)")
    premium = Amount("11", "Bond premium", cites="IRC 171(e)")
    treasury_premium = Amount("12", "Bond premium on Treasury obligations", cites="IRC 171(e)")
    exempt_premium = Amount("13", "Bond premium on tax-exempt bond", cites="IRC 171(a)(2)")
    home_bonds = Amount(None, "Of box 8, bonds of the home state", help="The home state does not tax it.")
    bond_number = Text("14", "CUSIP number", longest=20)
    states = Rows("15", "States, boxes 15 to 17", InterestStateRow)
    accrued = Amount(
        None,
        "Accrued interest paid on purchase",
        help="Paid to the seller of a bond, and taxed to the seller.",
        begins="Schedule B adjustments",
    )
    not_the_owners = Amount(None, "Nominee amount", help="Received for the actual owner.")
    seller_financed = Flag(None, "Seller-financed mortgage interest")
    education_bonds = Amount(None, "Excluded savings bond interest, Form 8815", cites="IRC 135",
                             help="The amount Form 8815 allows; the form is not prepared here.")  # fmt: skip

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
    kind, name, official, group = "1099-oid", "Original issue discount", "1099-OID", "income"
    again = True
    short = "OID"
    main, joint_owner = "discount", True

    discount = Amount("1", "Original issue discount for the year")
    other_interest = Amount("2", "Other periodic interest")
    early_withdrawal = Amount("3", "Early withdrawal penalty", cites="IRC 62(a)(9)")
    withheld = Amount("4", "Federal income tax withheld")
    market_discount = Amount("5", "Market discount")
    acquisition_premium = Amount("6", "Acquisition premium")
    description = Text("7", "Description", longest=60, wide=True)
    treasury_discount = Amount("8", "OID on U.S. Treasury obligations", cites="31 USC 3124")
    investment_expenses = Amount("9", "Investment expenses", help="Not deductible for 2018 and later.")
    premium = Amount("10", "Bond premium")
    exempt_discount = Amount("11", "Tax-exempt OID")
    states = state_rows("12 to 14")

    def taxed(self):
        income = total(self.discount, self.other_interest, self.market_discount, self.treasury_discount)
        return excess(income, over=[self.acquisition_premium, self.premium])

    def exempt(self):
        return total(self.exempt_discount)

    def from_government(self):
        return total(self.treasury_discount)
