"""More time to file an entity's returns: Form 7004, and what goes to states. IRC 6081, 6072."""

from taxcore.engine import excess, fact, line, total
from taxcore.packs.us.entity.base import ZERO, EntityForm
from taxcore.packs.us.papers.payments import MoreTimeAsked
from taxcore.packs.us.papers.places import StateExtensions


class EntityExtension(MoreTimeAsked):
    """An entity's request. A payment counts once it is made. IRC 6081, 6151(a)."""

    kind, name, official, group = "extension", "Extension", "7004", "payments"


class EntityStateExtensions(StateExtensions):
    """States that are asked for more time."""

    group = "payments"


class Form7004(EntityForm):
    """Form 7004. IRC 6081; 26 CFR 1.6081-2, 1.6081-3."""

    number, name = "7004", "Extension of time to file"

    def required(self):
        return bool(self.paper("extension").asked)

    @property
    def page(self):
        return self.run.form(self.run.pack.authorities[0].form.code())

    @line("6", "Tentative total tax")
    def expected(self):
        paper = self.paper("extension")
        return total(paper.expected_tax) if paper.is_keyed("expected_tax") else total(self.page.tax)

    @line("7", "Total payments and credits")
    def paid(self):
        """Without what goes with this; owners of others pay for themselves."""
        page = self.page
        return excess(page.payments, over=self.paper("about").with_extension) if "payments" in page.specs else total(0)

    @line("8", "Balance due", weight="total")
    def balance(self):
        return excess(self.expected, over=self.paid)

    @fact("Amount paid with extension")
    def paying(self):
        return total(self.paper("extension").paying)


def paid_with_extension(run):
    """Federal: asked and paid."""
    paper = run.single("extension")
    return paper.paying if paper.paid else ZERO


def paid_to(run, state):
    """With a state's extension: made, not only asked for."""
    return sum((row.paying for row in run.single("state-extensions").rows if row.state == state and row.paid), ZERO)


PAPERS = (EntityExtension, EntityStateExtensions)
