"""What the packs of all entities have alike. IRC 6031, 6037, 6012(a)(2)."""

from functools import partial

from taxcore.engine import Identifier, Pack
from taxcore.engine import law as law_files
from taxcore.packs.us import PACK as INDIVIDUAL
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.base import Filer, opens

_LAW = INDIVIDUAL.law["us"]


_LAWS = {"us": _LAW, "us-il": INDIVIDUAL.law["us-il"]}


def _opens(filers, address):
    return opens(filers, address, "business", "books")


entity_pack = partial(
    Pack, years=tuple(year for year in law_files.years(_LAW) if year >= 2023), law=_LAWS, people=Filer, filer="entity",
    opens=_opens, identifier=Identifier("Employer identification number", "EIN", "00-0000000"), currency="$",
    currency_code="USD", regions=STATES, writes="the IRS",
)  # fmt: skip
