"""What would be wrong with an owner's basis and amounts at risk, and what is easily missed. IRC 465, 704(d), 1366(d)."""

from collections import Counter

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.basis.limits import FORM_OF, limits_risk
from taxcore.packs.us.basis.papers import BASES, amount_of
from taxcore.packs.us.federal.trades import trades

_SHARES = tuple(kind for kinds in BASES.values() for kind in kinds)


def _papers(run):
    return [paper for kind in BASES for paper in run.papers(kind)]


def _forms(run):
    return [run.form(FORM_OF[paper.kind], paper.key) for paper in _papers(run)]


@stops("us.share.basis-missing", "Loss without a basis", "missing", "IRC 465, 704(d), 1366(d)")
@check("us.share.7203", "Form 7203 goes with the return", "missing", "IRC 1366(d)")
@idea("us.share.basis-kept", "Basis of a share not tracked", "missed", "IRC 705, 1367")
def shares(run):
    with_basis = {str(paper.share) for paper in _papers(run)}
    for kind in ("k1-1041", *_SHARES):
        for paper in run.papers(kind):
            if paper.key in with_basis:
                continue
            lost = min(amount_of(paper, name) for name in ("ordinary", "rental", "other_rental"))
            if lost < 0 and paper.all_at_risk is not True:
                says = "Add its basis paper, or say that basis and amounts at risk allow all of it."
                if kind == "k1-1041":
                    says = "Say whether the limits at risk allow all of it: IRC 465."
                yield found(paper.address("all_at_risk"), says, code="us.share.basis-missing")
            elif lost < 0 and kind == "k1-1120s":
                says = "A shareholder who deducts a loss attaches it. Add “S corporation basis”."
                yield found(paper.address("all_at_risk"), says, code="us.share.7203")
            elif kind != "k1-1041" and paper.participates:
                says = "What is distributed above it is taxed, and losses need it. Add its basis paper."
                yield found(paper.address("entity"), says, code="us.share.basis-kept")


@stops("us.basis.twice", "Two basis papers for one Schedule K-1", "conflict", "IRC 705, 1367")
@check("us.basis.owner", "Basis and Schedule K-1 have different owners", "conflict", "IRC 705, 1367")
@stops("us.basis.debt-above-loan", "Debt basis above the loan balance", "conflict", "IRC 1367(b)(2)(B)")
@stops("us.basis.repaid-above", "Principal repaid above the loan balance", "conflict", "IRC 1366(d)(1)(B)")
@stops("us.basis.open-account", "Repayment of an open account with gain", "unsupported", "Rev. Rul. 68-537")
@check("us.basis.not-at-risk-above", "Amount not at risk above the basis", "conflict", "IRC 465(b)")
@check("us.basis.empty", "Beginning basis is empty", "missing", "IRC 705, 1367")
def papers(run):
    same = Counter(str(paper.share) for paper in _papers(run) if paper.share)
    for form in _forms(run):
        paper = form.paper
        if form.share is None:
            continue
        if same[str(paper.share)] > 1:
            yield found(paper.address("share"), "One paper has all of a share's basis. Remove the other.", code="us.basis.twice")
        if paper.owner != form.share.owner:
            yield found(paper.address("owner"), "They belong to the same person. Check both.", code="us.basis.owner")
        started = "stock" if paper.kind == "basis-s" else "basis"
        if not paper.is_keyed(started) and not paper.contributed and form.lost > 0:
            says = "All of the loss waits then. Enter what last year left, zero if it was nothing."
            yield found(paper.address(started), says, code="us.basis.empty")
        if paper.not_at_risk > form.basis_for_risk:
            says = "It is part of the basis, and more than that. Check both."
            yield found(paper.address("not_at_risk"), says, code="us.basis.not-at-risk-above")
        if paper.kind == "basis-p":
            continue
        if paper.debt > paper.loan:
            says = "A loan's basis is what of it losses have not used. Check both."
            yield found(paper.address("debt"), says, code="us.basis.debt-above-loan")
        if form.repaid > form.lent_in_all:
            yield found(paper.address("repaid"), "It exceeds the loan. Check both.", code="us.basis.repaid-above")
        if form.gain_of_loan > 0 and paper.open_account:
            says = "Its gain is ordinary income, on Form 4797. It is not supported yet."
            yield found(paper.address("open_account"), says, code="us.basis.open-account")


