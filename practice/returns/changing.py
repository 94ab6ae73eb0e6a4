"""What every change of a return does besides itself: new version, new summary, signatures void, accepted figures kept."""

from practice.firm import dates
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.computing import new_result_of, pack_of, result_of
from practice.returns.gathering import gathered
from practice.returns.models import FILED, Purpose, Return, Stage, State
from practice.returns.stages import reach
from taxcore.engine import ripple
from taxcore.engine.law import fingerprint


class Settled(Cannot):
    """The return cannot be changed any more; `says` tells why and what to do instead."""


def open_for_change(actor, return_id, action="key"):
    """The return with its papers, locked for this transaction. Refused, NotOfThisFirm, or Settled when it is on its way or
    accepted."""
    wanted = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = gathered(fetch(wanted, actor, pk=return_id))
    require(actor, action, return_)
    if says := closed_because(return_):
        raise Settled(says)
    return return_


def closed_because(return_):
    """Why nothing can be entered in a return at the moment; empty while it is open."""
    if left := return_.household.left_on:
        day = f"{dates.long(left)}"
        return f"The client left the practice on {day}. Everything is kept and can be read; nothing is entered or filed."
    if return_.given_up_at and return_.purpose == Purpose.AMENDING:
        return "This correction was given up: what was filed stands. Nothing is entered or filed in it."
    if return_.given_up_at and not return_.apart_from_id:
        return "Another return was made in place of this one. It is kept as it was; nothing is entered or filed in it."
    if return_.given_up_at:
        return "This separate return was canceled. It is kept as it was; nothing is entered or filed in it."
    newest = {one.authority: one.state for one in sorted(return_.submissions.all(), key=lambda one: one.pk)}
    if {State.QUEUED, State.SENT} & set(newest.values()):
        return "This return is being filed. Wait for the acknowledgment, then change it."
    done = {code for code, state in newest.items() if state in FILED}
    if done and not {State.REJECTED, State.WITHDRAWN, State.TO_MAIL} & set(newest.values()) and not _is_held(return_, done):
        was = "accepted" if State.ACCEPTED in newest.values() else "mailed"
        return f"This return was {was}. Changes belong in an amended return."
    return ""


def _is_held(return_, done):
    """Whether the return of another authority is held back: what is its own can still be entered."""
    return return_.routes.filter(way="held").exclude(authority__in=done).exists()


def forget(return_, *names):
    """What was read with the return and has changed in number since: papers, overrides."""
    for name in names:
        return_._prefetched_objects_cache.pop(name, None)


def changed(actor, return_, before):
    """Call last in a change: returns the new result. Settled when an accepted authority's lines would move."""
    return_.version += 1
    after = new_result_of(return_, before)
    _keep_accepted(return_, before, after)
    summarise(return_, after)
    if return_.stage == Stage.GATHER:
        reach(return_, Stage.PREPARE, "data entry")
    if return_.snapshot_id or return_.signed_id:
        for told in _WHEN_SIGNED:
            told(actor, return_, after)
    return_.save()
    for told in _WHEN_CHANGED:
        told(actor, return_)
    return after


def refreshed(return_, before=None):
    """Call last where only what the return says about itself can move, no line: figures that were signed stay signed."""
    return_.version += 1
    result = new_result_of(return_, before)
    summarise(return_, result)
    return_.save()
    return result


def law_mark(return_):
    """What the law's files of the return's year are, so that an update is noticed."""
    return fingerprint(tuple(pack_of(return_).law.values()), return_.year)


def summarise(return_, result):
    """What lists show, kept with the return."""
    lines = [{"code": b.authority.code, "name": b.authority.name, "amount": str(b.amount)} for b in result.bottom_lines]
    return_.summary = {"counts": result.counts, "lines": lines, "version": return_.version}
    return_.summary["law"] = law_mark(return_)
    return_.authorities = ", ".join(line["code"].split("-")[:2][-1].upper() for line in lines)
    if return_.apart_from_id:
        return_.authorities += " separate"
    together = sum(line.amount for line in result.bottom_lines)
    # Where owners pay the tax and nothing is owed there is no refund of zero to speak of.
    return_.together = None if result.run.pack.headline and not together else together


def _keep_accepted(return_, before, after):
    accepted = {submission.authority for submission in return_.submissions.all() if submission.state in FILED}
    if not accepted:
        return
    kept = {one.form.jurisdiction for one in pack_of(return_).authorities if one.code in accepted}
    for moved in ripple(before, after):
        if moved.address.split(".")[0] in kept:
            raise Settled(f"{moved.form} line {moved.number} was accepted and would change. That belongs in an amended return.")


def lock_opens(actor, return_):
    """Call last where no line moved but what goes with a locked return did: it is locked again, with the signatures it has."""
    if return_.snapshot_id:
        result = result_of(return_)
        for told in _WHEN_SIGNED:
            told(actor, return_, result)
        return_.save()


_WHEN_SIGNED = []
_WHEN_CHANGED = []


def when_it_changes(function):
    """Who must know of every change: called with actor and return once it is saved."""
    _WHEN_CHANGED.append(function)


def when_signed_changes(function):
    """Who must know that a locked or signed return changed: called with actor, return and result before the return is saved."""
    _WHEN_SIGNED.append(function)
