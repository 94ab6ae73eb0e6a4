"""Form 8867: the paid preparer's checklist, filled from the papers that keep the answers. IRC 6695(g)."""

from taxcore.engine import fact, line
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.diligence import claims


def _answer(number, name, label):
    """One question of the whole return: yes, no, or nothing where it is not asked."""

    @line(number, label, text=True)
    def read(form):
        paper = next(iter(form.papers("diligence")), None)
        if paper is None:
            return "open"
        return _words(getattr(paper, name)) if paper.fields()[name].applies(paper) else "not asked"

    return read


def _of_all(number, kind, name, label):
    """Yes only where it is yes for each child or student."""

    @line(number, label, text=True)
    def read(form):
        papers = [paper for paper in form.papers(kind) if paper.fields()[name].applies(paper)]
        if not papers:
            return "not asked"
        answers = {getattr(paper, name) for paper in papers}
        return "yes" if answers == {True} else "no" if False in answers else "open"

    return read


def _words(answer):
    return {True: "yes", False: "no"}.get(answer, "open")


class PreparersChecklist(FederalForm):
    """Goes with the return where a benefit of its list is claimed. IRC 6695(g); 26 CFR 1.6695-2(b)."""

    number, name = "8867", "Paid preparer's due diligence checklist"

    def required(self):
        return bool(self.benefits)

    @fact("Credits claimed")
    def benefits(self):
        return frozenset(claims(self.run))

    own_information = _answer("1", "own_information", "Information provided by the client")
    worksheets = _answer("2", "worksheets", "Worksheets completed")
    knowledge = _answer("3", "knowledge", "Knowledge requirement")
    inconsistent = _answer("4", "inconsistent", "Information incorrect, incomplete or inconsistent")
    inquired = _answer("4a", "inquired", "Reasonable inquiries")
    inquiry_kept = _answer("4b", "inquiry_kept", "Inquiries documented")
    records = _answer("5", "records", "Records retained")
    substantiation = _answer("6", "substantiation", "Substantiating documents")
    disallowed = _answer("7", "disallowed", "Disallowed or reduced in a prior year")
    business_asked = _answer("8", "business_asked", "Schedule C questions")
    eitc_eligible = _answer("9a", "eitc_eligible", "EIC eligibility")
    lived_here = _of_all("9b", "diligence-child", "lived_here", "Child lived with taxpayer")
    tie_explained = _of_all("9c", "diligence-child", "tie_explained", "Tiebreaker rules explained")
    dependant = _of_all("10", "diligence-child", "dependant", "Dependent, and U.S. citizen, national or resident")
    absence_explained = _of_all("11", "diligence-child", "absence_explained", "Child who lived elsewhere: rule explained")
    release_explained = _of_all("12", "diligence-child", "release_explained", "Separated parents: rules explained")
    substantiated = _of_all("13", "diligence-student", "substantiated", "Education credit substantiation")
    head_eligible = _answer("14", "head_eligible", "Head of household eligibility")
    certified = _answer("15", "certified", "Certification")
