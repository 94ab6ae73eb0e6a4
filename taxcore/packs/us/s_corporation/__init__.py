"""Form 1120-S: an S corporation's return from its books to a Schedule K-1 for each shareholder. IRC 1361 to 1379, 6037."""

from taxcore.engine import Authority, Identifier, Pack
from taxcore.engine import law as law_files
from taxcore.packs.us import PACK as INDIVIDUAL
from taxcore.packs.us import holidays
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.base import Filer
from taxcore.packs.us.entity.base import opens as opens_with
from taxcore.packs.us.entity.books import Entry, TrialBalance
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
from taxcore.packs.us.entity.statements import CostOfGoods
from taxcore.packs.us.property.assets import Depreciation
from taxcore.packs.us.property.papers import Asset
from taxcore.packs.us.s_corporation.checks import CHECKS
from taxcore.packs.us.s_corporation.forms import CorporationReturn, Officers, ScheduleK
from taxcore.packs.us.s_corporation.issuing import issues
from taxcore.packs.us.s_corporation.k1 import Share
from taxcore.packs.us.s_corporation.outgoing import OUTGOING
from taxcore.packs.us.s_corporation.papers import About, MoreItems, Officer, Shareholder
from taxcore.packs.us.s_corporation.reconciling import Adjustments, CorporationBooks, ScheduleL

YEARS = INDIVIDUAL.law["us"]
GROUPS = {
    "people": "Corporation", "about": "About it", "books": "Books", "property": "Property", "owners": "Shareholders and officers",
}  # fmt: skip


def opens(filers, address):
    return opens_with(filers, address, "business", "books")


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
PACK = Pack(
    code="us-1120s", name="United States, S corporations", called="S corporation return",
    years=tuple(year for year in law_files.years(YEARS) if year >= 2023), people=Filer,
    papers=(About, Trade, TrialBalance, Entry, MoreItems, Shareholder, Officer, LetProperty, Asset),
    forms=(CorporationReturn, CostOfGoods, Officers, ScheduleK, Share, ScheduleL, CorporationBooks, Adjustments, Rents,
           OneProperty, EntityForm4562, EntityForm4797, EntitySection179, Depreciation, EntitySale),
    authorities=(FEDERAL,), checks=CHECKS, law={"us": YEARS}, groups=GROUPS, filer="entity",
    entity_forms=("s-corp", "llc"),
    opens=opens, issues=issues, issued_to="Shareholders",
    headline=(("us.sch-k", "ordinary"), ("us.sch-k", "net")),
    identifier=Identifier("Employer identification number", "EIN", "00-0000000"), currency="$", currency_code="USD",
    regions=STATES,
    writes="the IRS", outgoing=OUTGOING, described=described,
)  # fmt: skip
