"""Who files for somebody who has died and left no spouse to sign. IRC 6012(b)(1); 26 CFR 1.6012-3(b)(1); Form 1310."""

from taxcore.engine import Choice, Flag, Text
from taxcore.packs.us.base import STATES, FederalPaper

CAPACITIES = {
    "court": "Personal representative appointed by a court",
    "claimant": "Person charged with the decedent's property",
}


def _claims(paper):
    return paper.capacity == "claimant"


class Decedent(FederalPaper):
    """The final return of somebody who died, or one that was still open. A surviving spouse signs a joint return without it."""

    kind, name, official, group = "decedent", "Representative of a decedent", "Form 1310", "people"
    single, owned = True, False

    capacity = Choice(None, "Filed by", CAPACITIES, wide=True, cites="IRC 6012(b)(1)")
    representative = Text(None, "Name", longest=60, wide=True)
    street = Text(None, "Street address", longest=60, wide=True)
    city = Text(None, "City", longest=40)
    state = Choice(None, "State", STATES)
    zip = Text(None, "ZIP code", pattern=r"\d{5}(-\d{4})?", longest=10,
               pattern_says="A ZIP code has five digits, or nine as 00000-0000.")  # fmt: skip
    will = Flag("1", "The decedent left a will", only=_claims, begins="Form 1310, where a refund is claimed")
    appointed = Flag("2a", "A court has appointed a personal representative", only=_claims)
    to_be_appointed = Flag("2b", "One will be appointed", only=_claims)
    pays_out = Flag("3", "The refund is paid out as the decedent's state's law provides", only=_claims)
