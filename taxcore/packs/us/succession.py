"""Who is on next year's return: deaths and separations, and what they do to the filing status. IRC 2(a), 6013(a)(2), (3),
443(a)(2)."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Any

from taxcore.engine import ZERO, Balance, compute
from taxcore.engine.pack import CannotRoll, Succession
from taxcore.packs.us import apart, places
from taxcore.packs.us.balances import (
    APPLIED,
    FOREIGN_TAX,
    GIFT_CARRYOVER,
    INVESTMENT_INTEREST,
    LONG_LOSS,
    PRIOR_TAX,
    SHORT_LOSS,
)
from taxcore.packs.us.base import STATES, STATUSES
from taxcore.packs.us.dividing import Division

_FILERS = ("taxpayer", "spouse")
_OF_BOTH = (SHORT_LOSS, LONG_LOSS, GIFT_CARRYOVER, INVESTMENT_INTEREST, FOREIGN_TAX)
# Losses are divided by each one's own net loss, before what was deducted: 26 CFR 1.1212-1(c)(1)(iii)
_NET_LOSS = {SHORT_LOSS: ("short_loss", "long_gain"), LONG_LOSS: ("long_loss", "short_gain")}


def succession(run: Any) -> Succession:
    """Everybody who lives. Who died leaves with this year; a surviving spouse is the taxpayer then."""
    filers = [person for person in run.people() if person.role in _FILERS]
    dead = [person for person in filers if _is_dead(person)]
    if filers and len(dead) == len(filers):
        raise CannotRoll(f"{dead[0].title} died: there is no individual return for {run.year + 1}.")
    roles = {person.key: person.role for person in run.people() if not _is_dead(person)}
    remarks = [f"{one.title} died and is not on the return of {run.year + 1}." for one in run.people() if _is_dead(one)]
    filing: dict[str, Any] = {}
    if dead:
        survivor = next(person for person in filers if person not in dead)
        roles[survivor.key] = "taxpayer"
        filing["status"] = _status_of_survivor(run)
        if filing["status"] == "surviving_spouse":
            filing["spouse_died"] = str(run.year)
        remarks.append(f"Filing status proposed: {STATUSES[filing['status']]}. Confirm it.")
    values = _with_homes(run, roles, {"filing": filing} if filing else {})
    shares = _shares(run, dead[0]) if dead else {}
    for balance, part in shares.items():
        remarks.append(f"{balance.title}: {part:.0%} is {survivor.title}'s, by what each has alone. Confirm it.")
    return Succession(roles, values, shares, tuple(remarks))


def parted(run: Any, role: str) -> Succession:
    """One of a couple who file separately from next year on, as the taxpayer of their own return.

    Losses and gifts are divided as at a death. Of last year's tax each has the part that their own tax is of both (26 CFR
    1.6654-2(e)(5)). What was applied to next year's tax may be divided as they like: it is proposed for the taxpayer.
    """
    filers = {person.role: person for person in run.people() if person.role in _FILERS}
    if len(filers) < len(_FILERS) or any(_is_dead(one) for one in filers.values()) or run.form("us.1040").status != "joint":
        raise CannotRoll("Only a couple who file jointly, and both live, can part.")
    stays, leaves = filers[role], filers["spouse" if role == "taxpayer" else "taxpayer"]
    roles = {person.key: person.role for person in run.people() if person is not leaves and not _is_dead(person)}
    roles[stays.key] = "taxpayer"
    shares = _shares(run, leaves, (*_OF_BOTH, PRIOR_TAX)) | {APPLIED: Decimal(role == "taxpayer")}
    remarks = [
        f"{leaves.title} is not on the return of {run.year + 1}.",
        "Filing status proposed: Single. Confirm it, or choose Married filing separately.",
        *(f"{balance.title}: {part:.0%} is {stays.title}'s. Confirm it." for balance, part in shares.items()),
        *(f"{one.title} comes along on both returns, and one of them claims a dependent." for one in run.people("dependant")),
    ]
    values = _with_homes(run, roles, {"filing": {"status": "single"}})
    return Succession(roles, values, shares, tuple(remarks))


def _is_dead(person: Any) -> bool:
    return person.death_date is not None and person.death_date.year <= person.run.year


def _status_of_survivor(run: Any) -> str:
    """For two years after the death where a child lives in the survivor's home all year; else nothing is left of the marriage."""
    children = [
        person
        for person in run.people("dependant")
        if not _is_dead(person) and person.relationship == "child" and person.months_at_home == 12
    ]
    return "surviving_spouse" if children and run.form("us.1040").status == "joint" else "single"


def _with_homes(run: Any, roles: dict[str, str], values: dict[str, Any]) -> dict[str, Any]:
    """Whoever moved begins the next year where this one ended."""
    if not run.single("residency").rows:
        return values
    end = date(run.year, 12, 31)
    filers = [one for one in run.people() if one.role in _FILERS and one.key in roles]
    homes = {roles[one.key]: places.home_on(run, one.role, end) for one in filers}
    known = {role: home for role, home in homes.items() if home}
    if len(set(known.values())) == 1 and next(iter(known.values())) in STATES:
        return values | {"filing": values.get("filing", {}) | {"residence": next(iter(known.values()))}}
    rows = [{"id": str(number), "person": role, "state": home} for number, (role, home) in enumerate(known.items(), start=1)]
    return values | ({"residency": {"rows": rows}} if rows else {})


def _shares(run: Any, gone: Any, balances: tuple[Balance, ...] = _OF_BOTH) -> dict[Balance, Decimal]:
    """What belongs to who stays, of balances that the return of both closes: in proportion to what each has alone.

    26 CFR 1.1212-1(c)(1)(iii) for losses; 26 CFR 1.170A-10(d)(4) for gifts; the same for what is like them.
    """
    stays = Division("spouse" if gone.role == "taxpayer" else "taxpayer")
    each = {
        one.role: compute(run.pack, apart.everywhere(run, one.role, stays)).run for one in run.people() if one.role in _FILERS
    }
    found = {}
    for balance in balances:
        closing = run.pack.closings[balance, "us"]
        amounts = {role: _own(alone, balance, closing) for role, alone in each.items()}
        own = sum(amounts.values())
        if own and amounts[gone.role]:
            found[balance] = 1 - amounts[gone.role] / own
    return found


def _own(run: Any, balance: Balance, closing: Any) -> Decimal:
    code = closing.form.code()
    if run.is_idle(code):
        return ZERO
    form = run.form(code)
    if balance in _NET_LOSS:
        loss, gain = _NET_LOSS[balance]
        return Decimal(max(getattr(form, loss) - getattr(form, gain), ZERO))
    return Decimal(getattr(form, closing.line.name))
