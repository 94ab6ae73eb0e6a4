"""Whether all that a preparer must ask for a benefit was asked, and what the answers mean. IRC 6695(g)."""

from taxcore.engine import found, stops
from taxcore.packs.us.papers.diligence import Diligence, claims

_NAMES = {
    "eitc": "the earned income credit",
    "child": "the child credits",
    "education": "the education credit",
    "head": "head of household",
}
# A no to these means that the duty is not met or the benefit not there
_MUST_BE_YES = (
    "own_information",
    "worksheets",
    "knowledge",
    "inquired",
    "inquiry_kept",
    "records",
    "substantiation",
    "business_asked",
    "eitc_eligible",
    "head_eligible",
    "certified",
    "lived_here",
    "dependant",
    "absence_explained",
    "release_explained",
    "tie_explained",
    "substantiated",
)


@stops("us.diligence.missing", "Due diligence not started", "diligence", "IRC 6695(g)")
def checklist_missing(run):
    claimed = claims(run)
    if claimed and not run.papers(Diligence.kind):
        names = ", ".join(_NAMES[name] for name in _NAMES if name in claimed)
        first = f"{Diligence.jurisdiction}.{Diligence.kind}.1"  # of the paper that is to be added
        yield found(
            (first, run.form("us.8867").address("own_information")),
            f"The return claims {names}: due diligence is required (Form 8867). Add “Preparer's due diligence” and ask "
            "its questions.",
        )


@stops("us.diligence.child-missing", "Due diligence: child", "diligence", "IRC 6695(g)")
def child_missing(run):
    """Each child that a credit counts has questions of its own."""
    if not claims(run) & {"eitc", "child"}:
        return
    asked = {paper.child for paper in run.papers("diligence-child")}
    for one in run.every("us.dependent"):
        counts = one.child_credit > 0 or one.other_credit > 0 or one.counts_for_earned_income
        if counts and one.key not in asked:
            yield found(
                one.who.address("first_name"),
                f"The due diligence questions about {one.who.title} have not been asked yet. Add “Due diligence, child” for "
                f"{one.who.title}.",
            )


@stops("us.diligence.student-missing", "Due diligence: student", "diligence", "IRC 6695(g)")
def student_missing(run):
    if "education" not in claims(run):
        return
    asked = {paper.student for paper in run.papers("diligence-student")}
    for one in run.every("us.8863-student"):
        if one.american > 0 and one.key not in asked:
            who = next(person for person in run.people() if person.key == one.key)
            yield found(
                who.address("first_name"),
                f"The due diligence question about {who.title}'s education has not been asked yet. Add “Due diligence, "
                f"student” for {who.title}.",
            )


@stops("us.diligence.answered-no", "Answer denies the credit", "diligence", "26 CFR 1.6695-2(b)")
def answered_no(run):
    for kind in ("diligence", "diligence-child", "diligence-student"):
        for paper in run.papers(kind):
            for name in _MUST_BE_YES:
                field = paper.fields().get(name)
                if field is not None and field.applies(paper) and getattr(paper, name) is False:
                    yield found(
                        paper.address(name),
                        f"{paper.title}: “{field.label}” is answered no. The credit cannot be claimed: correct the "
                        "answer, or do not claim it.",
                    )


CHECKS = (checklist_missing, child_missing, student_missing, answered_no)
