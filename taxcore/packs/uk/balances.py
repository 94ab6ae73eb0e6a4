"""What a British return carries from year to year."""

from taxcore.engine.balances import Balance

TRADE_LOSS = Balance("trade-loss", "Loss of a trade carried forward", "ITA 2007 s. 83", waits=False)
PROPERTY_LOSS = Balance("property-loss", "Loss of lettings carried forward", "ITA 2007 s. 118")
HOME_FINANCE = Balance("home-finance", "Finance costs of homes not relieved yet", "ITTOIA 2005 s. 274AA")
CAPITAL_LOSS = Balance("capital-loss", "Capital losses carried forward", "TCGA 1992 s. 1E")
