"""Where people lived and where income belongs: gaps, two homes at once, tax withheld by the wrong state."""

from itertools import pairwise

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us import apart, places
from taxcore.packs.us.base import STATES, UNTAXED


@stops("us.places.gap", "Residency periods leave days uncovered", "missing")
@check("us.places.two-homes", "Residency periods overlap", "conflict")
@check("us.places.whole-year-differs", "Full-year residence conflicts with residency periods", "conflict")
def living(run):
    residency, filing = run.single("residency"), run.single("filing")
    if not residency.values.get("rows"):
        return
    for person in run.form("us.1040").filers:
        for first, last in places.days_without(run, person.role):
            yield found(
                residency.address("rows"),
                f"{person.title} has no residency from {first:%B %-d} to {last:%B %-d}. Enter the state, or “abroad”.",
                code="us.places.gap",
            )
        mine = [stay for stay in places.stays(run) if stay.role == person.role]
        for one, other in pairwise(mine):
            if other.first <= one.last:
                yield found(
                    (other.address, one.address),
                    f"{person.title} has two states of residence from {other.first:%B %-d}. Correct for a dual "
                    "resident; otherwise correct the dates.",
                    code="us.places.two-homes",
                )
    if filing.residence and any(stay.state != filing.residence for stay in places.stays(run)):
        yield found(
            (filing.address("residence"), residency.address("rows")),
            f"The full-year residence is {STATES[filing.residence]}, and residency periods are entered. The periods "
            "count: clear the other field.",
            code="us.places.whole-year-differs",
        )


@check("us.places.reciprocal-withheld", "Withholding in a reciprocal state", "conflict")
def withheld_by_the_wrong_state(run):
    for wage in run.papers("w2"):
        homes = places.days_in(run, wage.owner or "taxpayer")
        home = next(iter(homes)) if len(homes) == 1 else ""
        for row in wage.states if wage.values.get("states") else ():
            if home and row.state != home and row.withheld > 0 and places.are_reciprocal(row.state, home):
                yield found(
                    row.address("withheld"),
                    f"{wage.title} withheld {row.withheld:,} for {STATES[row.state]}, which has a reciprocal agreement "
                    f"with {STATES[home]}. File there for a refund, and give the employer the exemption form.",
                    code="us.places.reciprocal-withheld",
                )


@check("us.places.left-out", "State return not prepared by choice", "election")
@check("us.places.untaxed-state", "Return requested for a state without income tax", "conflict")
def decided_by_hand(run):
    for one in places.wanted(run):
        if one.left_out:
            yield found(
                one.address,
                f"{one.name} requires a {one.kind} return ({'; '.join(one.reasons)}). It is not prepared: {one.left_out}.",
                code="us.places.left-out",
            )
    paper = run.single("state-returns")
    for row in paper.rows if paper.values.get("rows") else ():
        if row.state in UNTAXED and row.what == "make":
            yield found(
                row.address("state"),
                f"{STATES[row.state]} has no income tax, so no return is prepared. Remove the row.",
                code="us.places.untaxed-state",
            )


@check("us.places.couple-of-two-states", "One spouse never lived in the state", "election")
@check("us.places.community-property", "Community property state: income to divide between spouses", "election")
@idea("us.places.apart-pays", "Separate state returns cost less", "election")
def couple_of_two_states(run):
    """What one return means for them, and what two would come to. Pub. 555 (community property)."""
    filers = run.form("us.1040").filers
    if len(filers) < 2:
        return
    for one in places.wanted(run):
        if not one.made or one.kind == places.NONE:
            continue
        away = [person.title for person in filers if places.lived_by(run, person.role, one.state) == places.NONE]
        if away:
            yield found(
                one.address,
                f"{' and '.join(away)} never lived in {one.name}. {_together(run, one.state)} {_allowed(run, one.state)}",
                code="us.places.couple-of-two-states",
            )
        if len({places.lived_by(run, person.role, one.state) for person in filers}) > 1:
            yield from _apart(run, one, filers)


def _together(run, state):
    if places.count_as_residents(run, state):
        return "On one return both count as residents, and all income is taxed there."
    return "One state return is prepared for both, with the state's share of income."


def _allowed(run, state):
    if apart.may(run, state):
        return "The state allows separate returns: see Places for the effect."
    return "As far as known here, the state requires one return."


def _apart(run, one, filers):
    if not apart.may(run, one.state):
        return
    choice = apart.comparison(run, one.state)
    if choice.saves > 0:
        yield found(
            one.address,
            f"{one.name}: separate state returns save {choice.saves:,}. See Places.",
            code="us.places.apart-pays",
        )
    homes = {state for person in filers for state in places.days_in(run, person.role)} & apart.COMMUNITY
    if homes:
        names = " and ".join(STATES[state] for state in sorted(homes))
        yield found(
            one.address,
            f"In {names} community property rules may split income. On separate returns, income stays with the earner "
            "here: ask about domicile, and enter the split if required.",
            code="us.places.community-property",
        )


@check("us.places.worked-out-apart", "Separate state return of one spouse", "election")
def worked_out_apart(run):
    state = run.single("filing").only_state
    if state:
        yield found(
            run.single("filing").address("only_state"),
            f"Figured as if filed separately, for {STATES[state]} only. Joint items were split in half, and overrides "
            "were not copied. Compare with the joint return before signing.",
        )


CHECKS = (living, withheld_by_the_wrong_state, decided_by_hand, couple_of_two_states, worked_out_apart)
