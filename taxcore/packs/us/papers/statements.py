"""What the statements of payers share: who paid, whom the authority matches, and the rows for states."""

from taxcore.engine import Amount, Choice, Row, Rows, Text
from taxcore.packs.us.base import STATES, FederalPaper


class StateIncomeRow(Row):
    """State, number, tax withheld and the income that belongs there."""

    state = Choice(None, "State", STATES, needed="Choose the state of this row.")
    state_number = Text(None, "State number", longest=20)
    income = Amount(None, "State income")
    withheld = Amount(None, "Tax withheld")


class PayersStatement(FederalPaper):
    """Base of the information returns that a payer sends."""

    heading = "payer"
    party = {"number": "payer_number", "name": "payer"}

    payer = Text(None, "Payer", needed="Copy the payer's name.", wide=True, longest=60)
    payer_number = Text(None, "Payer's TIN", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                        pattern_says="A payer's number has nine digits, 00-0000000.")  # fmt: skip
    account = Text(None, "Account number", longest=30, kept=True)


def state_rows(boxes):
    return Rows(None, f"States, boxes {boxes}", StateIncomeRow)
