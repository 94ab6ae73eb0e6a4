"""The return within sixty days of a home's sale, one for each. FA 2019 Sch. 2.

Its period is the day of completion, so that a year may have several. What was sold and what was paid go to the year's return as
a paper that it issues.
"""

from dataclasses import replace
from datetime import timedelta

from taxcore.engine import Authority, Issued, Pack, check, found, stops
from taxcore.engine import law as law_files
from taxcore.packs.uk.base import YEARS, shown_year, tax_year, year_of
from taxcore.packs.uk.disposal.forms import PropertyDisposal
from taxcore.packs.uk.disposal.papers import Estimate
from taxcore.packs.uk.individual import PACK as OF_THE_YEAR
from taxcore.packs.uk.individual.checks.gains import homes
from taxcore.packs.uk.individual.papers import Home, Taxpayer
from taxcore.packs.uk.individual.supporting import OUTGOING

_SIXTY = timedelta(days=60)
HMRC = Authority(
    code="uk-ppd", name="HMRC, property disposals", form=PropertyDisposal, refund="repaid", owed="owed", return_type="PPD",
    due=(1, 31), years_after=2, is_fixed=True, due_after=lambda period: period.end + _SIXTY, applies=lambda run: True,
    agency="HMRC", tax="tax", income="gain",
    how_to_pay="Pay to HMRC's account with the payment reference of the property account.",
)  # fmt: skip


@stops("uk.ppd-one-home", "Not one home on a return for one", "conflict", "FA 2019 Sch. 2 para. 3")
@stops("uk.ppd-before-contract", "Completed before the contract", "conflict", "TCGA 1992 s. 28")
@check("uk.ppd-nothing-due", "Nothing is due, and no return is needed", "missed", "FA 2019 Sch. 2 para. 5")
@stops("uk.ppd-earlier-paid", "Tax paid with earlier returns, and no gains of them", "conflict", "FA 2019 Sch. 2 para. 7")
def one_home(run):
    form, paper = run.form("uk.ppd"), run.single("estimate")
    sold = run.papers("home")
    if len(sold) != 1:
        yield found(paper.address("income"), "Add the home that was sold: one for each return.", code="uk.ppd-one-home")
    for home in sold:
        if home.sold is not None and home.sold > run.period.end:
            yield found(home.address("sold"), "Completion follows the contract. Check both days.", code="uk.ppd-before-contract")
        if not form.tax and not form.earlier_paid:
            says = "Somebody resident here files it only where there is tax to pay."
            yield found(home.address("proceeds"), says, code="uk.ppd-nothing-due")
    if paper.earlier_paid and not paper.earlier_gains:
        yield found(paper.address("earlier_gains"), "Enter the gains of those returns.", code="uk.ppd-earlier-paid")


def issues(run):
    """To the year's return: the home as it was entered, and what was paid with this one."""
    form = run.form("uk.ppd")
    for person in run.people("taxpayer"):
        for home in run.papers("home"):
            names = [name for name in home.fields() if name in home.entered and name not in ("owner", "reported", "tax_paid")]
            values = {name: home.entered[name] for name in names} | {"tax_paid": f"{form.owed:f}"}
            yield Issued(
                to=person.address("number"), named=person.full_name, number=person.number or "", pack="uk", kind="home",
                id=f"sold-{run.period.end:%Y%m%d}", values=values, lines={"tax_paid": form.address("owed")},
            )  # fmt: skip


_OUTGOING = replace(OUTGOING, drawn=lambda result, authority: (), statements=lambda result: ())


def _shown(period):
    return f"sale of {period.end:%-d %B %Y}"


PACK = Pack(
    code="uk-home", name="United Kingdom", called="A home sold, return within sixty days", years=law_files.years(YEARS),
    people=Taxpayer, papers=(Estimate, Home), forms=(PropertyDisposal,), authorities=(HMRC,), checks=(one_home, homes),
    law={"uk": YEARS}, groups={"people": "Taxpayer", "gains": "Home sold"}, period=tax_year, law_year=year_of,
    identifier=OF_THE_YEAR.identifier, currency=OF_THE_YEAR.currency, currency_code="GBP", words=OF_THE_YEAR.words,
    day_first=True, shown_year=shown_year, writes="HMRC", outgoing=_OUTGOING, issues=issues, issued_to="The year", asks="day",
    shown_period=_shown, year_in=lambda period: year_of(period.end),
)  # fmt: skip
