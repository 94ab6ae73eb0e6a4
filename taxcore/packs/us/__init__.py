"""The United States: federal individual return and the states that have a folder under states/."""

from pathlib import Path

from taxcore.engine import Authority, Form, Identifier, Pack, Paper, assumed_law
from taxcore.engine import law as law_files
from taxcore.packs.us import correcting, earlier, holidays, ofx, opening, places
from taxcore.packs.us.advice import advice
from taxcore.packs.us.base import STATES
from taxcore.packs.us.checks import CHECKS, carried
from taxcore.packs.us.elections import elections
from taxcore.packs.us.federal import FORMS, IncomeTaxReturn
from taxcore.packs.us.flow import flow
from taxcore.packs.us.outgoing import OUTGOING
from taxcore.packs.us.papers import PAPERS, UnitedStatesPerson
from taxcore.packs.us.papers.places import WHERE
from taxcore.packs.us.questions import QUESTIONS
from taxcore.packs.us.states import all_states
from taxcore.packs.us.succession import parted, succession
from taxcore.packs.us.to_come import to_come

_YEARS = Path(__file__).parent / "years"
_STATES = all_states()
_PAPERS: tuple[type[Paper], ...] = (*PAPERS, *(paper for state in _STATES for paper in state.papers))
_FORMS: tuple[type[Form], ...] = (*FORMS, *(form for state in _STATES for form in state.forms))


def debited(run):
    """Where the balance is debited, what happens and when."""
    paper = run.single("debit")
    if not paper.account or paper.debit_on is None:
        return ""
    amount = paper.paying or run.pack.authority("us").settled_on(run).owed
    day = f"{paper.debit_on:%B} {paper.debit_on.day}, {paper.debit_on.year}"
    return f"${amount:,.0f} is debited from the account ending in {paper.account[-4:]} on {day}; keep it covered."


FEDERAL = Authority(
    code="us", name="Federal", agency="the IRS", form=IncomeTaxReturn,
    amended="us.1040-x", refund="refund", owed="owed", return_type="1040",
    due=(4, 15), applies=lambda run: True, declaration="8879", files=lambda run: not run.single("filing").only_state,
    how_to_pay="Pay from a bank account or by card at irs.gov/payments, or mail a check to “United States Treasury” with Form "
    "1040-V; write the tax year, the form and your Social Security number on it.",
    paying=debited,
    closed=holidays.federal,
    # Form 8879, lines 1 to 5; how far each may move before it is signed again: Pub. 1345, "Changes to the return"
    authorized=(("adjusted_gross_income", 50), ("total_tax", 14), ("withheld", 14), ("refund", 14), ("owed", 14)),
)  # fmt: skip


def signers(run):
    """Everybody who files and lives: a surviving spouse signs a joint return alone. Where nobody is left, those for whom a
    representative signs. IRC 6012(b)(1), 6013(a)(3), 6061."""
    filers = run.form("us.1040").filers
    living = tuple(person.role for person in filers if person.death_date is None)
    return living or (tuple(person.role for person in filers) if run.single("decedent").capacity else ())


def represented(run):
    """Those of them who have died: an executor or whoever is charged with the property signs. IRC 6012(b)(1)."""
    dead = {person.role for person in run.form("us.1040").filers if person.death_date is not None}
    return tuple(role for role in signers(run) if role in dead)


def rank(run, authority):
    """The federal return, then the states lived in, then those where something was earned."""
    states = [one.state for one in places.wanted(run)]
    state = authority.code.partition("-")[2].upper()
    return 1 + states.index(state) if state in states else 0


def described(result):
    """The filing status, and where the taxpayer lives."""
    filing = result.run.single("filing")
    status = filing.fields()["status"].options.get(filing.status, "status open").lower()
    home = WHERE.get(places.home_at_end(result.run))
    return status + (f" · lives in {home}" if home else "")


PACK = Pack(
    code="us",
    name="United States",
    years=law_files.years(_YEARS),
    assumed_until=assumed_law.until(_YEARS),
    elections=elections,
    people=UnitedStatesPerson,
    papers=_PAPERS,
    forms=_FORMS,
    authorities=(FEDERAL, *(state.authority for state in _STATES)),
    checks=(*CHECKS, carried.check_of(_PAPERS, _FORMS), *(check for state in _STATES for check in state.checks)),
    law={"us": _YEARS} | {state.jurisdiction: state.law for state in _STATES},
    signers=signers,
    represented=represented,
    rank=rank,
    home=places.home_at_end,
    questions=QUESTIONS,
    outgoing=OUTGOING,
    to_come=to_come,
    flow=flow,
    ofx=ofx.paper_of,
    earlier=earlier.today,
    advice=advice,
    described=described,
    succession=succession,
    parted=parted,
    correcting=correcting.CORRECTING,
    identifier=Identifier("Social Security number", "SSN", "000-00-0000"),
    currency="$",
    currency_code="USD",
    writes="the IRS or a state",
    opens=opening.opens,
    regions=STATES,
    groups={
        "correction": "Correction",
        "people": "People",
        "income": "Income",
        "property": "Property",
        "adjustments": "Adjustments",
        "deductions": "Deductions",
        "credits": "Credits",
        "payments": "Payments",
        "places": "Places",
        "diligence": "Due diligence",
    },
)
