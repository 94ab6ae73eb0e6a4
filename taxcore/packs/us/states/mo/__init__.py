"""Missouri: individual income tax return of residents, part-year residents and nonresidents."""

from taxcore.engine import Amount
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, folder
from taxcore.packs.us.states.checks import common, in_doubt, unsupported
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.mo.forms import Column, IncomeTax


class Questions(StateQuestions):
    """What Missouri asks and no federal paper answers."""

    jurisdiction = "us-mo"
    kind, name, official = "mo-questions", "Missouri questions", "MO-1040"
    not_asked = ("use_tax",)

    public_pension = Amount(None, "Taxable public pensions", cites="RSMo 143.124", begins="Pensions")
    property_tax_credit = Amount(None, "Property tax credit: tax or rent paid", cites="RSMo 135.010")


def _asked(name):
    return lambda run: run.single("mo-questions").address(name) if getattr(run.single("mo-questions"), name) else None


def _chart_then(run):
    form = run.form("us-mo.mo-1040")
    if run.year != 2023 or not form.tax:
        return None
    return form.columns[0].address("tax"), "the chart of 2023 adds each band's tax in whole dollars, 234 at 8,449."


STATE = State(
    code="MO",
    authority=authority("MO", "Missouri", IncomeTax, return_type="MO1040", due=(4, 15), declaration="MO-8453",
                        tax="total_tax", income="missouri_agi", credited_tax="total_tax", credited_income="credited_income",
                        credited_taxable="taxed_here"),
    forms=(IncomeTax, Column, *worksheets("us-mo", own=True)),
    papers=(Questions,),
    law=folder("MO"),
    checks=(
        unsupported("us-mo", "Missouri", "public-pension", "Exemption of public pensions", "RSMo 143.124",
                    _asked("public_pension")),
        unsupported("us-mo", "Missouri", "property-tax-credit", "Property tax credit, MO-PTS", "RSMo 135.010",
                    _asked("property_tax_credit")),
        in_doubt("us-mo", "Missouri", "chart", "the tax chart of 2023", "RSMo 143.011, 143.021", _chart_then),
        *common("MO", "Missouri", "us-mo.mo-1040", use_tax=False),
    ),
)  # fmt: skip
