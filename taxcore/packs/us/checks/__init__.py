"""Diagnostics of the American individual return, one module per subject."""

from taxcore.packs.us.basis import checks as basis
from taxcore.packs.us.checks import (
    abroad,
    accounts,
    against_papers,
    against_return,
    ages,
    amounts,
    annualized,
    benefits,
    boxes,
    business,
    business_credits,
    casualties,
    claims,
    coming,
    correcting,
    decedent,
    denied,
    diligence,
    employed,
    employment,
    family,
    identity,
    losses,
    missed,
    money,
    names,
    ownership,
    pensions,
    people,
    places,
    selling,
    unsupported,
    wages,
)
from taxcore.packs.us.farm import checks as farms
from taxcore.packs.us.property import checks as property_
from taxcore.packs.us.property import exchange_checks, home_checks, installment_checks, state_checks

MODULES = (
    identity, names, ages, accounts, ownership, people, wages, employment, employed, boxes, amounts, selling, business,
    pensions, money, benefits, missed, claims, coming, correcting, against_papers, against_return, places, diligence, unsupported,
    property_, state_checks, installment_checks, exchange_checks, home_checks, farms, family, losses, basis,
    annualized, decedent, business_credits, casualties, abroad, denied,
)  # fmt: skip
CHECKS = tuple(check for module in MODULES for check in module.CHECKS)
