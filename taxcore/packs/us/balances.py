"""What an American return carries from year to year. The lines that close these and the fields that open them name them."""

from taxcore.engine.balances import Balance

SHORT_LOSS = Balance("short-loss", "Short-term capital loss carried over", "IRC 1212(b)")
LONG_LOSS = Balance("long-loss", "Long-term capital loss carried over", "IRC 1212(b)")
APPLIED = Balance("applied", "Overpayment applied to this year", "IRC 6402(b)")
CLEAN_ENERGY = Balance("clean-energy", "Clean energy credit carried over", "IRC 25D(c)")
INVESTMENT_INTEREST = Balance("investment-interest", "Investment interest carried over", "IRC 163(d)(2)")
IRA_BASIS = Balance("ira-basis", "IRA basis carried over", "IRC 408(o)")
IRA_EXCESS = Balance("ira-excess", "Excess IRA contributions carried over", "IRC 4973")
ROTH_EXCESS = Balance("roth-excess", "Excess Roth contributions carried over", "IRC 4973(f)")
HSA_EXCESS = Balance("hsa-excess", "Excess HSA contributions carried over", "IRC 4973(g)")
HOME_OFFICE = Balance("home-office", "Home office expenses carried over", "IRC 280A(c)(5)", waits=False)
INVENTORY = Balance("inventory", "Inventory at the start", "IRC 471", waits=False)
QUALIFIED_LOSS = Balance("qualified-loss", "QBI loss carryforward", "IRC 199A(c)(2)")
GIFT_CARRYOVER = Balance("gifts", "Contribution carryover", "IRC 170(d)(1)", expires=True)
FOREIGN_TAX = Balance("foreign-tax", "Foreign tax carried over", "IRC 904(c)", expires=True)
COST_RECOVERED = Balance("cost-recovered", "Cost of an annuity recovered in prior years", "IRC 72(d)(1)", waits=False)
AMERICAN_YEARS = Balance("american-years", "Years American opportunity credit claimed before", "IRC 25A(b)(2)(A)", waits=False)

# Figures of the year before that the law looks at
PRIOR_INCOME = Balance("prior-agi", "Prior year AGI", "IRC 6654(d)(1)(C)", kept_up=False, wanted=True)
PRIOR_TAX = Balance("prior-tax", "Prior year tax", "IRC 6654(d)(1)(B)", kept_up=False)
PRIOR_STATE_TAX = Balance("prior-state-tax", "Prior year state tax", kept_up=False)
ITEMIZED_BEFORE = Balance("itemized-before", "Itemized last year", "IRC 111", kept_up=False)
ITEMIZED_TOTAL = Balance("itemized-total", "Itemized deductions of last year", "IRC 111", kept_up=False)
STATE_TAX_DEDUCTED = Balance("state-tax-deducted", "State income tax deducted last year", "IRC 111", kept_up=False)
SALES_TAX_BEFORE = Balance("sales-tax-before", "Sales tax of last year", "IRC 111", kept_up=False)
ABOVE_CAP = Balance("above-cap", "Taxes above the cap last year", "IRC 164(b)(6)", kept_up=False)
STANDARD_BEFORE = Balance("standard-before", "Standard deduction of last year", "IRC 111", kept_up=False)
NEGATIVE_INCOME = Balance("negative-income", "Negative taxable income of last year", "IRC 111(a)", kept_up=False)
