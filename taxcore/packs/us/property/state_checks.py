"""Where a state's own depreciation cannot be worked out, and its return waits."""

from taxcore.engine import found, stops
from taxcore.packs.us import places
from taxcore.packs.us.property.lives import special_rate
from taxcore.packs.us.states.conformity import rule
from taxcore.packs.us.states.depreciation import differs


def _in_service(run):
    return [one for one in run.papers("asset") if one.in_service is not None and one.in_service.year <= run.year]


def _why_not(run, home, own, one):
    """What of one asset a state's depreciation cannot say; empty where there is nothing."""
    if own is None:
        fast = special_rate(one) or one.section_179
        return f"What {home.name} takes over of federal depreciation is not known here." if fast else ""
    if one.sort in own.otherwise:
        return f"{home.name} has not taken over the federal law of this kind. Its own depreciation is not supported yet."
    if one.has_fallen and one.fell_in == run.year and not own.takes_special(one.in_service.year):
        return f"What {home.name} adds back of a vehicle by its own depreciation is not supported yet."
    if not differs(home.state, one):
        return ""
    if home.kind != places.WHOLE:
        return f"{home.name} has its own depreciation. For movers and nonresidents it is not supported yet."
    sale = run.form("us.sale-of-property", one.key)
    if own.long_gain and sale.is_there and sale.rest > 0:
        return f"{home.name} leaves out some of a long-term gain, of its own basis. That is not supported yet."
    return ""


@stops("us.asset.state", "State depreciation not supported", "unsupported", "state law")
def states(run):
    assets = _in_service(run)
    for home in places.made(run):
        own = rule(home.state)
        for one in assets:
            if says := _why_not(run, home, own, one):
                yield found(one.address("sort"), f"{says} Its return waits.", code="us.asset.state")
                break
        for year in {one.in_service.year for one in assets}:
            of_year = [one for one in assets if one.in_service.year == year and one.section_179]
            if own is not None and own.is_above(sum(one.section_179 for one in of_year), year):
                says = f"{home.name} expenses no more than {own.expensed:,} a year. The difference is not supported yet."
                yield found(of_year[0].address("section_179"), f"{says} Its return waits.", code="us.asset.state")


@stops("us.asset.state-passive", "State depreciation with suspended passive losses", "unsupported", "state law")
def passive(run):
    """Where losses wait, another depreciation makes others wait."""
    if run.is_idle("us.8582"):
        return
    waiting = {one.key for one in run.every("us.sch-e-part-i") if one.waits > 0}
    for home in places.made(run):
        own = rule(home.state)
        if own is not None and own.own_classes:
            continue  # no loss waits there
        for one in _in_service(run):
            if one.used_in in waiting and differs(home.state, one):
                says = f"{home.name} has its own depreciation, so other losses wait there. Its return waits."
                yield found(one.address("sort"), says, code="us.asset.state-passive")
                return


CHECKS = (states, passive)
