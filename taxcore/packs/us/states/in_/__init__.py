"""Indiana: individual income tax return of residents, part-year residents and nonresidents, with the county's tax."""

import tomllib
from pathlib import Path

from taxcore.engine import Amount, Choice, check, found, stops
from taxcore.packs.us.balances import PRIOR_STATE_TAX
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.checks import common, unsupported
from taxcore.packs.us.states.in_.forms import IncomeTax
from taxcore.packs.us.states.in_.penalty import Underpayment
from taxcore.packs.us.states.income import worksheets

COUNTIES = tomllib.loads((Path(__file__).parent / "counties.toml").read_text())["names"]


class Questions(StateQuestions):
    """What Indiana asks and no federal paper answers."""

    jurisdiction = "us-in"
    kind, name, official = "in-questions", "Indiana questions", "IT-40"

    county = Choice(None, "County on January 1", {name: name for name in COUNTIES} | {"none": "None of Indiana"},
                    help="County of residence; for a nonresident, county of work.", begins="County")  # fmt: skip
    county_rate = Amount(None, "County tax rate, percent", help="From Departmental Notice 1; leave empty where it fills in.")
    spouse_county = Choice(None, "Spouse's county, if different", {name: name for name in COUNTIES} | {"none": "None of Indiana"})
    spouse_county_rate = Amount(None, "Spouse's county rate, percent", help="Leave empty where it fills in.")
    tax_last_year = Amount(None, "Prior year tax, state and county", opens=PRIOR_STATE_TAX, begins="Penalty",
                           help="For the underpayment penalty; 0 if none.")  # fmt: skip
    rent = Amount(None, "Rent paid, Indiana home", cites="IC 6-3-2-6", begins="Home")
    property_tax = Amount(None, "Property tax paid, Indiana home", cites="Schedule 2")


# The field of a county, and the name of its rate: of the field that may have it and of the fact
_COUNTIES = (("county", "county_rate"), ("spouse_county", "spouse_county_rate"))


@stops("us-in.county-open", "Indiana: county on January 1 missing", "missing", "IC 6-3.6-4")
@stops("us-in.county-rate-open", "Indiana: county tax rate missing", "missing", "IC 6-3.6-4")
@check("us-in.county-rate", "Indiana: county tax rate not compared with the notice", "unlikely", "IC 6-3.6-4")
@check("us-in.divided-between-counties", "Indiana: income divided between two counties", "unlikely", "Schedule CT-40")
def county(run):
    if not files_in(run, "IN"):
        return
    questions, form = run.single("in-questions"), run.form("us-in.it-40")
    if not questions.county:
        says = "Choose the county of residence on January 1, or none."
        yield found(questions.address("county"), says, code="us-in.county-open")
    for name, rate in _COUNTIES[: 1 + form.has_two_counties]:
        yield from _rate_of(getattr(questions, name), rate, questions, form)
    if form.has_two_counties:
        says = (
            f"{form.spouse_taxable:,} of the taxable income is the spouse's, in proportion to federal income. Compare "
            "with Schedule CT-40."
        )
        yield found(form.address("spouse_taxable"), says, code="us-in.divided-between-counties")


def _rate_of(county, rate, questions, form):
    if county in ("", "none"):
        return
    if not getattr(form, rate):
        says = f"The rate of {county} County is not on file for {form.year}. Enter it from the department's notice."
        yield found(questions.address(rate), says, code="us-in.county-rate-open")
    elif not getattr(questions, rate):
        says = f"{county} County's rate is taken as {getattr(form, rate) * 100:f}%. Compare it with the department's notice."
        yield found(form.address(rate), says, code="us-in.county-rate")


def _two_counties(run):
    questions, form = run.single("in-questions"), run.form("us-in.it-40")
    other = questions.spouse_county not in ("", questions.county)
    return questions.address("spouse_county") if other and not form.has_two_counties else None


STATE = State(
    code="IN",
    authority=authority("IN", "Indiana", IncomeTax, return_type="IT40", due=(4, 15), declaration="IT-8879",
                        tax="total_tax", income="adjusted_income", credited_tax="taxed", credited_income="adjusted_income",
                        credited_taxable="taxable_income"),
    forms=(IncomeTax, Underpayment, *worksheets("us-in", own=True)),
    papers=(Questions,),
    law=folder("IN"),
    checks=(
        county,
        unsupported("us-in", "Indiana", "two-counties", "Two counties, part-year or nonresident", "IC 6-3.6-8-3", _two_counties),
        *common("IN", "Indiana", "us-in.it-40"),
    ),
)  # fmt: skip
