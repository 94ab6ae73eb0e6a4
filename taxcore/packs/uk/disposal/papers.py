"""What a return within sixty days asks besides the home: the year as far as it is known."""

from taxcore.engine import Amount
from taxcore.packs.uk.base import BritishPaper


class Estimate(BritishPaper):
    """The year's income as it is reasonably expected, losses, and other homes sold before. FA 2019 Sch. 2 paras 6, 7, 14."""

    kind, name, official, group = "estimate", "The year so far", "Property disposal return", "gains"
    single, always, owned = True, True, False

    income = Amount(
        None, "Taxable income of the year, estimated", cites="FA 2019 Sch. 2 para. 14", help="After allowances.",
        needed="It decides how much is taxed at the lower rate.",
    )  # fmt: skip
    losses = Amount(None, "Losses of before and of the year so far", cites="FA 2019 Sch. 2 para. 6(3)")
    earlier_gains = Amount(None, "Gains of homes reported before in the year", cites="FA 2019 Sch. 2 para. 7")
    earlier_paid = Amount(None, "Tax paid with those returns", cites="FA 2019 Sch. 2 para. 7")
