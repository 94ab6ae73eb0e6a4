"""Form 5695: energy of the home. IRC 25C (2023 to 2025), 25D (to 2025)."""

from decimal import Decimal

from taxcore.engine import excess, fact, least, line, linked, nothing_because, share, times, total
from taxcore.packs.us.balances import CLEAN_ENERGY
from taxcore.packs.us.base import FederalForm

_ENDED = "it ended with 2025"


class EnergyCredits(FederalForm):
    """Part I, clean energy; part II, improvements. IRC 25C, 25D. The old credit of 2022 stops filing."""

    number, name = "5695", "Residential energy credits"
    needs = ("energy",)
    income = linked("us.1040")
    more_credits = linked("us.sch-3")
    children = linked("us.sch-8812")

    def required(self):
        return self.clean > 0 or self.improvements > 0

    @property
    def costs(self):
        return self.paper("energy")

    @line("6a", "Clean energy")
    def clean_costs(self):
        battery = self.costs.battery if self.year >= 2023 else 0
        return total(self.costs.solar_electric, self.costs.solar_water, self.costs.wind, self.costs.geothermal, battery)

    @line("6b", "30% of costs")
    def clean_share(self):
        if "clean_energy" not in self.law:
            return nothing_because(_ENDED)
        return share(self.law.clean_energy.rate, of=self.clean_costs)

    @line("11", "Fuel cell")
    def fuel_cell(self):
        """30%, and 500 for each half kilowatt at most."""
        if "clean_energy" not in self.law:
            return nothing_because(_ENDED)
        law = self.law.clean_energy
        halves = Decimal(self.costs.fuel_cell_kilowatts or 0) / 5
        most = times(halves, law.fuel_cell_half_kilowatt, of="half kilowatts")
        return least(of={"30% of costs": share(law.rate, of=self.costs.fuel_cell), "by capacity": most})

    @line("12", "Carryover from prior year")
    def carried_in(self):
        return total(self.costs.carried_in)

    @line("13", "Residential clean energy credit before limit")
    def clean(self):
        return total(self.clean_share, self.fuel_cell, self.carried_in)

    @line("14", "Credit limit")
    def clean_limit(self):
        """Before the part of the child credit that can be paid out instead, after the part that cannot."""
        earlier = (self.more_credits.before_clean_energy, self.children.not_payable)
        return excess(self.income.tax_before_credits, over=earlier)

    @line("15", "Residential clean energy credit", weight="total", cites="IRC 25D(c)")
    def clean_credit(self):
        return least(of={"credit": self.clean, "credit limit": self.clean_limit})

    @line("16", "Carryover to next year", closes=CLEAN_ENERGY, used="clean_credit")
    def carried_on(self):
        return excess(self.clean, over=self.clean_credit)

    @line({2022: None, 2023: "18b"}, "Insulation")
    def insulation(self):
        return self._part(self.costs.insulation, "most")

    @line({2022: None, 2023: "19h"}, "Doors")
    def doors(self):
        if "home_improvement" not in self.law:
            return nothing_because("it applies from 2023 to 2025")
        first = self._part(self.costs.door_most, "door_each")
        return least(
            total(first, share(self.law.home_improvement.rate, of=self.costs.other_doors)), self.law.home_improvement.doors
        )

    @line({2022: None, 2023: "20d"}, "Windows")
    def windows(self):
        return self._part(self.costs.windows, "windows")

    @line({2022: None, 2023: "22c"}, "Air conditioner")
    def air_conditioner(self):
        return self._part(self.costs.air_conditioner, "equipment_each")

    @line({2022: None, 2023: "23c"}, "Water heater")
    def water_heater(self):
        return self._part(self.costs.water_heater, "equipment_each")

    @line({2022: None, 2023: "24c"}, "Furnace or boiler")
    def furnace(self):
        return self._part(self.costs.furnace, "equipment_each")

    @line({2022: None, 2023: "25e"}, "Panelboards")
    def panels(self):
        return self._part(self.costs.panels, "panels")

    @line({2022: None, 2023: "26c"}, "Home energy audit")
    def audit(self):
        return self._part(self.costs.audit, "audit")

    @line({2022: None, 2023: "27"}, "Total improvements")
    def first_group(self):
        return total(self.insulation, self.doors, self.windows, self.air_conditioner, self.water_heater, self.furnace,
                     self.panels, self.audit)  # fmt: skip

    @line({2022: None, 2023: "28"}, "Limited to 1,200")
    def first_capped(self):
        return self._capped(self.first_group)

    @line({2022: None, 2023: "29h"}, "Heat pumps and biomass, limited to 2,000")
    def heat_pumps(self):
        costs = total(self.costs.heat_pump, self.costs.heat_pump_water, self.costs.biomass)
        return self._part(costs, "heat_pumps")

    @line({2022: None, 2023: "30"}, "Home improvement credit before limit")
    def improvements(self):
        return total(self.first_capped, self.heat_pumps)

    @fact("Credit limit")
    def improvements_limit(self):
        return excess(self.income.tax_before_credits, over=self.more_credits.before_improvements)

    @line({2022: None, 2023: "32"}, "Energy efficient home improvement credit", weight="total", cites="IRC 25C")
    def improvement_credit(self):
        return least(of={"credit": self.improvements, "credit limit": self.improvements_limit})

    def _part(self, cost, most):
        if "home_improvement" not in self.law:
            return nothing_because("it applies from 2023 to 2025")
        law = self.law.home_improvement
        return least(of={"30% of costs": share(law.rate, of=cost), "most": law[most]})

    def _capped(self, amount):
        if "home_improvement" not in self.law:
            return nothing_because("it applies from 2023 to 2025")
        return least(amount, self.law.home_improvement.most)
