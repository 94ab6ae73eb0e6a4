"""Wisconsin: income tax return of residents, part-year residents and nonresidents."""

from taxcore.engine import Amount, Flag, check, found, idea, total
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.checks import answered, common, in_doubt, unsupported
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.wi.forms import IncomeTax


class Questions(StateQuestions):
    """What Wisconsin asks and no federal paper answers."""

    jurisdiction = "us-wi"
    kind, name, official = "wi-questions", "Wisconsin questions", "Form 1"

    property_tax = Amount(None, "Property tax paid, Wisconsin home", cites="Wis. Stat. 71.07(9)", begins="Home")
    rent_with_heat = Amount(None, "Rent paid, heat included")
    rent_without_heat = Amount(None, "Rent paid, heat not included")
    pension_exclusion = Flag(None, "Elect the retirement income exclusion", cites="2025 Wisconsin Act 15",
                             help="From 2025, at 67; most credits are given up.", begins="Pensions")  # fmt: skip


@idea("us-wi.pension-exclusion-pays", "Wisconsin: the larger pension exclusion would pay", "election", "2025 Wisconsin Act 15")
def larger_exclusion(run):
    """Both ways are worked out: the exclusion costs nearly all credits."""
    if not files_in(run, "WI") or not run.papers("1099-r"):
        return
    form, questions = run.form("us-wi.form-1"), run.single("wi-questions")
    if "retirement_exclusion" not in form.law or questions.pension_exclusion or not form.here.retirement:
        return
    if not form.aged(form.law.retirement_exclusion.age):
        return
    other = answered(run, "wi-questions", "pension_exclusion", "yes").run.form("us-wi.form-1")
    saves = total(other.refund, form.owed, less=[form.refund, other.owed])
    if saves > 0:
        says = f"Choosing the larger pension exclusion makes Wisconsin's return {saves:,} better, the lost credits counted."
        yield found(questions.address("pension_exclusion"), says)


def _care(run):
    """How an employer's benefits lower the state's higher limit was not at hand."""
    form = run.form("us.2441")
    return form.address("benefits") if run.year >= 2024 and form.expenses > 0 and form.benefits > 0 else None


@check("us-wi.dependent", "Wisconsin: the standard deduction of somebody's dependent", "unlikely", "Wis. Stat. 71.05(22)(f)")
def dependant(run):
    if files_in(run, "WI") and run.form("us-wi.form-1").federal.standard.is_dependant:
        form = run.form("us-wi.form-1")
        says = (
            f"Wisconsin's standard deduction of a dependent is {form.standard_deduction:,}, by the federal rule of earned "
            "income. Compare it with the instructions' worksheet."
        )
        yield found(form.address("standard_deduction"), says)


def _part_of_tax(run):
    form = run.form("us-wi.form-1")
    if form.is_whole or not form.tax:
        return None
    return form.address("tax"), f"the tax is that on all income, times Wisconsin's part, {form.part_of_year:f}."


def _without_proportion(run):
    form = run.form("us-wi.form-1")
    named = [one.state for one in form.taxed_elsewhere() if one.state in form.law.other_states.without_proportion]
    if not named or not form.other_states:
        return None
    return form.address("other_states"), f"tax paid to {', '.join(named)} is credited without a limit in proportion of incomes."


STATE = State(
    code="WI",
    authority=authority("WI", "Wisconsin", IncomeTax, return_type="F1", due=(4, 15), declaration="Form W-RA",
                        tax="total_tax", income="wisconsin_income", credited_tax="tax_after_credits",
                        credited_income="wisconsin_income", credited_taxable="taxed_here"),
    forms=(IncomeTax, *worksheets("us-wi")),
    papers=(Questions,),
    law=folder("WI"),
    checks=(
        unsupported("us-wi", "Wisconsin", "care-benefits", "Care credit beside an employer's benefits", "2023 Wisconsin Act 101",
                    _care),
        in_doubt("us-wi", "Wisconsin", "part-of-tax", "tax of part-year residents and nonresidents", "Wis. Stat. 71.06(2s)",
                 _part_of_tax),
        in_doubt("us-wi", "Wisconsin", "without-proportion", "credit for neighboring states' tax", "Wis. Stat. 71.07(7)",
                 _without_proportion),
        dependant,
        larger_exclusion,
        *common("WI", "Wisconsin", "us-wi.form-1"),
    ),
)  # fmt: skip
