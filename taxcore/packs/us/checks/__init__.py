"""Diagnostics of the American individual return, one module per subject."""

from taxcore.packs.us.checks import amounts, benefits, diligence, identity, ownership, people, unsupported, wages

MODULES = (identity, ownership, people, wages, amounts, benefits, diligence, unsupported)
CHECKS = tuple(check for module in MODULES for check in module.CHECKS)