@idea("us.basis.waits", "Loss suspended by basis", "missed", "IRC 704(d), 1366(d)(2)")
@idea("us.basis.distribution-gain", "Distribution in excess of basis", "missed", "IRC 731(a)(1), 1368(b)(2)")
@check("us.basis.repayment-gain", "Gain on repayment of a loan with reduced basis", "rule", "26 CFR 1.1367-2(d)")
@check("us.basis.self-employment", "Self-employment earnings of a limited loss", "rule", "IRC 1402(a)")
@check("us.basis.qbi", "QBI of a limited loss", "rule", "26 CFR 1.199A-3(b)(1)(iv)")
@check("us.basis.disposed", "Suspended loss of a share disposed of", "rule", "26 CFR 1.1366-2(a)(6), 1.704-1(d)")
def limited(run):
    for form in _forms(run):
        paper, of = form.paper, form.share
        if of is None:
            continue
        if form.left > 0:
            says = f"{form.left:,.0f} wait. Money put in, or lent, before the year ends frees them."
            yield found(form.address("left"), says, code="us.basis.waits")
        if form.above_basis > 0:
            says = f"{form.above_basis:,.0f} are capital gain, on Form 8949. Is the basis complete?"
            yield found(form.address("above_basis"), says, code="us.basis.distribution-gain")
        if form.left > 0 and getattr(of, "self_employment", ZERO) < 0:
            says = "Box 14 has all of the loss. Enter what is allowed this year."
            yield found(of.address("self_employment"), says, code="us.basis.self-employment")
        if form.left > 0 and of.qualified_income < 0:
            says = "What waits is no qualified business loss yet. Enter what is allowed this year."
            yield found(of.address("qualified_income"), says, code="us.basis.qbi")
        if form.left > 0 and of.disposed:
            says = "A loss above basis is not deducted when the share is gone. Check its last distributions and gain."
            yield found(of.address("disposed"), says, code="us.basis.disposed")
        if paper.kind == "basis-s" and form.gain_of_loan > 0 and not paper.open_account:
            says = f"{form.gain_of_loan:,.0f} are gain, long-term for a written note held more than a year."
            yield found(paper.address("repaid"), says, code="us.basis.repayment-gain")


@stops("us.risk.amount", "Loss without an amount at risk", "missing", "IRC 465(a)(1)")
@stops("us.risk.recapture", "Amount at risk below zero", "unsupported", "IRC 465(e)")
@idea("us.risk.waits", "Loss suspended by the at-risk rules", "missed", "IRC 465(a)(2)")
@check("us.risk.unasked", "Amount at risk entered, and all investment at risk", "conflict", "IRC 465")
def at_risk(run):
    for trade in trades(run):
        books = trade.books
        if not limits_risk(books):
            if books.at_risk:
                says = "It limits nothing unless some investment is not at risk. Check both."
                yield found(books.address("at_risk"), says, code="us.risk.unasked")
            continue
        form = run.form("us.6198", books.key)
        if form.result < 0 and not books.is_keyed("at_risk"):
            says = "Enter what the owner can lose: zero if it is nothing. The loss is allowed up to it."
            yield found(books.address("at_risk"), says, code="us.risk.amount")
        if form.left > 0:
            yield found(books.address("at_risk"), f"{form.left:,.0f} wait, and come along next year.", code="us.risk.waits")
    for basis in _forms(run):
        if basis.share is None or not basis.paper.not_at_risk:
            continue
        form, paper = run.form("us.6198", basis.key), basis.paper
        if basis.basis_for_risk + form.before - form.gross < paper.not_at_risk and form.result >= 0:
            says = "Losses deducted before become income again. It is not supported yet."
            yield found(paper.address("not_at_risk"), says, code="us.risk.recapture")
        if form.left > 0:
            says = f"{form.left:,.0f} wait, and come along next year."
            yield found(paper.address("not_at_risk"), says, code="us.risk.waits")


CHECKS = (shares, papers, limited, at_risk)
