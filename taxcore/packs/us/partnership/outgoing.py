"""What goes with a partnership's return, and what a partner declares."""

from dataclasses import replace

from taxcore.engine.outgoing import Attachable, Capacity
from taxcore.packs.us.outgoing import OUTGOING as INDIVIDUAL
from taxcore.packs.us.partnership.statements import statements

_DECLARED = (
    "Under penalties of perjury, I declare that I have examined a copy of this return with its schedules and statements, and "
    "that to the best of my knowledge and belief it is true, correct and complete. I am a partner or member of the partnership."
)
OUTGOING = replace(
    INDIVIDUAL,
    attachable=(
        Attachable("power-of-attorney", "Form 2848 or other power of attorney", "26 CFR 1.6063-1; Form 8453-PE"),
        Attachable("election", "Election", "26 CFR 301.9100-8"),
        Attachable("schedule-b-1", "Schedule B-1", "Schedule B, line 2"),
        Attachable("computation", "Supporting computation"),
        Attachable("explanation", "Explanation"),
    ),
    capacities=(Capacity("agent", "agent with a power of attorney", "power-of-attorney", "26 CFR 1.6063-1"),),
    signs=f"{_DECLARED} I authorize {{practice}} to e-file the partnership's {{authority}} return.",
    authorizes=(
        f"{_DECLARED} The amounts in Part I are those of the return for {{year}}. I consent to {{practice}} e-filing the "
        "partnership's {authority} return, and to receiving the acknowledgment and the reason for any rejection or delay."
    ),
    signs_on_paper=_DECLARED,
    statements=statements,
)
