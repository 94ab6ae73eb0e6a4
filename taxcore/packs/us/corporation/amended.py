"""Form 1120-X: a corporation's return corrected after it was filed. IRC 6402, 6511; 26 CFR 301.6402-3(a)(3).

Column A is what the IRS has, column C the return as it is computed now, column B what lies between. A return that is filed again
before its due date has no Form 1120-X.
"""

from taxcore.engine import Amount, Day, Flag, PaperValues, Prose, check, excess, found, line, linked, stops, total
from taxcore.engine.amending import corrects, differing
from taxcore.engine.pack import Correcting
from taxcore.packs.us.base import columns_of
from taxcore.packs.us.correcting import ends, rule
from taxcore.packs.us.entity.base import EntityForm, EntityPaper


class Amendment(EntityPaper):
    """Why a return is amended, and what was settled before, without penalties and interest. It stands on no other return."""

    kind, name, official, group = "amendment", "Amendment", "Form 1120-X", "correction"
    single, corrects = True, True

    explanation = Prose(None, "What is amended, and why", wide=True, longest=1000, needed="Form 1120-X, part II.")
    paid = Amount("6", "Paid with the original", begins="Paid and refunded before")
    paid_later = Amount(None, "Paid since")
    last_paid = Day(None, "Last paid on")
    overpaid = Amount("8", "Overpayment, if adjusted", help="If empty, as the original had it.")
    credited = Amount("12", "Credited to estimated tax", begins="Overpayment of this amendment")
    anyway = Flag(None, "Send it though no amount moved")


def _of(name):
    """Columns A and C of a line of the return."""
    return (lambda form: form.page.as_filed(name)), (lambda form: total(getattr(form.page, name)))


def _summed(*names):
    """Columns A and C of lines of the return together."""
    return (lambda form: total([form.page.as_filed(name) for name in names]),
            lambda form: total([getattr(form.page, name) for name in names]))  # fmt: skip


class AmendedReturn(EntityForm):
    """As filed, change, correct; then what is owed or refunded after what was paid and refunded before. IRC 6402(a)."""

    number, name = "1120-X", "Amended U.S. corporation income tax return"
    columns = ("As filed", "Change", "Correct")
    page = linked("us.1120")

    @classmethod
    def idle(cls, run):
        return run.amends is None or run.amends.superseding or "us-1120" not in run.amends.filed

    income_filed, income_change, income = columns_of("1", "Total income", *_of("income"))
    less_filed, less_change, less = columns_of("2", "Total deductions", *_summed("deductions", "taken_off"))
    taxable_filed, taxable_change, taxable_income = columns_of(
        "3",
        "Taxable income",
        lambda form: total(form.income_filed, less=form.less_filed),
        lambda form: total(form.income, less=form.less),
        weight="total",
    )
    tax_filed, tax_change, tax = columns_of("4", "Total tax", *_of("tax"), weight="total")

    @property
    def about(self):
        return self.paper("about")

    @property
    def settled(self):
        return self.paper("amendment")

    @line("5a", "Overpayment in prior year allowed as a credit")
    def credited_before(self):
        return total(self.about.credited_before)

    @line("5b", "Estimated tax payments", cites="IRC 6655")
    def estimates(self):
        return total(self.page.estimates)

    @line("5d", "Lines 5a and 5b, less refund applied for on Form 4466")
    def estimates_left(self):
        return total(self.credited_before, self.estimates)

    @line("5e", "Tax deposited with Form 7004")
    def with_extension(self):
        return total(self.about.with_extension)

    @line("5g", "Refundable credits")
    def withheld(self):
        return total(self.about.withheld)

    @line("6", "Tax deposited or paid with, or after, the original return")
    def paid(self):
        return total(self.settled.paid, self.settled.paid_later)

    @line("7", "Total payments")
    def payments(self):
        return total(self.estimates_left, self.with_extension, self.withheld, self.paid)

    @line("8", "Overpayment as shown on the original or later adjusted")
    def overpaid_before(self):
        settled = self.settled
        return total(settled.overpaid) if settled.is_keyed("overpaid") else self.page.as_filed("overpaid")

    @line("9", "Line 7 less line 8")
    def left(self):
        return total(self.payments, less=self.overpaid_before)

    @line("10", "Tax due", weight="total", cites="IRC 6151")
    def owed(self):
        return excess(self.tax, over=self.left)

    @line("11", "Overpayment")
    def overpaid(self):
        return excess(self.left, over=self.tax)

    @line("12a", "Credited to estimated tax")
    def credited(self):
        return total(self.settled.credited)

    @line("12", "Refunded", weight="total", cites="IRC 6402(a)")
    def refund(self):
        return excess(self.overpaid, over=self.credited)


@stops("us.1120.amended-same", "Amendment that changes nothing", "conflict")
@stops("us.1120.credited-more", "More credited than this amendment overpays", "conflict", "Form 1120-X, line 12")
@check("us.1120.amended-withheld", "Form 1120-X: line of tax withheld", "unlikely", "Form 1120-X, line 5g")
def of_amendment(run):
    federal = run.pack.authorities[0]
    if not corrects(run, federal):
        return
    paper, form = run.single("amendment"), run.form("us.1120-x")
    if not paper.anyway and not any(any(differing(run, one)) for one in run.pack.authorities if one.code in run.amends.filed):
        says = (
            "No figure is other than as filed, so nothing would be sent. Enter the change, or mark that it is sent all the same."
        )
        yield found(paper.address("anyway"), says, code="us.1120.amended-same")
    if form.credited > form.overpaid:
        says = f"{form.credited:,.0f} is to be credited to estimated tax; this amendment overpays {form.overpaid:,.0f}."
        yield found(paper.address("credited"), says, code="us.1120.credited-more")
    if form.withheld:
        says = "Tax withheld is on line 5g here. The number is not confirmed against the printed form: check it."
        yield found(form.address("withheld"), says, code="us.1120.amended-withheld")


def _begins(run):
    """The explanation, empty, and what was owed with the original, taken as paid until somebody says otherwise."""
    page = run.form("us.1120")
    owed = page.as_filed("owed") - page.as_filed("penalty")
    return (
        PaperValues("amendment", "amendment", {"paid": f"{owed:f}"} if owed > 0 else {}, carried=("paid",) if owed > 0 else ()),
    )


CORRECTING = Correcting(
    begins=_begins,
    claimable_until=lambda run, authority: ends(rule("us"), run, authority, run.single("amendment").last_paid),
    sent_anyway=lambda run, authority: bool(run.single("amendment").anyway),
    explanation=lambda run: str(run.single("amendment").explanation),
)
