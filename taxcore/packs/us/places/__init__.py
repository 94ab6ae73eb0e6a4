"""Where people lived and where income belongs: which states' returns there must be, and why. No state's law is in here."""

from taxcore.packs.us.places.agreements import are_reciprocal, are_reverse, reciprocal_pairs
from taxcore.packs.us.places.allocation import Belongs, belongs, earned_in, lies_in, owners, part_lived, situated
from taxcore.packs.us.places.credit import TaxedElsewhere, taxed_at_home, taxed_elsewhere
from taxcore.packs.us.places.residence import (
    NONE,
    PART,
    WHOLE,
    Stay,
    count_as_residents,
    days_in,
    days_without,
    home_at_end,
    home_on,
    lived,
    lived_by,
    part_lived_by,
    stays,
)
from taxcore.packs.us.places.wanted import Wanted, calls, is_spared, made, wanted

__all__ = [
    "NONE",
    "PART",
    "WHOLE",
    "Belongs",
    "Stay",
    "TaxedElsewhere",
    "Wanted",
    "are_reciprocal",
    "are_reverse",
    "belongs",
    "calls",
    "count_as_residents",
    "days_in",
    "days_without",
    "earned_in",
    "home_at_end",
    "home_on",
    "is_spared",
    "lies_in",
    "lived",
    "lived_by",
    "made",
    "owners",
    "part_lived",
    "part_lived_by",
    "reciprocal_pairs",
    "situated",
    "stays",
    "taxed_at_home",
    "taxed_elsewhere",
    "wanted",
]
