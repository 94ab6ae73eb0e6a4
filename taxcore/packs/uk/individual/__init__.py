"""The self assessment return of an individual: SA100 with its pages, computed for 2023-24 to 2025-26. TMA 1970 s. 8."""

from taxcore.engine import Authority, Identifier, Pack
from taxcore.engine import law as law_files
from taxcore.packs.uk.base import REGIONS, YEARS, shown_year, tax_year, year_of
from taxcore.packs.uk.individual.allowance import AnnualAllowance
from taxcore.packs.uk.individual.calculation import Allowances, Charges, Contributions, Incomes, IncomeTax, Summary
from taxcore.packs.uk.individual.checks import CHECKS
from taxcore.packs.uk.individual.correcting import CORRECTING
from taxcore.packs.uk.individual.flow import flow
from taxcore.packs.uk.individual.foreign import ForeignCredit, ForeignItem, ForeignPage
from taxcore.packs.uk.individual.gains import GainsPage, GainsTax
from taxcore.packs.uk.individual.pages import AdditionalPage, EmploymentPage, MainReturn, PropertyPage
from taxcore.packs.uk.individual.papers import GROUPS, PAPERS, Taxpayer
from taxcore.packs.uk.individual.partners import FullPartnershipPage, PartnershipPage, PartnershipProfit
from taxcore.packs.uk.individual.questions import QUESTIONS
from taxcore.packs.uk.individual.supporting import OUTGOING
from taxcore.packs.uk.individual.to_come import to_come
from taxcore.packs.uk.individual.trade_pages import FullTradePage, TradePage
from taxcore.packs.uk.individual.trades import TradingProfit

FORMS = (
    MainReturn, AdditionalPage, EmploymentPage, TradePage, FullTradePage, PartnershipPage, FullPartnershipPage, PropertyPage,
    ForeignPage, GainsPage, Summary, TradingProfit, PartnershipProfit, Incomes, Allowances, IncomeTax, ForeignItem, ForeignCredit,
    Contributions, Charges, AnnualAllowance, GainsTax,
)  # fmt: skip
HMRC = Authority(
    code="uk", name="HM Revenue & Customs", form=Summary, refund="repaid", owed="owed", return_type="SA100",
    due=(1, 31), years_after=2, is_fixed=True, applies=lambda run: True, agency="HMRC",
    how_to_pay="Pay to HMRC's account with the ten-digit reference followed by the letter K.",
)  # fmt: skip


def described(result):
    """Where the taxpayer is taxed as a resident."""
    return REGIONS.get(result.run.single("about").region, "residence open")


PACK = Pack(
    code="uk", name="United Kingdom", years=law_files.years(YEARS), people=Taxpayer, papers=PAPERS, forms=FORMS,
    authorities=(HMRC,), checks=CHECKS, law={"uk": YEARS}, groups=GROUPS, period=tax_year, law_year=year_of, described=described,
    identifier=Identifier("National Insurance number", "NI number", "AB123456C"), currency="£", currency_code="GBP",
    words={"refund": "repayment", "Refund": "Repayment", "Net refund": "Net repayment",
           "Net\u00a0refund": "Net\u00a0repayment", "balance due": "tax due",
           "acknowledgments": "acknowledgements", "authorization": "authorisation",
           "authorizations": "authorisations", "three years": "six years",
           "Driver’s license": "Driving licence", "State ID": "National identity card", "Military ID": "Forces identity card",
           "Other government photo ID": "Other official photo card", "6/30/2029": "30/6/2029",
           "Issuing state or country": "Issuing authority or country"},
    day_first=True, shown_year=shown_year,
    writes="HMRC", questions=QUESTIONS, flow=flow, to_come=to_come,
    outgoing=OUTGOING, correcting=CORRECTING,
)  # fmt: skip
