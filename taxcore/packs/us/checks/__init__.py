"""Diagnostics of the American individual return, one module per subject."""

from taxcore.packs.us.checks import identity, unsupported, wages

CHECKS = (*identity.CHECKS, *wages.CHECKS, *unsupported.CHECKS)
