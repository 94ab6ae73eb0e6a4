"""What may be chosen in the fields of British papers, by code."""

LOSS_USES = {
    "forward": "Carried forward against this trade", "income": "Against other income of this year",
    "back": "Against income of the year before", "both": "Against income of this year, then of the year before",
    "back_first": "Against income of the year before, then of this one",
    "opening": "Against income of three years before, the earliest first", "end": "Against profits of this trade before it ended",
}  # fmt: skip
FOREIGN_KINDS = {
    "dividends": "Dividends", "interest": "Interest", "pension": "Pension", "royalties": "Royalties", "rents": "Property",
    "other": "Other income",
}  # fmt: skip
COSTS = {
    "goods": "Goods bought for resale or used", "subcontractors": "Payments to subcontractors of construction",
    "wages": "Wages, salaries and other staff costs", "travel": "Car, van and travel",
    "premises": "Rent, rates, power and insurance",
    "repairs": "Repairs and maintenance", "office": "Phone, stationery and other office costs",
    "advertising": "Advertising and entertainment", "finance": "Interest on loans", "bank_charges": "Bank and card charges",
    "bad_debts": "Debts written off", "accountancy": "Accountancy, legal and other professional fees",
    "depreciation": "Depreciation and loss on sale of assets", "rest": "Other allowable expenses",
}  # fmt: skip
POOLS = {
    "investment": "Plant and machinery, Annual Investment Allowance", "electric": "New zero-emission car",
    "main": "Car up to 50 g/km, main rate",
    "special": "Car above 50 g/km, special rate",
}  # fmt: skip
TRADE_PAGES = {"short": "Short pages", "full": "Full pages"}
GAIN_RELIEFS = {
    "spouse": "Given or sold to the spouse", "held_over": "Held over", "rolled_over": "Rolled into a new asset",
    "deferred": "Deferred by an investment", "investors": "Investors' relief",
}  # fmt: skip
KINDS_OF_ASSET = {
    "residential": "Residential property", "land": "Other land and property", "listed": "Listed shares",
    "unlisted": "Unlisted shares", "digital": "Digital assets", "carried": "Carried interest", "other": "Other assets",
}  # fmt: skip
STAYS = {
    "lived": "Lived in", "abroad": "Employed abroad", "elsewhere": "Kept away by work", "any": "Away for another reason",
}  # fmt: skip
LUMP_SUMS = {"uncrystallised": "Uncrystallised funds or a small pot: a quarter is free", "whole": "All of it is taxed"}
RATES_OF = {"average": "Average of the year", "day": "Of one day"}
LOANS = {"none": "None", "plan_1": "Plan 1", "plan_2": "Plan 2", "plan_4": "Plan 4"}
