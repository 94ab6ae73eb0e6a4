"""Returns of people who have died: who files them, and who may claim the refund. IRC 6012(b)(1), 6402; Form 1310."""

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us.papers.decedent import CAPACITIES

_ANSWERS = ("will", "appointed", "pays_out")


def _gone(run):
    return [person for person in run.form("us.1040").filers if person.death_date is not None]


@stops("us.decedent.representative", "No representative for the decedent", "missing", "IRC 6012(b)(1)")
@stops("us.decedent.name", "Decedent's representative: name is empty", "missing", "26 CFR 1.6012-3(b)(1)")
@check("us.decedent.nobody-died", "Decedent's representative, but nobody has died", "conflict", "IRC 6012(b)(1)")
@check("us.decedent.spouse-signs", "Representative entered, but the surviving spouse signs", "rule", "IRC 6013(a)(3)")
def who_files(run):
    paper, gone = run.single("decedent"), _gone(run)
    if run.person("taxpayer") is not None and not run.pack.signers(run):
        says = "No spouse is left to sign. Say who files: add “Representative of a decedent”."
        yield found(run.person("taxpayer").address("death_date"), says, code="us.decedent.representative")
    if paper.capacity and not (paper.representative and paper.street and paper.city and paper.state and paper.zip):
        name = next(one for one in ("representative", "street", "city", "state", "zip") if not getattr(paper, one))
        yield found(paper.address(name), "The return names who files, and where. Enter both.", code="us.decedent.name")
    if paper.capacity and not gone:
        says = "Enter the date of death, or empty this paper."
        yield found(paper.address("capacity"), says, code="us.decedent.nobody-died")
    if paper.capacity and gone and len(gone) < len(run.form("us.1040").filers):
        says = "The survivor signs alone, unless a court has appointed somebody: then both sign, on paper."
        yield found(paper.address("capacity"), says, code="us.decedent.spouse-signs")


@stops("us.decedent.unanswered", "Form 1310 part II not answered", "missing", "Form 1310, part II")
@stops("us.decedent.appointed", "Form 1310: a court has appointed somebody else", "conflict", "Form 1310, line 2a")
@stops("us.decedent.to-be-appointed", "Form 1310: representative not yet appointed", "rule", "Form 1310, line 2b")
@stops("us.decedent.pays-out", "Form 1310: refund not paid out by state law", "rule", "Form 1310, line 3")
@idea("us.decedent.refund-to", "Refund in a decedent's name", "missed", "Pub. 559")
def refunds(run):
    paper, form = run.single("decedent"), run.form("us.1040")
    if not paper.capacity or form.refund <= 0:
        return
    if run.single("deposit").account:
        says = "Banks send back what comes for an account that was closed. Whose account is it?"
        yield found(run.single("deposit").address("account"), says, code="us.decedent.refund-to")
    if paper.capacity != "claimant":
        return
    open_ = [name for name in _ANSWERS if getattr(paper, name) is None]
    if paper.appointed is False and paper.to_be_appointed is None:
        open_.append("to_be_appointed")
    if open_:
        says = "Whoever claims a decedent's refund answers it. Ask, and enter each."
        yield found(paper.address(open_[0]), says, code="us.decedent.unanswered")
    if paper.appointed:
        says = f"Then that person files and claims. Choose “{CAPACITIES['court']}”."
        yield found(paper.address("appointed"), says, code="us.decedent.appointed")
    if paper.to_be_appointed:
        says = "Only the representative can claim it then. File once the court has appointed one."
        yield found(paper.address("to_be_appointed"), says, code="us.decedent.to-be-appointed")
    if paper.pays_out is False:
        says = "It is refunded only to who undertakes that, or to a court's representative."
        yield found(paper.address("pays_out"), says, code="us.decedent.pays-out")


CHECKS = (who_files, refunds)
