"""Diagnostics of the American individual return, one module per subject."""

from taxcore.packs.us.checks import identity, people, unsupported, wages

CHECKS = (*identity.CHECKS, *people.CHECKS, *wages.CHECKS, *unsupported.CHECKS)
