"""The company tax return: CT600 for one accounting period, from accounts to tax. FA 1998 Sch. 18."""

from datetime import timedelta

from taxcore.engine import Authority, Identifier, Pack, PaperValues
from taxcore.packs.uk.company.base import (
    FILED,
    YEARS,
    financial_year,
    months_after,
    period_after,
    refuses_period,
    shown,
    shown_period,
    usual_period,
)
from taxcore.packs.uk.company.checks import CHECKS
from taxcore.packs.uk.company.correcting import CORRECTING
from taxcore.packs.uk.company.ct600 import CompanyReturn
from taxcore.packs.uk.company.flow import flow
from taxcore.packs.uk.company.notes import Notes
from taxcore.packs.uk.company.pages import GroupPage, Instalments, LoansPage
from taxcore.packs.uk.company.papers import GROUPS, PAPERS, Company
from taxcore.packs.uk.company.plant import PlantForm
from taxcore.packs.uk.company.questions import QUESTIONS
from taxcore.packs.uk.company.supporting import OUTGOING
from taxcore.packs.uk.company.tagged import read_back
from taxcore.packs.uk.company.trading import AccountsForm, TradingProfit
from taxcore.packs.uk.individual import PACK as INDIVIDUAL

_NAMES = {"name": "company", "number": "number"}


def due_on(period):
    """Twelve months after the period's end: FA 1998 Sch. 18 para. 14."""
    return months_after(period.end, 12)


def to_be_paid_on(period):
    """Nine months and a day after the period's end: TMA 1970 s. 59D."""
    return months_after(period.end, 9) + timedelta(days=1)


def _paying(run):
    if paid := run.form("uk.instalments").payments():
        each = ", ".join(f"£{amount:,.2f} by {day:%-d %B %Y}" for day, amount in paid)
        return f"Pay {each} to HMRC's account with the company's 17-character payment reference for this period."
    day = to_be_paid_on(run.period)
    return f"Pay by {day:%-d %B %Y} to HMRC's account with the company's 17-character payment reference for this period."


def opens(filers, address):
    """The company by what the practice knows of it; what is asked of it and its accounts are to be entered."""
    made = []
    for one in filers:
        values = {"role": "taxpayer"} | {name: one[known] for known, name in _NAMES.items() if one.get(known)}
        made.append(PaperValues("taxpayer", "person", values, carried=tuple(name for name in values if name != "role")))
    return (*made, PaperValues("about", "about", {}), PaperValues("accounts", "accounts", {}))


HMRC = Authority(
    code="uk-ct", name="HMRC, Corporation Tax", form=CompanyReturn, refund="repaid", owed="owed", return_type="CT600",
    due=(3, 31), years_after=2, is_fixed=True, due_after=due_on, paid_after=to_be_paid_on, applies=lambda run: True,
    agency="HMRC", paying=_paying, income="profits", tax="charged",
)  # fmt: skip
PACK = Pack(
    code="uk-ct", name="United Kingdom, companies", called="Company tax return", years=FILED, people=Company,
    papers=(*PAPERS, Notes),
    forms=(CompanyReturn, LoansPage, GroupPage, Instalments, TradingProfit, AccountsForm, PlantForm), authorities=(HMRC,),
    checks=CHECKS,
    law={"uk": YEARS}, groups=GROUPS, period=usual_period, law_year=financial_year, filer="entity", opens=opens,
    identifier=Identifier("Unique Taxpayer Reference", "reference", "0000000000"), currency="£", currency_code="GBP",
    words=INDIVIDUAL.words, day_first=True, shown_year=shown, writes="HMRC", outgoing=OUTGOING, asks="period",
    shown_period=shown_period, year_in=lambda period: financial_year(period.end), period_after=period_after,
    refuses_period=refuses_period, questions=QUESTIONS, correcting=CORRECTING,
    reads_tagged=read_back, flow=flow,
)  # fmt: skip
