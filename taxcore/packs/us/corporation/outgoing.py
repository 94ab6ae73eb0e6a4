"""What goes with a corporation's return, and what an officer declares."""

from dataclasses import replace

from taxcore.packs.us.outgoing import OUTGOING as INDIVIDUAL
from taxcore.packs.us.s_corporation.outgoing import OUTGOING as S_CORPORATION

OUTGOING = replace(S_CORPORATION, statements=INDIVIDUAL.statements)
