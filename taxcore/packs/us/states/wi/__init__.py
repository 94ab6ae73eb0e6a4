"""Wisconsin: income tax return of residents, part-year residents and non-residents."""

from taxcore.engine import Amount, Flag
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, folder
from taxcore.packs.us.states.checks import common, unsupported
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.wi.forms import IncomeTax


class Questions(StateQuestions):
    """What Wisconsin asks and no federal paper answers."""

    jurisdiction = "us-wi"
    kind, name, official = "wi-questions", "Wisconsin questions", "Form 1"

    property_tax = Amount(None, "Property tax paid on the home in Wisconsin", cites="Wis. Stat. 71.07(9)", begins="Home")
    rent_with_heat = Amount(None, "Rent paid, heat included")
    rent_without_heat = Amount(None, "Rent paid, heat not included")
    pension_exclusion = Flag(None, "Choose the larger pension exclusion", cites="2025 Wisconsin Act 15",
                             help="From 2025, at 67; nearly all credits go with it.", begins="Pensions")  # fmt: skip


def _care(run):
    """Since 2024 the state counts more costs than the federal credit does: below the federal limits both are the same."""
    form = run.form("us.2441")
    return form.address("credit") if run.year >= 2024 and form.credit > 0 and form.expenses > form.most else None


def _dependant(run):
    form = run.form("us-wi.form-1")
    return form.address("standard_deduction") if form.federal.standard.is_dependant else None


STATE = State(
    code="WI",
    authority=authority("WI", "Wisconsin", IncomeTax, return_type="F1", due=(4, 15), declaration="Form W-RA",
                        tax="total_tax", income="wisconsin_income", credited_tax="tax_after_credits",
                        credited_income="wisconsin_income"),
    forms=(IncomeTax, *worksheets("us-wi")),
    papers=(Questions,),
    law=folder("WI"),
    checks=(
        unsupported("us-wi", "Wisconsin", "care-above", "Care credit on costs above the federal limit", "2023 Wisconsin Act 101",
                    _care),
        unsupported("us-wi", "Wisconsin", "dependant", "Standard deduction of a dependant", "Wis. Stat. 71.05(22)", _dependant),
        *common("WI", "Wisconsin", "us-wi.form-1"),
    ),
)  # fmt: skip
