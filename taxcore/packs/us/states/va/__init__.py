"""Virginia: individual income tax return of residents, part-year residents and nonresidents."""

from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, folder
from taxcore.packs.us.states.checks import common, in_doubt
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.va.forms import IncomeTax


class Questions(StateQuestions):
    """What Virginia asks and no federal paper answers."""

    jurisdiction = "us-va"
    kind, name, official = "va-questions", "Virginia questions", "760"


def _by_taxable(run):
    form = run.form("us-va.760")
    if not form.other_states:
        return None
    return form.address("other_states"), "the limit of Schedule OSC goes by the other state's taxable income over Virginia's."


STATE = State(
    code="VA",
    authority=authority("VA", "Virginia", IncomeTax, return_type="760", due=(5, 1), declaration="VA-8453",
                        agency="the Virginia Department of Taxation", tax="net_tax", income="agi",
                        credited_tax="taxed", credited_income="agi_here",
                        credited_taxable="taxed_income"),
    forms=(IncomeTax, *worksheets("us-va", own=True)),
    papers=(Questions,),
    law=folder("VA"),
    checks=(
        in_doubt("us-va", "Virginia", "limit-by-taxable-income", "the credit for other states' tax", "Va. Code 58.1-332(A)",
                 _by_taxable),
        *common("VA", "Virginia", "us-va.760"),
    ),
)  # fmt: skip
