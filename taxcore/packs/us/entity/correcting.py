"""Amended returns of entities whose owners pay the tax: the whole return again, with new Schedules K-1. IRC 6031(b), 6037."""

from taxcore.engine import Flag, PaperValues, Prose, found, stops
from taxcore.engine.amending import goes_out
from taxcore.engine.pack import Correcting
from taxcore.packs.us.entity.base import EntityPaper

_YEARS = 3  # for owners' refunds and for administrative adjustment: IRC 6511(a), 6227(c)


class Amendment(EntityPaper):
    """Why a return is amended. It stands on no other return."""

    kind, name, official, group = "amendment", "Amendment", "Amended return", "correction"
    single, corrects = True, True

    explanation = Prose(None, "What is amended, and why", wide=True, longest=1000, needed="It goes with the amended return.")
    anyway = Flag(None, "Send it though no amount moved")


@stops("us.1065.amended-regime", "Amended return under the centralized audit regime", "unsupported", "IRC 6031(b), 6227")
def regime(run):
    """Of a partnership. A return that takes the place of one before the due date asks for nothing of it."""
    about = run.single("about")
    if run.amends is not None and not run.amends.superseding and not about.elects_out:
        says = "Without the election out it asks for an administrative adjustment, Form 8082, which is not made here."
        yield found(about.address("elects_out"), says)


@stops("us-il.entity.amended", "Illinois: amended return of an entity", "unsupported", "35 ILCS 5/505, 506")
def amended(run):
    """A return that takes the place of one before the due date is none of these."""
    if run.amends is None or run.amends.superseding:
        return
    for authority in run.pack.authorities[1:]:
        if authority.code in run.amends.filed and goes_out(run, authority):
            at = run.form(authority.form.code()).address("owed")
            says = (
                f"{authority.name}'s amended form, with what was paid before, is not made here. It cannot be e-filed from here."
            )
            yield found(at, says, code="us-il.entity.amended")


def _until(run, authority):
    due = authority.due_on(run.year)
    return authority.working_day(due.replace(year=due.year + _YEARS))


CORRECTING = Correcting(
    begins=lambda run: (PaperValues("amendment", "amendment", {}),),
    claimable_until=_until,
    sent_anyway=lambda run, authority: bool(run.single("amendment").anyway),
    explanation=lambda run: str(run.single("amendment").explanation),
)
