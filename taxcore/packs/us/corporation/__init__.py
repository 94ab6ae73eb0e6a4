"""Form 1120: a corporation's return from its books to its tax. IRC 11, 6012(a)(2)."""

from taxcore.engine import Authority
from taxcore.packs.us import holidays
from taxcore.packs.us.corporation.amended import CORRECTING, AmendedReturn, Amendment, of_amendment
from taxcore.packs.us.corporation.checks import CHECKS
from taxcore.packs.us.corporation.estimates import Estimates, Form2220
from taxcore.packs.us.corporation.forms import CorporationForm4797, CorporationReturn, SpecialDeductions, TaxComputation, Waiting
from taxcore.packs.us.corporation.outgoing import OUTGOING
from taxcore.packs.us.corporation.papers import About, Carryovers, Dividends
from taxcore.packs.us.corporation.reconciling import DeductedInPart, RetainedEarnings, ScheduleL, ToTaxableIncome
from taxcore.packs.us.entity.books import Entry, TrialBalance
from taxcore.packs.us.entity.correcting import amended
from taxcore.packs.us.entity.more_time import PAPERS as MORE_TIME
from taxcore.packs.us.entity.more_time import Form7004
from taxcore.packs.us.entity.packing import entity_pack
from taxcore.packs.us.entity.property import EntityForm4562, EntitySale, EntitySection179, Trade
from taxcore.packs.us.entity.received import Received
from taxcore.packs.us.entity.statements import CostOfGoods
from taxcore.packs.us.property.assets import Depreciation
from taxcore.packs.us.property.papers import Asset
from taxcore.packs.us.s_corporation.forms import Officers
from taxcore.packs.us.s_corporation.papers import Officer
from taxcore.packs.us.states.il.entities import CORPORATION as ILLINOIS

GROUPS = {"people": "Corporation", "about": "About it", "books": "Books", "property": "Property", "owners": "Officers",
          "states": "States", "payments": "Payments and extensions", "correction": "Amendment"}  # fmt: skip


FEDERAL = Authority(
    code="us-1120", name="Federal", agency="the IRS", form=CorporationReturn, refund="refund", owed="owed", return_type="1120",
    due=(4, 15), applies=lambda run: True, declaration="8879-CORP", closed=holidays.federal, tax="tax", income="taxable_income",
    amended="us.1120-x",
    how_to_pay="Pay through the Electronic Federal Tax Payment System; name Form 1120 and the tax year.",
    # Form 8879-CORP, part I
    authorized=(("income", 0), ("taxable_income", 0), ("tax", 0), ("owed", 0), ("overpaid", 0)),
)  # fmt: skip
PACK = entity_pack(
    code="us-1120", name="United States, corporations", called="Corporation return",
    papers=(About, Trade, TrialBalance, Entry, Received, Dividends, Carryovers, Officer, Asset, Estimates, *ILLINOIS.papers,
            *MORE_TIME, Amendment),
    forms=(CorporationReturn, CostOfGoods, Officers, SpecialDeductions, TaxComputation, ScheduleL, ToTaxableIncome,
           RetainedEarnings, EntityForm4562, CorporationForm4797, EntitySection179, Depreciation, EntitySale, Waiting,
           DeductedInPart, *ILLINOIS.forms, Form7004, Form2220, AmendedReturn),
    authorities=(FEDERAL, ILLINOIS.authority), checks=(*CHECKS, *ILLINOIS.checks, amended, of_amendment), groups=GROUPS,
    entity_forms=("company", "llc", "association"),
    outgoing=OUTGOING, correcting=CORRECTING,
)  # fmt: skip
