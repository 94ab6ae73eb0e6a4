"""California: individual income tax return of residents, part-year residents and nonresidents."""

from taxcore.engine import Flag, check, found
from taxcore.packs.us import places
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.ca.forms import IncomeTax
from taxcore.packs.us.states.checks import common, unsupported
from taxcore.packs.us.states.income import worksheets


class Questions(StateQuestions):
    """What California asks and no federal paper answers."""

    jurisdiction = "us-ca"
    kind, name, official = "ca-questions", "California questions", "540"

    health_coverage = Flag("92", "Full-year health coverage", cites="R&TC 61015", begins="Household")
    renter = Flag("46", "Rented principal residence at least half the year", cites="R&TC 17053.5")
    no_earned_income_credit = Flag("75", "CalEITC checked and not due",
                                   help="It is not computed here.", cites="R&TC 17052")  # fmt: skip


@check("us-ca.health-coverage-open", "California: health coverage is not answered", "missing", "R&TC 61015")
def health_coverage(run):
    questions = run.single("ca-questions")
    if files_in(run, "CA") and places.calls(run, "CA") != places.NONE and not questions.is_answered("health_coverage"):
        says = "California asks about full-year health coverage; a gap may cause a penalty."
        yield found(questions.address("health_coverage"), says)


def _uncovered(run):
    questions = run.single("ca-questions")
    answered = questions.is_answered("health_coverage") and not questions.health_coverage
    return questions.address("health_coverage") if answered else None


def _earned_income(run):
    """Who earns little and lived here more than half the year may have the state's own credit; nobody else's dependent has it."""
    form, questions = run.form("us-ca.540"), run.single("ca-questions")
    earned = run.form("us.earned-income-credit").earned
    possible = 0 < earned <= form.law.earned_income_credit.earned_up_to and places.calls(run, "CA") != places.NONE
    if not possible or form.federal.standard.is_dependant or questions.no_earned_income_credit:
        return None
    return questions.address("no_earned_income_credit")


def _minimum_tax(run):
    form = run.form("us.6251")
    return form.address("tax") if run.form("us.sch-2").minimum_tax > 0 or run.single("minimum-tax").stock_options else None


STATE = State(
    code="CA",
    authority=authority("CA", "California", IncomeTax, return_type="540", due=(4, 15), declaration="FTB 8879",
                        agency="the Franchise Tax Board", tax="total_tax", income="agi",
                        credited_tax="after_credits", credited_income="agi_here",
                        credited_taxable="taxable_here"),
    forms=(IncomeTax, *worksheets("us-ca")),
    papers=(Questions,),
    law=folder("CA"),
    checks=(
        health_coverage,
        unsupported("us-ca", "California", "coverage-penalty", "Penalty for a gap in health coverage, FTB 3853", "R&TC 61015",
                    _uncovered),
        unsupported("us-ca", "California", "earned-income-credit", "Earned income and child credits, FTB 3514", "R&TC 17052",
                    _earned_income),
        unsupported("us-ca", "California", "minimum-tax", "Alternative minimum tax, Schedule P", "R&TC 17062", _minimum_tax),
        *common("CA", "California", "us-ca.540"),
    ),
)  # fmt: skip
