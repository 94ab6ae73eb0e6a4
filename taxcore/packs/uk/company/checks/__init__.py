"""What would be wrong with a company's return, what stops it by name, and what is worth a second look."""

from taxcore.packs.uk.company.checks import accounts, groups, reliefs, unusual
from taxcore.packs.uk.individual.checks.rules import nothing_amended

CHECKS = (*accounts.CHECKS, *reliefs.CHECKS, *groups.CHECKS, *unusual.CHECKS, nothing_amended)
