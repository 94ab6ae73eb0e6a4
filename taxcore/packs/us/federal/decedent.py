"""Form 1310: a refund claimed for somebody who has died. IRC 6402(a); 26 CFR 301.6402-2(e)."""

from taxcore.engine import line
from taxcore.packs.us.base import FederalForm


def _answer(number, name, label):
    @line(number, label, text=True)
    def read(form):
        said = getattr(form.paper("decedent"), name)
        return "open" if said is None else "yes" if said else "no"

    return read


class DeceasedRefund(FederalForm):
    """Part II, by the person who is charged with the decedent's property and whom no court has appointed. IRC 6402(a)."""

    number, name = "1310", "Refund due a deceased taxpayer"

    @classmethod
    def idle(cls, run):
        return run.single("decedent").capacity != "claimant"

    def required(self):
        return self.run.form("us.1040").refund > 0

    will = _answer("1", "will", "The decedent left a will")
    appointed = _answer("2a", "appointed", "A court has appointed a personal representative")
    to_be_appointed = _answer("2b", "to_be_appointed", "A personal representative will be appointed")
    pays_out = _answer("3", "pays_out", "The refund is paid out by the law of the decedent's state")
