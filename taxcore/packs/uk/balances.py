"""What a British return carries from year to year."""

from taxcore.engine.balances import Balance

TRADE_LOSS = Balance("trade-loss", "Loss of a trade carried forward", "ITA 2007 s. 83", waits=False)
PROPERTY_LOSS = Balance("property-loss", "Loss of lettings carried forward", "ITA 2007 s. 118")
HOME_FINANCE = Balance("home-finance", "Finance costs of homes not relieved yet", "ITTOIA 2005 s. 274AA")
CAPITAL_LOSS = Balance("capital-loss", "Capital losses carried forward", "TCGA 1992 s. 1E")
PARTNER_LOSS = Balance("partner-loss", "Loss of a partnership's share carried forward", "ITA 2007 s. 83", waits=False)
PARTNER_PROPERTY = Balance("partner-property", "Loss of a partnership's lettings carried forward", "ITA 2007 s. 118", waits=False)
PARTNER_TRANSITION = Balance("partner-transition", "Transition profit of a share left", "FA 2022 Sch. 1 para. 72", waits=False)
TRADE_CLASS_4 = Balance("trade-class-4", "Losses of a trade kept for class 4", "SSCBA 1992 Sch. 2 para. 3(4)", waits=False)
PARTNER_CLASS_4 = Balance("partner-class-4", "Losses of a share kept for class 4", "SSCBA 1992 Sch. 2 para. 3(4)", waits=False)
MAIN_POOL = Balance("main-pool", "Main pool of capital allowances", "CAA 2001 s. 56", waits=False)
SPECIAL_POOL = Balance("special-pool", "Special rate pool of capital allowances", "CAA 2001 s. 104D", waits=False)
ASSETS = Balance("assets", "Plant and cars with what they are worth", "CAA 2001 ss. 56, 206", waits=False, kept_up=False)
TRANSITION = Balance("transition", "Transition profit left to be charged", "FA 2022 Sch. 1 para. 72", waits=False)
BUSINESS_LIFETIME = Balance(
    "business-lifetime", "Gains with business asset disposal relief so far", "TCGA 1992 s. 169N(4)", kept_up=False
)
ALLOWANCE_UNUSED = Balance("allowance-unused", "Annual allowance unused", "FA 2004 s. 228A", expires=True)
UNREMITTABLE = Balance("unremittable", "Foreign income that could not be remitted", "ITTOIA 2005 s. 842", waits=False)
