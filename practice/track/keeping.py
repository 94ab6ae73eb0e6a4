"""Whose turn it is, kept beside each return for lists, and worked out again once something happened to it."""

from django.db import connection, transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.returns.models import Purpose, Return, Stage
from practice.track.models import LeftOut, OwnStep, Track, Waits
from practice.track.steps import COLUMNS, PRACTICE, steps_of, turn_of
from taxcore.engine import BadValue


class _Refresh:
    """Called when the transaction is committed; asked for once, however much happened in it."""

    def __init__(self, pk):
        self.pk = pk

    def __eq__(self, other):
        return isinstance(other, _Refresh) and other.pk == self.pk

    __hash__ = None

    def __call__(self):
        refresh(self.pk)


def happened(of):
    """Something was recorded about a return: where it stands is worked out again when that is stored."""
    again = _Refresh(of.pk)
    if not any(one[1] == again for one in connection.run_on_commit):
        transaction.on_commit(again, robust=True)


def refresh(return_id):
    """The track of one return as it is now; None for a plan. Nobody's permission: it only says what happened."""
    rows = Return.objects.across_firms("what happened to it decides").select_related("firm", "household", "preparer", "snapshot")
    return_ = rows.filter(pk=return_id).exclude(purpose=Purpose.PLANNING).first()
    return None if return_ is None else _kept(return_, steps_of(return_))


def _kept(return_, steps):
    waits, step = turn_of(steps, return_)
    code, says = (step.code, f"{step.name}: {step.says}" if step.says else step.name) if step else ("", "")
    there = Track.objects.for_firm(return_.firm_id).filter(of=return_).first()
    since = there.since if there and there.waits == waits else _since(return_, waits, step)
    now = {"waits": waits, "step": code, "says": says[:120], "since": since}
    if there is None or any(getattr(there, name) != value for name, value in now.items()):
        Track.objects.for_firm(return_.firm_id).update_or_create(of=return_, defaults=now | {"firm_id": return_.firm_id})
    return waits, step, since


def _since(return_, waits, step):
    """The day that is known of the step, never one to come; else today."""
    today = return_.firm.today()
    return min(step.day, today) if step and step.day and waits != Waits.OFFICE else today


def track_of(return_, result=None):
    """For a page: all steps, the one that comes next, for whom the return waits and for how many days."""
    steps = steps_of(return_, result)
    waits, step, since = _kept(return_, steps)
    return {"steps": steps, "next": step, "waits": Waits(waits), "days": (return_.firm.today() - since).days}


def _return(actor, return_id):
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "ask clients", return_)
    return return_


@transaction.atomic
def leave_out(actor, return_id, step, why):
    """This client does not need a step. Cannot where it is one that nobody can do without."""
    return_ = _return(actor, return_id)
    if step not in PRACTICE:
        raise Cannot("This step cannot be left out.")
    why = written(why, "The reason", 200, "Say why it is left out.")
    LeftOut.objects.for_firm(actor.firm).get_or_create(
        household=return_.household, step=step, ended_at=None, defaults={"firm": actor.firm, "why": why, "by": actor}
    )
    record(actor, "step left out", return_, says=f"{PRACTICE[step]}: {why}")


@transaction.atomic
def take_back(actor, return_id, step):
    """The step is asked for again."""
    return_ = _return(actor, return_id)
    rows = LeftOut.objects.for_firm(actor.firm).filter(household=return_.household, step=step, ended_at=None)
    if rows.update(ended_at=timezone.now()):
        record(actor, "step taken back", return_, says=PRACTICE.get(step, step))


@transaction.atomic
def add_step(actor, return_id, stage, name, why):
    """A step of the office's own on one return."""
    return_ = _return(actor, return_id)
    name, why = written(name, "The step", 60, "Name the step."), written(why, "The reason", 200, "Say why it is needed.")
    if stage not in {one.value for one in COLUMNS}:
        raise BadValue("Choose a stage.", stage)
    if return_.own_steps.filter(name=name, removed_at=None).exists():
        raise BadValue("There is a step of that name already.", name)
    made = OwnStep.objects.create(firm=actor.firm, of=return_, stage=stage, name=name, why=why, by=actor)
    record(actor, "step added", return_, says=f"{name}: {why}")
    return made


@transaction.atomic
def mark_step(actor, return_id, step_id, done=True, remove=False):
    """A step of the office's own is done, to do again, or removed."""
    return_ = _return(actor, return_id)
    step = fetch(OwnStep.objects.filter(of=return_, removed_at=None), actor, pk=step_id)
    if remove:
        step.removed_at = timezone.now()
    else:
        step.done_by, step.done_on = (actor, return_.firm.today()) if done else (None, None)
    step.save()
    record(actor, "step removed" if remove else "step done" if done else "step to do again", return_, says=step.name)
    return step


@transaction.atomic
def set_steps(actor, wanted):
    """The steps that the practice asks for, of those that it may do without."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.steps_off = [code for code in PRACTICE if code not in wanted]
    firm.save(update_fields=["steps_off"])
    says = ", ".join(PRACTICE[code].lower() for code in firm.steps_off)
    record(actor, "steps of the practice", firm=firm, says=f"without {says}" if says else "all")


def make_missing(most=None):
    """Tracks of returns that have none yet: after an update of the program, or made past the services. How many were made."""
    rows = Return.objects.across_firms("set-up").filter(track=None).exclude(purpose=Purpose.PLANNING).exclude(stage=Stage.DONE)
    found = list(rows.values_list("pk", flat=True)[:most])
    for pk in found:
        refresh(pk)
    return len(found)
