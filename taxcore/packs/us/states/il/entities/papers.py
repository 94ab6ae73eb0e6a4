"""What Illinois asks of an entity, and where its receipts come from. 35 ILCS 5/203, 304, 601, 709.5."""

from taxcore.engine import Amount, Count, Flag, Refer, Row, Rows
from taxcore.engine.balances import Balance
from taxcore.packs.us.entity.base import EntityPaper
from taxcore.packs.us.entity.more_time import paid_to

LOSS = Balance("il-entity-loss", "Illinois net losses", "35 ILCS 5/207", expires=True)
CREDITED = Balance("il-entity-credited", "Illinois overpayment credited to this year", "35 ILCS 5/909(b)")


class LossRow(Row):
    from_year = Count(None, "Year", most=2199, needed="It ends after twenty years.")
    amount = Amount(None, "Not used yet")


class OwnerRow(Row):
    owner = Refer(None, "Owner", ("partner", "shareholder"), needed="Choose whose certificate it is.")


class IllinoisPaper(EntityPaper):
    jurisdiction = "us-il"
    group, single, goes_on = "states", True, True


class _Questions(IllinoisPaper):
    """What every kind of entity is asked."""

    kind, name, official = "il-entity", "Illinois questions", "Form IL-1065, IL-1120-ST, IL-1120"

    business_only = Flag(
        None, "All income is business income", cites="35 ILCS 5/303, 1501(a)(1)", kept=True,
        needed="Other income goes to one state as a whole.",
    )  # fmt: skip
    more = Flag(
        None, "Credits, Schedule 80/20 or Schedules K-1-P received", cites="35 ILCS 5/201(e), 203(b)(2)(E-12)", kept=True,
        needed="They change the tax, and are not made here.",
    )  # fmt: skip
    unitary = Flag(None, "Part of a unitary group", cites="35 ILCS 5/304(e)", kept=True)
    own_tax = Amount(
        None, "Illinois taxes deducted", cites="35 ILCS 5/203(b)(2)(B), (d)(2)(B)", begins="Additions and subtractions",
        help="Replacement, income and PTE tax among the year's deductions.",
    )  # fmt: skip
    government_interest = Amount(None, "Interest on U.S. obligations", cites="31 USC 3124")
    other_additions = Amount(None, "Other additions", help="Additions that are not computed here.")
    other_subtractions = Amount(None, "Other subtractions", help="Subtractions that are not computed here.")
    losses = Rows(None, "Illinois net losses", LossRow, opens=LOSS, cites="35 ILCS 5/207")
    credited_before = Amount(None, "Last year's overpayment credited", opens=CREDITED, begins="Payments")
    estimates = Amount(None, "Estimated payments")
    with_extension = Amount(None, "Paid with the extension", help="If empty, what the State extensions paper says.")
    withheld = Amount(None, "Withheld by other entities", cites="35 ILCS 5/709.5", help="Schedules K-1-P that it received.")
    credited = Amount(None, "Overpayment credited to next year")

    @with_extension.when_empty
    def _with_extension(self):
        return paid_to(self.run, "IL")


class _PassThrough(_Questions):
    """What an entity is asked whose owners pay the income tax."""

    entity_tax = Flag(None, "Elects pass-through entity (PTE) tax", cites="35 ILCS 5/201(p)", begins="Owners")
    certified = Rows(None, "Owners with Form IL-1000-E", OwnerRow, cites="35 ILCS 5/709.5(c)", kept=True)


class PartnershipQuestions(_PassThrough):
    """Of a partnership."""

    kind, official = "il-entity", "Form IL-1065"

    personal_service = Amount(
        None, "Personal service income or reasonable pay", cites="35 ILCS 5/203(d)(2)(H)", begins="Partners' services",
        help="The greater of what partners' services brought and what others would be paid for them.",
    )  # fmt: skip


class ShareholderQuestions(_PassThrough):
    """Of an S corporation."""

    kind, official = "il-entity", "Form IL-1120-ST"


class CorporationQuestions(_Questions):
    """Of a corporation."""

    kind, official = "il-entity", "Form IL-1120"
