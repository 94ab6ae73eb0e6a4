"""Form 8936: credits for clean vehicles, new and used; what is repaid of one that was passed to a dealer. IRC 25E, 30D."""

from taxcore.engine import excess, fact, least, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm


class OneVehicle(FederalForm):
    """What the law allows for one vehicle, claimed here or passed on by the dealer. Schedule A of Form 8936. IRC 25E, 30D."""

    number, name, per, worksheet = "8936 vehicle", "Clean vehicle", "clean-vehicle", True

    @property
    def paper(self):
        return self.run.by_key(("clean-vehicle",), self.key)

    def required(self):
        return False

    @property
    def is_in_time(self):
        """Placed in service this year, and acquired before the credits ended. Pub. L. 119-21 secs. 70501, 70502."""
        paper, law = self.paper, self.law.clean_vehicle
        acquired = paper.acquired or paper.in_service
        return paper.in_service is not None and paper.in_service.year == self.year and acquired.isoformat() <= law.ends

    @fact("Income is within the limit of this year or the last", cites="IRC 25E(b)(2), 30D(f)(10)")
    def is_within(self):
        income, last = self.run.form("us.1040"), self.run.single("prior-year")
        most = self.law.clean_vehicle["income_new" if self.paper.condition == "new" else "income_used"][income.status]
        last_year = last.is_keyed("adjusted_gross_income") and last.adjusted_gross_income <= most
        return income.adjusted_gross_income + income.left_out_abroad <= most or last_year

    @fact("Credit before the income limit", cites="IRC 25E(a), 30D(b)")
    def allowed(self):
        paper, law = self.paper, self.law.clean_vehicle
        if not self.is_in_time:
            return nothing_because("it was not placed in service this year, or was acquired after the credit ended")
        if paper.condition == "new":
            return least(paper.credit, law.most_new)
        if paper.price > law.most_price or paper.earlier:
            return nothing_because("it cost too much, or another credit was taken within three years")
        return least(share(law.rate_used, of=paper.price), law.most_used)

    @fact("Credit claimed here")
    def claimed(self):
        if self.paper.transferred or not self.is_within:
            return nothing_because("it was transferred to the dealer, or income is above the limit")
        return total(self.allowed)

    @fact("Transferred credit to repay", cites="IRC 25E(f), 30D(g)(10)")
    def to_repay(self):
        if not self.paper.transferred or self.is_within:
            return nothing_because("it was not transferred, or income is within the limit")
        return total(self.allowed)


class CleanVehicles(FederalForm):
    """Clean vehicle credits of a person: what the tax does not use is lost. IRC 25E, 30D(c)(2).

    Form 8936's line numbers are open, see docs/law-coverage.md.
    """

    number, name = "8936", "Clean vehicle credits"
    needs = ("clean-vehicle",)
    income, more_credits = linked("us.1040"), linked("us.sch-3")

    def required(self):
        return bool(self.papers("clean-vehicle"))

    def _every(self, name, condition):
        return [getattr(one, name) for one in self.every("us.8936-vehicle") if one.paper.condition == condition]

    @fact("Credit limit of new vehicles", cites="IRC 26(a)")
    def limit(self):
        return excess(self.income.tax_before_credits, over=self.more_credits.before_vehicles)

    @fact("Credit for new vehicles", cites="IRC 30D(c)(2)")
    def new(self):
        return least(of={"credit": total(self._every("claimed", "new")), "credit limit": self.limit})

    @fact("Credit for used vehicles", cites="IRC 25E(a)")
    def used(self):
        left = excess(self.limit, over=self.new)
        return least(of={"credit": total(self._every("claimed", "used")), "credit limit": left})

    @fact("Repayment of credits for new vehicles")
    def repaid_new(self):
        return total(self._every("to_repay", "new"))

    @fact("Repayment of credits for used vehicles")
    def repaid_used(self):
        return total(self._every("to_repay", "used"))
