"""Virginia: individual income tax return of residents, part-year residents and non-residents."""

from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, folder
from taxcore.packs.us.states.checks import common
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.va.forms import IncomeTax


class Questions(StateQuestions):
    """What Virginia asks and no federal paper answers."""

    jurisdiction = "us-va"
    kind, name, official = "va-questions", "Virginia questions", "760"


STATE = State(
    code="VA",
    authority=authority("VA", "Virginia", IncomeTax, return_type="760", due=(5, 1), declaration="VA-8453",
                        tax="net_tax", income="agi", credited_tax="taxed", credited_income="agi_here"),
    forms=(IncomeTax, *worksheets("us-va", own=True)),
    papers=(Questions,),
    law=folder("VA"),
    checks=common("VA", "Virginia", "us-va.760"),
)  # fmt: skip
