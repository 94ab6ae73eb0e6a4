"""What goes with an S corporation's return, what an officer declares, and each shareholder's Schedule K-1 as a document."""

from dataclasses import replace

from taxcore.engine.outgoing import Attachable, Capacity
from taxcore.packs.us.entity.shown import name_of, statement
from taxcore.packs.us.outgoing import OUTGOING as INDIVIDUAL
from taxcore.packs.us.states.il.entities.issuing import tables


def statements(result):
    """One for each shareholder."""
    run = result.run
    return tuple(
        statement(form, form.holder, name_of(run), _shares(form.holder), tables(form)) for form in run.every("us.sch-k-1")
    )


def _shares(holder):
    return (("Shares", *(f"{holder.at(end):,.0f}" for end in (False, True))),)


_DECLARED = (
    "Under penalties of perjury, I declare that I have examined a copy of this return with its schedules and statements, and "
    "that to the best of my knowledge and belief it is true, correct and complete. I am an officer of the corporation."
)
OUTGOING = replace(
    INDIVIDUAL,
    attachable=(
        Attachable("power-of-attorney", "Form 2848 or other power of attorney", "26 CFR 1.6062-1; Form 8453-CORP"),
        Attachable("election", "Election", "26 CFR 301.9100-8"),
        Attachable("computation", "Supporting computation"),
        Attachable("explanation", "Explanation"),
    ),
    capacities=(Capacity("agent", "agent with a power of attorney", "power-of-attorney", "26 CFR 1.6062-1"),),
    signs=f"{_DECLARED} I authorize {{practice}} to e-file the corporation's {{authority}} return.",
    authorizes=(
        f"{_DECLARED} The amounts in Part I are those of the return for {{year}}. I consent to {{practice}} e-filing the "
        "corporation's {authority} return, and to receiving the acknowledgment and the reason for any rejection or delay."
    ),
    signs_on_paper=_DECLARED,
    statements=statements,
)
