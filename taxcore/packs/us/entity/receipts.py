"""Where receipts come from: a table by states, from which each state takes its part of business income."""

from taxcore.engine import Amount, Choice, Row, Rows
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.base import EntityPaper

_PLACES = STATES | {"--": "Outside the United States"}


class ReceiptRow(Row):
    same_by = "state"
    known_as = {"state": ("state", "destination"), "amount": ("receipts", "sales", "amount")}
    state = Choice(None, "State", _PLACES, needed="Choose where they come from.", kept=True)
    amount = Amount(None, "Receipts")


class Receipts(EntityPaper):
    """Receipts of the business by states. Each state's law says where a sale belongs."""

    kind, name, official, group = "receipts", "Receipts by state", "Apportionment", "states"
    single, repeats = True, ("rows",)

    rows = Rows(None, "States", ReceiptRow, help="If empty, all come from the entity's own state.")


class OwnerStateRow(Row):
    """What one state has of an owner's share. An owner's return reads the row as it stands."""

    state = Choice(None, "State", STATES, needed="Choose the state.")
    income = Amount(None, "Income there", negative=True, help="If empty, ordinary income by receipts.")
    withheld = Amount(None, "Tax withheld", help="Or paid for the owner on a composite return.")
    entity_tax = Amount(None, "PTE tax credit", help="Pass-through entity tax that the entity elected to pay.")
    modified = Amount(None, "Additions less subtractions", negative=True)


def receipts_of(run, state):
    """Those of one state."""
    return [row.amount for row in run.single("receipts").rows if row.state == state]


def is_divided(run):
    """Whether receipts are told by states."""
    return bool(run.single("receipts").rows)


def does_business_in(run, state):
    """It has its address there, or receipts."""
    return run.single("about").state == state or any(receipts_of(run, state))
