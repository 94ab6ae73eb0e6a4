"""What can be keyed for an American individual return, in the order the index lists it."""

from taxcore.packs.us.papers.interest import InterestStatement
from taxcore.packs.us.papers.people import Deposit, Filing, UnitedStatesPerson
from taxcore.packs.us.papers.wages import WageStatement

PAPERS = (Filing, WageStatement, InterestStatement, Deposit)

__all__ = ["PAPERS", "UnitedStatesPerson"]
