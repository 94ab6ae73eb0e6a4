"""Diagnostics that nobody wants to hear: on one return, or anywhere in the practice. What stops filing is always heard."""

from dataclasses import dataclass

from django.db import transaction

from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.returns.changing import refreshed
from practice.returns.computing import pack_of
from practice.returns.models import Return
from taxcore.engine import KINDS, STOPS, BadValue, Diagnostic


@dataclass(frozen=True)
class Entry:
    """A diagnostic as the catalogue shows it. `silenced` is {"by", "on", "why"} where the practice does not hear it."""

    of: Diagnostic
    kind: str
    silenced: dict


def catalogue(firm, words="", weight="", kind=""):
    """The diagnostics that fit a search, by code. Every word must stand in its code, title or rule."""
    wanted = words.lower().split()
    found = []
    for one in sorted(usual_pack().diagnostics.values(), key=lambda one: one.code):
        text = f"{one.code} {one.title} {one.cites} {KINDS[one.kind]}".lower()
        fits = all(word in text for word in wanted) and weight in ("", one.weight) and kind in ("", one.kind)
        if weight == "silenced":
            fits = all(word in text for word in wanted) and one.code in firm.silenced
        if fits:
            found.append(Entry(one, KINDS[one.kind], firm.silenced.get(one.code, {})))
    return found


def _may_be_silenced(diagnostic, code):
    if diagnostic is None:
        raise BadValue("There is no such diagnostic.", code)
    if diagnostic.weight == STOPS:
        raise BadValue(f"“{diagnostic.title}” stops filing. It cannot be suppressed; it must be fixed.", code)


def _who(actor, why, code):
    if not why.strip():
        raise BadValue("Enter a reason.", code)
    why = written(why, "The reason", 200)
    return {"by": actor.initials, "on": actor.firm.today().isoformat(), "why": why}


@transaction.atomic
def silence_for_firm(actor, code, why):
    """Not to be heard on any return of the practice. BadValue for what stops filing, an unknown code, or no reason."""
    require(actor, "administer", actor)
    _may_be_silenced(usual_pack().diagnostics.get(code), code)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.silenced = firm.silenced | {code: _who(actor, why, code)}
    firm.save(update_fields=["silenced"])
    record(actor, "diagnostic suppressed", firm=firm, says=f"{code}, whole practice: {why.strip()[:100]}", code=code)


@transaction.atomic
def hear_again_in_firm(actor, code):
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    if code in firm.silenced:
        firm.silenced = {known: said for known, said in firm.silenced.items() if known != code}
        firm.save(update_fields=["silenced"])
        record(actor, "diagnostic no longer suppressed", firm=firm, says=f"{code}, whole practice", code=code)


@transaction.atomic
def silence_on_return(actor, return_id, code, why):
    """Not to be heard on this return. BadValue as for the practice."""
    return_ = _locked(actor, return_id)
    _may_be_silenced(pack_of(return_).diagnostics.get(code), code)
    return_.silenced = return_.silenced | {code: _who(actor, why, code)}
    refreshed(return_)
    record(actor, "diagnostic suppressed", return_, says=f"{code}: {why.strip()[:100]}", code=code)


@transaction.atomic
def hear_again_on_return(actor, return_id, code):
    return_ = _locked(actor, return_id)
    if code in return_.silenced:
        return_.silenced = {known: said for known, said in return_.silenced.items() if known != code}
        refreshed(return_)
        record(actor, "diagnostic no longer suppressed", return_, says=code, code=code)


def _locked(actor, return_id):
    rows = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(rows.prefetch_related("papers", "overrides"), actor, pk=return_id)
    require(actor, "silence", return_)
    return return_
