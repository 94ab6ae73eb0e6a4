"""Illinois: individual income tax return of residents, part-year residents and nonresidents."""

from taxcore.engine import Amount, check, found, stops
from taxcore.packs.us import places
from taxcore.packs.us.federal import earned_income
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.checks import common
from taxcore.packs.us.states.il.forms import IncomeTax, Modifications, OtherStates, PartHere
from taxcore.packs.us.states.income import worksheets


class Questions(StateQuestions):
    """What Illinois asks and no federal paper answers."""

    jurisdiction = "us-il"
    kind, name, official = "il-questions", "Illinois questions", "IL-1040"

    property_tax = Amount("16a", "Illinois property tax on principal residence", cites="35 ILCS 5/208", begins="Home")


def _lives_here(run):
    return files_in(run, "IL") and places.calls(run, "IL") == places.WHOLE


@check("us-il.schedule-m-line", "Illinois: Schedule M line for U.S. interest", "unlikely")
def schedule_m_line_number(run):
    if _lives_here(run) and run.form("us-il.sch-m").government_interest > 0:
        yield found(
            run.form("us-il.sch-m").address("government_interest"),
            "Interest on U.S. obligations is subtracted on Schedule M. The line number is not confirmed here: check it.",
        )


@stops("us-il.eitc-by-age", "Illinois earned income credit without age limits", "unsupported", "35 ILCS 5/212")
def earned_income_credit_by_age(run):
    """Illinois gives its credit without the federal age limits."""
    worksheet = run.form("us.earned-income-credit")
    row = run.laws["us"].earned_income_credit.children["0"]
    below = row.below_joint if run.form("us.1040").status == "joint" else row.below
    denied_for_age = worksheet.denied == earned_income.AGE
    grown = any((person.years_old() or 0) >= 18 for person in run.form("us.1040").filers)
    dependant = any(person.claimed_by_other for person in run.form("us.1040").filers)
    if (
        run.year >= 2023
        and _lives_here(run)
        and denied_for_age
        and grown
        and not dependant
        and run.form("us.1040").adjusted_gross_income < below
    ):
        yield found(
            run.form("us-il.il-1040").address("earned_income_credit"),
            "Illinois gives its earned income credit without the federal age limits, which is not supported yet. This "
            "return cannot be e-filed from here.",
        )


@check("us-il.schedule-cr-lines", "Illinois: Schedule CR line numbers", "unlikely")
def schedule_cr_line_numbers(run):
    if files_in(run, "IL") and run.form("us-il.il-1040").other_state_credit > 0:
        yield found(
            run.form("us-il.il-1040").address("other_state_credit"),
            "The credit for tax paid to other states is figured on Schedule CR. The line numbers are not confirmed "
            "here: check them.",
        )


@check("us-il.schedule-nr-lines", "Illinois: Schedule NR line numbers", "unlikely")
def schedule_nr_line_numbers(run):
    if files_in(run, "IL") and not _lives_here(run):
        yield found(
            run.form("us-il.sch-nr").address("net_income"),
            "Illinois income is figured on Schedule NR. The line numbers are not confirmed here: check them.",
        )


STATE = State(
    code="IL",
    authority=authority("IL", "Illinois", IncomeTax, return_type="IL1040", due=(4, 15), declaration="IL-8453",
                        credited_tax="tax_after_credits", credited_income="taxed_here", credited_taxable="net_income"),
    forms=(IncomeTax, PartHere, Modifications, OtherStates, *worksheets("us-il")),
    papers=(Questions,),
    law=folder("IL"),
    checks=(
        schedule_m_line_number,
        schedule_cr_line_numbers,
        schedule_nr_line_numbers,
        earned_income_credit_by_age,
        *common("IL", "Illinois", "us-il.il-1040", lines=False),
    ),
)  # fmt: skip
