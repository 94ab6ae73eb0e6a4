"""What a state writes off otherwise than the federal return: its own register, and what that adds to income or takes off."""

from taxcore.engine import line, nothing_because, total
from taxcore.packs.us.property.assets import WrittenOff
from taxcore.packs.us.property.lives import WITHOUT_SPECIAL, special_rate
from taxcore.packs.us.property.sales import is_sold
from taxcore.packs.us.states.base import StateForm
from taxcore.packs.us.states.conformity import rule


def differs(state, asset):
    """Whether the state's depreciation of a thing is another one."""
    own = rule(state)
    return own is not None and bool(special_rate(asset)) and not own.takes_special(asset.in_service.year)


class OwnDepreciation(StateForm, WrittenOff):
    """One asset in a state that does not take the federal special allowance. IRC 168(k); each state's law: conformity.toml."""

    number, name = "Own depreciation", "Depreciation without the special allowance"
    way = WITHOUT_SPECIAL

    @classmethod
    def keys(cls, run):
        assets = [one for one in run.papers("asset") if one.in_service is not None and one.in_service.year <= run.year]
        return [one.key for one in assets if differs(cls.state(), one)]

    @property
    def register(self):
        return self.run.form("us.depreciation", self.key)

    @property
    def is_sold(self):
        return is_sold(self.asset, self.run.year)

    @line("14", "Federal depreciation less the state's")
    def of_depreciation(self):
        federal, own = self.register, (self.special_now, self.allowed)
        return total(federal.special_now, federal.allowed, less=own)

    @line("15", "State gain less federal gain")
    def of_gain(self):
        """What was not written off here is basis."""
        if not self.is_sold:
            return nothing_because("it was not sold this year")
        return total(self.accumulated, less=self.register.accumulated)

    @line("16", "State addition or (subtraction)", weight="total")
    def difference(self):
        return total(self.of_depreciation, self.of_gain)
