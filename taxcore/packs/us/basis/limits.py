"""What the rest of the return reads of a share: its amounts after basis and risk. IRC 465, 704(d), 1366(d)."""

from dataclasses import dataclass
from typing import Any, ClassVar

from taxcore.engine import ZERO
from taxcore.packs.us.basis.papers import BASES, ITEMS, amount_of

FORM_OF = {"basis-s": "us.7203", "basis-p": "us.partner-basis"}


def _limits(run):
    """{key of a Schedule K-1: the key of the paper of its basis}."""
    return {str(paper.share): paper.key for kind in BASES for paper in run.papers(kind) if paper.share}


def of_share(paper, name):
    """One amount of a Schedule K-1 as it counts: of losses and deductions what basis and risk allow."""
    if name not in ITEMS or paper.kind == "k1-1041":
        return getattr(paper, name, ZERO)
    basis = paper.run.shared(_limits).get(paper.key)
    if basis is None:
        return amount_of(paper, name)
    return getattr(paper.run.form("us.6198", basis), f"{name}_counted")


def limits_risk(books):
    """Whether a trade's loss is limited to what is at risk, or one of before waited for it."""
    return bool(books.not_at_risk) or books.is_keyed("risk_before")


@dataclass(frozen=True)
class AboveBasis:
    """A row of Form 8949: what an owner got above basis, or of a loan whose basis losses had used."""

    proceeds: Any
    box: str
    basis: Any = ZERO
    adjustment: Any = ZERO
    specs: ClassVar[dict[str, Any]] = {}  # as a row of a broker: nothing of it is a collectible

    def is_keyed(self, name):
        """As a row of a broker is asked."""
        return name == "adjustment" and bool(self.adjustment)


def above_basis(run):
    """Gains of distributions and of repaid notes. IRC 731(a)(1), 1368(b)(2); 26 CFR 1.1367-2(d); Rev. Rul. 64-162."""
    found = []
    for kind, code in FORM_OF.items():
        for paper in run.papers(kind):
            form = run.form(code, paper.key)
            if form.above_basis > 0:
                found.append(AboveBasis(form.above_basis, "C" if paper.held_short else "F"))
            if kind == "basis-s" and form.gain_of_loan > 0:
                found.append(AboveBasis(form.gain_of_loan, "F"))
    return found
