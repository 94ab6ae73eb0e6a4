"""What an entity's return carries from year to year."""

from taxcore.engine.balances import Balance

BOOKS = Balance("books", "Accounts with their balances", "IRC 446(a)", kept_up=False)
PARTNER_CAPITAL = Balance("partner-capital", "Partner's capital, tax basis", "26 CFR 1.704-1(b)(2)", kept_up=False, waits=False)
NONRECOURSE = Balance("partner-nonrecourse", "Partner's share of nonrecourse liabilities", "IRC 752", kept_up=False, waits=False)
QUALIFIED = Balance(
    "partner-qualified", "Partner's share of qualified nonrecourse financing", "IRC 752", kept_up=False, waits=False
)
RECOURSE = Balance("partner-recourse", "Partner's share of recourse liabilities", "IRC 752", kept_up=False, waits=False)
BUILT_IN = Balance("built-in", "Partner's net unrecognized section 704(c) gain or loss", "IRC 704(c)", kept_up=False, waits=False)
TRADE_179 = Balance("entity-179", "Section 179 carried over by the entity", "IRC 179(b)(3)(B)")
ADJUSTMENTS = Balance("accumulated-adjustments", "Accumulated adjustments account", "IRC 1368(e)(1)", kept_up=False)
EARNINGS = Balance("earnings-and-profits", "Earnings and profits of C corporation years", "IRC 1368(c)(2)", kept_up=False)
OTHER_ADJUSTMENTS = Balance("other-adjustments", "Other adjustments account", "IRC 1368", kept_up=False)
CORPORATE_LOSS = Balance("corporate-loss", "Net operating losses of a corporation", "IRC 172(b)", expires=True)
CORPORATE_GIFTS = Balance("corporate-gifts", "Contributions carried over by a corporation", "IRC 170(d)(2)", expires=True)
CORPORATE_CAPITAL = Balance("corporate-capital", "Capital losses carried over by a corporation", "IRC 1212(a)", expires=True)
CORPORATE_PRIOR_TAX = Balance(
    "corporate-prior-tax", "Tax of the year before", "IRC 6655(d)(1)(B)(ii)", kept_up=False, waits=False
)
CORPORATE_CREDITED = Balance("corporate-credited", "Overpayment credited to this year", "IRC 6402(b)")
