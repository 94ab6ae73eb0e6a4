"""Form 1120-S: an S corporation's return from its books to a Schedule K-1 for each shareholder. IRC 1361 to 1379, 6037."""

from taxcore.engine import Authority
from taxcore.packs.us import holidays
from taxcore.packs.us.entity.books import Entry, TrialBalance
from taxcore.packs.us.entity.correcting import CORRECTING, Amendment, amended
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
from taxcore.packs.us.property.assets import Depreciation
from taxcore.packs.us.property.papers import Asset
from taxcore.packs.us.s_corporation.checks import CHECKS
from taxcore.packs.us.s_corporation.forms import CorporationReturn, Officers, ScheduleK
from taxcore.packs.us.s_corporation.issuing import issues
from taxcore.packs.us.s_corporation.k1 import Share
from taxcore.packs.us.s_corporation.outgoing import OUTGOING
from taxcore.packs.us.s_corporation.papers import About, Closing, MoreItems, Officer, Shareholder
from taxcore.packs.us.s_corporation.reconciling import Adjustments, CorporationBooks, ScheduleL
from taxcore.packs.us.states.il.entities import S_CORPORATION as ILLINOIS

GROUPS = {
    "people": "Corporation", "about": "About it", "books": "Books", "property": "Property", "owners": "Shareholders and officers",
    "states": "States", "payments": "Extensions", "correction": "Amendment",
}  # fmt: skip


def described(result):
    """How many shareholders there are."""
    count = len(result.run.papers("shareholder"))
    return f"{count} shareholders" if count != 1 else "1 shareholder"


FEDERAL = Authority(
    code="us-1120s", name="Federal", agency="the IRS", form=CorporationReturn, refund="overpaid", owed="owed",
    return_type="1120S",
    due=(3, 15), applies=lambda run: True, declaration="8879-CORP", closed=holidays.federal, tax="tax", income="ordinary",
    # Form 8879-CORP, part I
    authorized=(("receipts", 0), ("gross_profit", 0), ("ordinary", 0)),
)  # fmt: skip
PACK = entity_pack(
    code="us-1120s", name="United States, S corporations", called="S corporation return",
    papers=(About, Trade, TrialBalance, Entry, Received, MoreItems, Shareholder, Closing, Officer, LetProperty, Asset,
            *ILLINOIS.papers, *MORE_TIME, Amendment),
    forms=(CorporationReturn, CostOfGoods, Officers, ScheduleK, Share, ScheduleL, CorporationBooks, Adjustments, Rents,
           OneProperty, EntityForm4562, EntityForm4797, EntitySection179, Depreciation, EntitySale, *ILLINOIS.forms, Form7004),
    authorities=(FEDERAL, ILLINOIS.authority), checks=(*CHECKS, *ILLINOIS.checks, amended), groups=GROUPS,
    entity_forms=("s-corp", "llc"),
    issues=issues, correcting=CORRECTING, issued_to="Shareholders",
    headline=(("us.sch-k", "ordinary"), ("us.sch-k", "net")),
    outgoing=OUTGOING, described=described,
)  # fmt: skip
