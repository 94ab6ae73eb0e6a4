"""The table of every diagnostic: (code, a return that has it, the same return fixed)."""

from taxcore.packs.us.tests.diagnosed import (
    between,
    claimed,
    corrected,
    credits,
    employed,
    exchanges,
    families,
    farms,
    first,
    paid,
    papers,
    penalties,
    people,
    property,
    shares,
    states,
)

CASES = (
    *first.CASES,
    *people.CASES,
    *papers.CASES,
    *paid.CASES,
    *claimed.CASES,
    *between.CASES,
    *states.CASES,
    *corrected.CASES,
    *property.CASES,
    *employed.CASES,
    *families.CASES,
    *farms.CASES,
    *shares.CASES,
    *penalties.CASES,
    *exchanges.CASES,
    *credits.CASES,
)
