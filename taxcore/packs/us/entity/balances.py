"""What an entity's return carries from year to year."""

from taxcore.engine.balances import Balance

BOOKS = Balance("books", "Accounts with their balances", "IRC 446(a)", kept_up=False)
PARTNER_CAPITAL = Balance("partner-capital", "Partner's capital, tax basis", "26 CFR 1.704-1(b)(2)", kept_up=False, waits=False)
NONRECOURSE = Balance("partner-nonrecourse", "Partner's share of nonrecourse liabilities", "IRC 752", kept_up=False, waits=False)
QUALIFIED = Balance(
    "partner-qualified", "Partner's share of qualified nonrecourse financing", "IRC 752", kept_up=False, waits=False
)
RECOURSE = Balance("partner-recourse", "Partner's share of recourse liabilities", "IRC 752", kept_up=False, waits=False)
TRADE_179 = Balance("entity-179", "Section 179 carried over by the entity", "IRC 179(b)(3)(B)")
