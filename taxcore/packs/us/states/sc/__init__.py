"""South Carolina: individual income tax return of residents, part-year residents and nonresidents."""

from taxcore.engine import check, found
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.checks import common
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.sc.forms import IncomeTax


class Questions(StateQuestions):
    """What South Carolina asks and no federal paper answers."""

    jurisdiction = "us-sc"
    kind, name, official = "sc-questions", "South Carolina questions", "SC1040"


@check("us-sc.conformity", "South Carolina: federal law of July 2025 in federal taxable income", "unlikely", "S.C. Code 12-6-40")
def conformity(run):
    """The state follows federal law as it stood on a day; deductions that came after are in the federal figure."""
    if files_in(run, "SC") and run.year >= 2025:
        form = run.form("us-sc.sc1040")
        yield found(
            form.address("federal_taxable"),
            "Federal taxable income includes changes of July 2025 law, such as the higher standard deduction. South "
            "Carolina conformity is not confirmed: enter any addback as other additions.",
        )


STATE = State(
    code="SC",
    authority=authority("SC", "South Carolina", IncomeTax, return_type="SC1040", due=(4, 15), declaration="SC8453",
                        tax="total_tax", income="agi_here", credited_tax="tax_after_credits", credited_income="agi_here",
                        credited_taxable="taxable_income"),
    forms=(IncomeTax, *worksheets("us-sc", own=True)),
    papers=(Questions,),
    law=folder("SC"),
    checks=(conformity, *common("SC", "South Carolina", "us-sc.sc1040")),
)  # fmt: skip
