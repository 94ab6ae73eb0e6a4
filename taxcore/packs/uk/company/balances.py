"""What a company's return carries from period to period."""

from taxcore.engine.balances import Balance

MAIN_POOL = Balance("ct-main-pool", "Main pool of capital allowances", "CAA 2001 s. 56")
SPECIAL_POOL = Balance("ct-special-pool", "Special rate pool of capital allowances", "CAA 2001 s. 104D")
ASSETS = Balance("ct-assets", "Plant and cars that are there", "CAA 2001 s. 62", kept_up=False)
TRADE_LOSS = Balance("ct-trade-loss", "Trading losses carried forward", "CTA 2010 s. 45A")
TRADE_LOSS_2017 = Balance("ct-trade-loss-2017", "Trading losses of before April 2017", "CTA 2010 s. 45")
PROPERTY_LOSS = Balance("ct-property-loss", "Losses of lettings carried forward", "CTA 2010 s. 62(5)")
DEFICIT = Balance("ct-deficit", "Non-trading deficits of loans carried forward", "CTA 2009 s. 463G")
RESERVES = Balance("ct-reserves", "Reserves of the accounts", "Companies Act 2006 s. 393", kept_up=False)
CAPITAL_LOSS = Balance("ct-capital-loss", "Capital losses carried forward", "TCGA 1992 s. 2A")
