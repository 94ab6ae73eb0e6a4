"""Like-kind exchanges."""

from taxcore.packs.us.tests.diagnosed.making import one, paper, places, single, wage
from taxcore.packs.us.tests.diagnosed.property import built, house, shop, thing
from taxcore.packs.us.tests.returns import filing

_DAYS = {"acquired": "2015-04-01", "transferred": "2025-03-01", "identified": "2025-04-10", "received": "2025-05-20"}


def swapped(**values):
    given = {"given": "Meadow", "got": "Copse", "sort": "capital", "related": "no", "basis": "50", "value": "90", "cash": "9"}
    return paper("exchange", "e1", **{**given, **_DAYS, **values})


def let(**values):
    """A let house, exchanged for another one."""
    return built(**{"in_service": "2015-04-01", "sold": "2025-03-01", **values})


def rented(**values):
    return swapped(**{"sort": "rental", "asset": "a1", "basis": "", "value": "300000", "cash": "0", **values})


CASES = [
    ("us.exchange.related", one(swapped(related="yes")), one(swapped())),
    ("us.exchange.not-real", one(shop(), thing(in_service="2023-05-05", sold="2025-03-01"), rented(sort="trade")), one(house(), let(), rented())),
    ("us.exchange.state", one(filing(residence=""), single("residency", rows=[
        {"id": "1", "person": "taxpayer", "state": "IL", "last": "2025-06-30"}, {"id": "2", "person": "taxpayer", "state": "WI", "first": "2025-07-01"}]),
        wage(**places(("IL", "9", "1"), ("WI", "9", "1"))), swapped()), one(swapped())),
    ("us.exchange.other-basis", one(shop(), thing(sort="improvement", cost="9000", in_service="2022-05-05", sold="2025-03-01", no_special="no"), rented(sort="trade")),
     one(house(), let(), rented())),
    ("us.exchange.passive", one(house(disposed="yes"), let(), rented()), one(house(), let(), rented())),
    ("us.exchange.identified", one(swapped(identified="2025-04-16")), one(swapped(identified="2025-04-15"))),
    ("us.exchange.received", one(swapped(received="2025-08-29")), one(swapped(received="2025-08-28"))),
    ("us.exchange.order", one(swapped(acquired="2025-03-02")), one(swapped())),
    ("us.exchange.due-date", one(swapped(transferred="2025-11-01", identified="2025-11-05", received="2026-04-16")),
     one(swapped(transferred="2025-11-01", identified="2025-11-05", received="2026-04-15"))),
    ("us.exchange.other-year", one(swapped(transferred="2024-12-31")), one(swapped())),
    ("us.exchange.asset-there", one(house(), let(sold=""), rented()), one(house(), let(), rented())),
    ("us.exchange.asset-priced", one(house(), let(sold_for="5"), rented()), one(house(), let(), rented())),
    ("us.exchange.asset-sort", one(house(), let(), rented(sort="capital")), one(house(), let(), rented())),
    ("us.exchange.value", one(swapped(value="")), one(swapped())),
    ("us.exchange.loss", one(swapped(basis="100")), one(swapped(basis="99"))),
    ("us.exchange.replacement", one(swapped(sort="trade")), one(swapped())),
    ("us.exchange.replacement-cost", one(house(), swapped(sort="rental", replacement="a1"), built(in_service="2025-05-20", cost="51")),
     one(house(), swapped(sort="rental", replacement="a1"), built(in_service="2025-05-20", cost="50", land="9"))),
]  # fmt: skip
