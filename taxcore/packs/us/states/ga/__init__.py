"""Georgia: individual income tax return of residents, part-year residents and non-residents."""

from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, folder
from taxcore.packs.us.states.checks import common
from taxcore.packs.us.states.ga.forms import IncomeTax
from taxcore.packs.us.states.income import worksheets


class Questions(StateQuestions):
    """What Georgia asks and no federal paper answers."""

    jurisdiction = "us-ga"
    kind, name, official = "ga-questions", "Georgia questions", "500"
    not_asked = ("use_tax",)


STATE = State(
    code="GA",
    authority=authority("GA", "Georgia", IncomeTax, return_type="500", due=(4, 15), declaration="GA-8453",
                        tax="total_tax", income="agi", credited_tax="total_tax", credited_income="agi_here"),
    forms=(IncomeTax, *worksheets("us-ga", own=True)),
    papers=(Questions,),
    law=folder("GA"),
    checks=common("GA", "Georgia", "us-ga.500", use_tax=False),
)  # fmt: skip
