"""Iowa: individual income tax return of residents, part-year residents and nonresidents, with the school district's surtax."""

from taxcore.engine import Amount, Text, check, found
from taxcore.packs.us import places
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.checks import common, unsupported
from taxcore.packs.us.states.ia.forms import IncomeTax
from taxcore.packs.us.states.income import worksheets


class Questions(StateQuestions):
    """What Iowa asks and no federal paper answers."""

    jurisdiction = "us-ia"
    kind, name, official = "ia-questions", "Iowa questions", "IA 1040"

    school_district = Text(None, "School district on December 31", longest=4, pattern=r"\d{4}",
                           pattern_says="A school district has four digits.", begins="School district")  # fmt: skip
    surtax_rate = Amount(None, "Surtax rate, percent", help="From the year's list. Enter 0 if none.")
    tuition_credit = Amount(None, "Tuition and textbook credit", help="25% of the first $2,000 for each child in K-12.",
                            cites="Iowa Code 422.12(2)")  # fmt: skip


@check("us-ia.school-district-open", "Iowa: school district or surtax missing", "missing", "Iowa Code 257.21")
def school_district(run):
    questions = run.single("ia-questions")
    if files_in(run, "IA") and places.home_at_end(run) == "IA":
        open_ = next((name for name in ("school_district", "surtax_rate") if not questions.is_answered(name)), None)
        if open_:
            says = "Enter the school district on December 31 and its surtax rate."
            yield found(questions.address(open_), says)


def _low_income(run):
    """The least-income rules help those whose federal deductions do not already end the tax: mostly people of 65."""
    form = run.form("us-ia.ia-1040")
    law, others = form.law.low_income, form.is_joint or form.federal.status == "head_of_household"
    most = law.others if others else law.alone
    return form.address("tax") if form.aged() and form.tax > 0 and form.net_income <= most else None


STATE = State(
    code="IA",
    authority=authority("IA", "Iowa", IncomeTax, return_type="IA1040", due=(4, 30), declaration="IA 8453-IND",
                        tax="total_tax", income="net_income", credited_tax="tax_after_credits", credited_income="iowa_income",
                        credited_taxable="taxed_here"),
    forms=(IncomeTax, *worksheets("us-ia")),
    papers=(Questions,),
    law=folder("IA"),
    checks=(
        school_district,
        unsupported("us-ia", "Iowa", "low-income", "Tax reduced for low incomes at 65", "Iowa Code 422.5(3), (3B)", _low_income),
        *common("IA", "Iowa", "us-ia.ia-1040"),
    ),
)  # fmt: skip
