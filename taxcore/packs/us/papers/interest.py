"""Interest statement, Form 1099-INT. IRC 6049."""

from taxcore.engine import Amount, Choice, Row, Rows, Text
from taxcore.packs.us.base import STATES, FederalPaper


class InterestStateRow(Row):
    state = Choice("15", "State", STATES, needed="Choose the state of this row.")
    state_number = Text("16", "State number", longest=20)
    withheld = Amount("17", "Withheld")


class InterestStatement(FederalPaper):
    """One payer's statement for one owner, or for both."""

    kind, name, official, group = "1099-int", "Interest statement", "1099-INT", "income"
    short = "Interest"
    heading, main, joint_owner = "payer", "interest", True

    payer = Text("p", "Payer", needed="Copy the payer's name from the paper.", wide=True, longest=60)
    payer_number = Text("pn", "Payer's number", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                        pattern_says="A payer's number has nine digits, 00-0000000.")  # fmt: skip
    account = Text("ac", "Account number", longest=30)
    interest = Amount("1", "Interest")
    early_withdrawal = Amount("2", "Early withdrawal penalty", cites="IRC 62(a)(9)")
    government_interest = Amount("3", "Interest on US bonds and Treasury obligations", cites="31 USC 3124")
    withheld = Amount("4", "Federal tax withheld")
    investment_expenses = Amount("5", "Investment expenses")
    foreign_tax = Amount("6", "Foreign tax paid")
    foreign_country = Text("7", "Foreign country", longest=40)
    exempt_interest = Amount("8", "Tax-exempt interest", cites="IRC 103")
    private_activity = Amount("9", "Private activity bond interest, part of box 8", cites="IRC 57(a)(5)")
    market_discount = Amount("10", "Market discount")
    premium = Amount("11", "Bond premium")
    treasury_premium = Amount("12", "Bond premium on Treasury obligations")
    exempt_premium = Amount("13", "Bond premium on tax-exempt bonds")
    bond_number = Text("14", "Number of the bond", longest=20)
    states = Rows("15", "States, boxes 15 to 17", InterestStateRow)
