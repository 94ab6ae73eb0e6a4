"""What a paid preparer must ask and keep, per benefit, child and student. IRC 6695(g); 26 CFR 1.6695-2; Form 8867.

Nothing is answered in advance and nothing is copied from one child to another: an empty answer stops filing.
"""

from taxcore.engine import Choice, Day, Flag, Refer, Text
from taxcore.packs.us.base import FederalPaper
from taxcore.packs.us.federal.trades import TRADES

MANNERS = {"person": "In person", "video": "By video", "telephone": "By phone", "writing": "In writing"}
_ASK = "Ask the client and answer."


def claims(run):
    """Which of the benefits that need the checklist are claimed: a set of eitc, child, education, head.

    None where the federal return is only worked out for a state's and goes to nobody.
    """
    if run.single("filing").only_state:
        return set()
    form = run.form("us.1040")
    found = {
        "eitc": form.earned_income_credit > 0,
        "child": form.child_credit + form.additional_child_credit > 0,
        "education": not run.is_idle("us.8863") and form.education.american_left > 0,
        "head": form.status == "head_of_household",
    }
    return {name for name, is_claimed in found.items() if is_claimed}


def _claimed(*names):
    return lambda paper: bool(claims(paper.run) & set(names))


class _Asked(FederalPaper):
    """Who was asked, when and how, and what was seen: kept for three years with the answers."""

    group, owned = "diligence", False

    asked = Text(None, "Who provided the answers", longest=60, needed="The record must say who provided the answers.")
    asked_on = Day(None, "Date asked", needed="The record must say when.")
    manner = Choice(None, "How", MANNERS, needed="The record must say how.")
    documents = Text(
        None,
        "Documents relied on",
        wide=True,
        longest=200,
        help="School, medical or landlord records, birth certificate. If empty, none.",
    )
    note = Text(None, "Note", wide=True, longest=400, help="What was unclear, and the inquiries made.")


class Diligence(_Asked):
    """Questions about the return as a whole. Form 8867, parts I, II, V and VI."""

    kind, name, official, single = "diligence", "Preparer's due diligence", "8867", True

    own_information = Flag(
        "1", "Return based on information provided by the client or reasonably obtained", needed=_ASK, begins="Whole return"
    )
    worksheets = Flag("2", "Worksheets for each credit completed", needed=_ASK)
    knowledge = Flag("3", "Knowledge requirement met: client interviewed, answers documented", needed=_ASK)
    inconsistent = Flag("4", "Any information appeared incorrect, incomplete or inconsistent", needed=_ASK)
    inquired = Flag("4a", "Reasonable inquiries made", needed=_ASK, only=lambda paper: paper.inconsistent is True)
    inquiry_kept = Flag("4b", "Inquiries documented", needed=_ASK, only=lambda paper: paper.inconsistent is True)
    records = Flag("5", "Records retained", needed=_ASK)
    substantiation = Flag("6", "Asked client about substantiating documents", needed=_ASK)
    disallowed = Flag("7", "Credit disallowed or reduced in a prior year", needed=_ASK)
    business_asked = Flag("8", "Questions asked for a complete and correct Schedule C", needed=_ASK,
                          only=lambda paper: any(paper.run.papers(kind) for kind in TRADES))  # fmt: skip
    eitc_eligible = Flag("9a", "EIC: eligibility determined, with or without a qualifying child", needed=_ASK,
                         only=_claimed("eitc"))  # fmt: skip
    head_eligible = Flag(
        "14", "Head of household: unmarried and paid over half the cost of keeping up a home", needed=_ASK, only=_claimed("head")
    )
    certified = Flag(
        "15", "All answers true, correct and complete to the best of the preparer's knowledge", needed="The signer certifies it."
    )


class DiligenceForChild(_Asked):
    """Questions about one child or other dependent. Form 8867, parts II and III."""

    kind, name, official = "diligence-child", "Due diligence, child", "8867"

    child = Refer(None, "Child or dependent", ("person",), needed="Choose the person.", optional=True)
    lived_here = Flag(
        "9b", "Child lived with taxpayer over half the year", needed=_ASK, only=_claimed("eitc"), cites="IRC 32(c)(3)"
    )
    tie_explained = Flag(
        "9c", "Tiebreaker rules explained, if somebody else could claim the child", needed=_ASK, only=_claimed("eitc")
    )
    dependant = Flag("10", "Dependent, and U.S. citizen, national or resident", needed=_ASK, only=_claimed("child"))
    absence_explained = Flag("11", "Explained: no credit if child lived elsewhere without a release", needed=_ASK,
                             only=_claimed("child"))  # fmt: skip
    release_explained = Flag("12", "Rules for separated parents explained, with Form 8332", needed=_ASK, only=_claimed("child"))

    @property
    def title(self):
        person = next((one for one in self.run.people() if one.key == self.values.get("child")), None)
        return f"Due diligence, {person.title}" if person is not None else self.name


class DiligenceForStudent(_Asked):
    """The question about one student. Form 8867, part IV."""

    kind, name, official = "diligence-student", "Due diligence, student", "8867"

    student = Refer(None, "Student", ("person",), needed="Choose the person.", optional=True)
    substantiated = Flag("13", "Substantiation for education credit seen (1098-T, receipts)", needed=_ASK)

    @property
    def title(self):
        person = next((one for one in self.run.people() if one.key == self.values.get("student")), None)
        return f"Due diligence, {person.title}" if person is not None else self.name
