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

    own_information = _answer("1", "own_information", "Made from what the client gave")
    worksheets = _answer("2", "worksheets", "Worksheets filled in")
    knowledge = _answer("3", "knowledge", "Interviewed, compared, written down")
    inconsistent = _answer("4", "inconsistent", "Anything contradictory")
    inquired = _answer("4a", "inquired", "Asked until it was clear")
    inquiry_kept = _answer("4b", "inquiry_kept", "Questions and answers written down")
    records = _answer("5", "records", "Records kept")
    substantiation = _answer("6", "substantiation", "Asked for papers")
    disallowed = _answer("7", "disallowed", "Denied or cut in an earlier year")
    business_asked = _answer("8", "business_asked", "Business asked about in full")
    eitc_eligible = _answer("9a", "eitc_eligible", "Earned income credit: eligibility decided")
    lived_here = _of_all("9b", "diligence-child", "lived_here", "Child lived with taxpayer")
    tie_explained = _of_all("9c", "diligence-child", "tie_explained", "Tiebreaker rules explained")
    dependant = _of_all("10", "diligence-child", "dependant", "Dependent, and U.S. citizen, national or resident")
    absence_explained = _of_all("11", "diligence-child", "absence_explained", "Child who lived elsewhere: rule explained")
    release_explained = _of_all("12", "diligence-child", "release_explained", "Separated parents: rules explained")
    substantiated = _of_all("13", "diligence-student", "substantiated", "Education credit substantiation")
    head_eligible = _answer("14", "head_eligible", "Head of household: conditions met")
    certified = _answer("15", "certified", "Certified")
