"""Form 1065: a partnership's return from its books to a Schedule K-1 for each partner. IRC 701 to 777, 6031."""

from taxcore.engine import Authority
from taxcore.packs.us import holidays
from taxcore.packs.us.entity.books import Entry, TrialBalance
from taxcore.packs.us.entity.correcting import CORRECTING, Amendment, amended, regime
from taxcore.packs.us.entity.more_time import PAPERS as MORE_TIME
from taxcore.packs.us.entity.more_time import Form7004
from taxcore.packs.us.entity.packing import entity_pack
from taxcore.packs.us.entity.property import (
    EntityForm4562,
    EntityForm4797,
    EntitySale,
    EntitySection179,
    LetProperty,
    OneProperty,
    Rents,
    Trade,
)
from taxcore.packs.us.entity.received import Received
from taxcore.packs.us.entity.statements import CostOfGoods
from taxcore.packs.us.partnership.checks import CHECKS
from taxcore.packs.us.partnership.forms import PartnershipReturn, ScheduleK
from taxcore.packs.us.partnership.issuing import issues
from taxcore.packs.us.partnership.k1 import Share
from taxcore.packs.us.partnership.outgoing import OUTGOING
from taxcore.packs.us.partnership.papers import PAPERS
from taxcore.packs.us.partnership.reconciling import PartnersCapital, PartnershipBooks, ScheduleL
from taxcore.packs.us.property.assets import Depreciation
from taxcore.packs.us.property.papers import Asset
from taxcore.packs.us.states.il.entities import PARTNERSHIP as ILLINOIS

GROUPS = {
    "people": "Partnership", "about": "About it", "books": "Books", "property": "Property", "owners": "Partners",
    "states": "States", "payments": "Extensions", "correction": "Amendment",
}  # fmt: skip


def described(result):
    """How many partners there are."""
    count = len(result.run.papers("partner"))
    return f"{count} partners" if count != 1 else "1 partner"


FEDERAL = Authority(
    code="us-1065", name="Federal", agency="the IRS", form=PartnershipReturn, refund="overpaid", owed="owed", return_type="1065",
    due=(3, 15), applies=lambda run: True, declaration="8879-PE", closed=holidays.federal, tax="tax", income="ordinary",
    # Form 8879-PE, part I
    authorized=(("receipts", 0), ("gross_profit", 0), ("ordinary", 0)),
)  # fmt: skip
PACK = entity_pack(
    code="us-1065", name="United States, partnerships", called="Partnership return",
    papers=(PAPERS[0], Trade, TrialBalance, Entry, Received, PAPERS[3], *PAPERS[1:3], *PAPERS[4:], LetProperty, Asset,
            *ILLINOIS.papers, *MORE_TIME, Amendment),
    forms=(PartnershipReturn, CostOfGoods, ScheduleK, Share, ScheduleL, PartnershipBooks, PartnersCapital, Rents, OneProperty,
           EntityForm4562, EntityForm4797, EntitySection179, Depreciation, EntitySale, *ILLINOIS.forms, Form7004),
    authorities=(FEDERAL, ILLINOIS.authority), checks=(*CHECKS, *ILLINOIS.checks, regime, amended), groups=GROUPS,
    entity_forms=("partnership", "llc"), issues=issues, correcting=CORRECTING,
    outgoing=OUTGOING, issued_to="Partners",
    headline=(("us.sch-k", "ordinary"), ("us.sch-k", "net")), described=described,
)  # fmt: skip
