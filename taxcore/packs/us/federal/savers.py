"""Form 8880: the saver's credit. IRC 25B."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.trades import TRADES

_DEFERRED = {"D", "E", "F", "G", "H", "S", "AA", "BB", "EE"}
_NO_DISTRIBUTION = frozenset("GHNR6")


class SaversShare(FederalForm):
    """One column of the form: what one person saved. IRC 25B(c), (d)."""

    number, name, per, worksheet = "8880 person", "Saver's credit, one person", "person", True

    @classmethod
    def idle(cls, run):
        return SaversCredit.idle(run)

    def required(self):
        return self.run.form("us.8880").credit > 0

    @fact("Why not")
    def not_allowed(self):
        person = self.person(self.key)
        reasons = [
            (person.age_at_end() is not None and person.years_old() >= 18, "is under 18"),
            (not person.student, "is a full-time student"),
            (not person.claimed_by_other, "can be claimed as a dependent"),
        ]
        return next((reason for holds, reason in reasons if not holds), "")

    @line("1", "IRA contributions")
    def iras(self):
        return total([total(paper.traditional, paper.roth) for paper in self.papers("ira", self.key)])

    @line("2", "Elective deferrals")
    def deferred(self):
        wages = self.papers("w2", self.key)
        own = [total(books.deferral, books.simple) for kind in TRADES for books in self.papers(kind, self.key)]
        return total([total(wage.coded(_DEFERRED)) for wage in wages], own)

    @line("3", "Total contributions")
    def together(self):
        return total(self.iras, self.deferred)

    @line("4", "Distributions in the testing period")
    def distributions(self):
        """Of this year; those of the two years before and up to the due date are entered with the IRAs. On a joint return what
        either spouse received lowers what each of them saved. IRC 25B(d)(2)(C)."""
        people = [person.role for person in self.run.form("us.1040").filers]
        papers = [p for who in people for p in self.papers("1099-r", who) if not p.codes() & _NO_DISTRIBUTION]
        kept = [excess(p.gross, over=[p.rolled_over, p.converted]) for p in papers]
        return total(kept, [paper.testing_distributions for who in people for paper in self.papers("ira", who)])

    @line("5", "Contributions less distributions")
    def saved(self):
        if self.not_allowed:
            return nothing_because(self.not_allowed)
        return excess(self.together, over=self.distributions)

    @line("6", "Limited to 2,000")
    def capped(self):
        return least(of={"saved": self.saved, "most": self.law.savers_credit.most})


class SaversCredit(FederalForm):
    """The credit: a share of what both saved, by income. IRC 25B(a), (b)."""

    number, name = "8880", "Credit for qualified retirement savings contributions"
    income = linked("us.1040")
    more_credits = linked("us.sch-3")

    @classmethod
    def idle(cls, run):
        saved = any(row.code in _DEFERRED for wage in run.papers("w2") for row in wage.codes)
        return not saved and not run.papers("ira") and not any(run.papers(kind) for kind in TRADES)

    def required(self):
        return self.credit > 0

    @line("7", "Total contributions")
    def saved(self):
        roles = {person.role for person in self.income.filers}
        return total([one.capped for one in self.every("us.8880-person") if one.key in roles])

    @line("8", "Adjusted gross income")
    def agi(self):
        return total(self.income.adjusted_gross_income, self.income.left_out_abroad)

    @line("9", "Decimal amount", rounding=None)
    def rate(self):
        law, status = self.law.savers_credit, self.income.status
        for name in ("half", "fifth", "tenth"):
            if self.agi <= law[f"{name}_up_to"][status]:
                return total(law[name])
        return nothing_because("income exceeds the limit", self.agi)

    @line("10", "Credit before limit")
    def before_limit(self):
        return share(self.rate, of=self.saved)

    @line("11", "Credit limit")
    def limit(self):
        earlier = (self.more_credits.foreign, self.more_credits.care, self.more_credits.elderly, self.more_credits.education)
        return excess(self.income.tax_before_credits, over=earlier)

    @line("12", "Credit", weight="total")
    def credit(self):
        return least(of={"credit": self.before_limit, "credit limit": self.limit})
