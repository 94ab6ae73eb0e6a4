"""Georgia: individual income tax return of residents, part-year residents and nonresidents."""

from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, folder
from taxcore.packs.us.states.checks import common, in_doubt
from taxcore.packs.us.states.ga.forms import IncomeTax
from taxcore.packs.us.states.income import worksheets


class Questions(StateQuestions):
    """What Georgia asks and no federal paper answers."""

    jurisdiction = "us-ga"
    kind, name, official = "ga-questions", "Georgia questions", "500"
    not_asked = ("use_tax",)


def _own_tax(run):
    form = run.form("us-ga.500")
    if form.state_tax_in_itemized() <= 0:
        return None
    return form.address("itemized"), "its own income tax stays in itemized deductions, other states' tax is removed."


def _earned_then(run):
    form = run.form("us-ga.500")
    if run.year != 2023 or not form.retirement or not form.federal.wages:
        return None
    return form.address("adjustments"), "earned income counts up to $4,000 in the 2023 retirement exclusion."


STATE = State(
    code="GA",
    authority=authority("GA", "Georgia", IncomeTax, return_type="500", due=(4, 15), declaration="GA-8453",
                        tax="total_tax", income="agi", credited_tax="total_tax", credited_income="agi_here",
                        credited_taxable="taxable_income"),
    forms=(IncomeTax, *worksheets("us-ga", own=True)),
    papers=(Questions,),
    law=folder("GA"),
    checks=(
        in_doubt("us-ga", "Georgia", "own-tax-itemized", "its own income tax in itemized deductions",
                 "O.C.G.A. 48-7-27(b)(3)", _own_tax),
        in_doubt("us-ga", "Georgia", "earned-retirement", "earned income in the 2023 retirement exclusion",
                 "O.C.G.A. 48-7-27(a)(5)(E)", _earned_then),
        *common("GA", "Georgia", "us-ga.500", use_tax=False),
    ),
)  # fmt: skip
