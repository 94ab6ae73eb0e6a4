"""What would be wrong with a British return, what stops it by name, and what is worth a second look."""

from taxcore.packs.uk.individual.checks import gains, income, investments, losses, pensions, rules, trades

CHECKS = (
    *rules.CHECKS, *income.CHECKS, *trades.CHECKS, *losses.CHECKS, *pensions.CHECKS, *gains.CHECKS, *investments.CHECKS,
)  # fmt: skip
