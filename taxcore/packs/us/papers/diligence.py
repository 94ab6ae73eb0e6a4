"""What a paid preparer must ask and keep, per benefit, child and student. IRC 6695(g); 26 CFR 1.6695-2; Form 8867.

Nothing is answered in advance and nothing is copied from one child to another: an empty answer stops filing.
"""

from taxcore.engine import Choice, Day, Flag, Refer, Text
from taxcore.packs.us.base import FederalPaper

MANNERS = {"person": "Met in person", "video": "By video", "telephone": "By telephone", "writing": "In writing"}
_ASK = "Ask the client and answer it."


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

    asked = Text(None, "Who was asked", longest=60, needed="The record must say who gave the answers.")
    asked_on = Day(None, "Asked on", needed="The record must say when.")
    manner = Choice(None, "How", MANNERS, needed="The record must say how.")
    documents = Text(
        None, "Documents seen", wide=True, longest=200, help="School, doctor, landlord, birth certificate. Empty: none."
    )
    note = Text(None, "Note", wide=True, longest=400, help="What was unclear, and what was asked then.")


class Diligence(_Asked):
    """Questions about the return as a whole. Form 8867, parts I, II, V and VI."""

    kind, name, official, single = "diligence", "Preparer's checklist", "8867", True

    own_information = Flag(
        "1", "Made from what the client gave or could be obtained", needed=_ASK, begins="The return as a whole"
    )
    worksheets = Flag("2", "Worksheets of each benefit filled in", needed=_ASK)
    knowledge = Flag("3", "Client interviewed, answers compared and written down", needed=_ASK)
    inconsistent = Flag("4", "Anything looked wrong, incomplete or contradictory", needed=_ASK)
    inquired = Flag("4a", "Then asked until it was clear", needed=_ASK, only=lambda paper: paper.inconsistent is True)
    inquiry_kept = Flag("4b", "And wrote questions and answers down", needed=_ASK, only=lambda paper: paper.inconsistent is True)
    records = Flag("5", "Checklist, worksheets and papers kept", needed=_ASK)
    substantiation = Flag("6", "Asked what papers the client has for it", needed=_ASK)
    disallowed = Flag("7", "Benefit denied or cut in an earlier year", needed=_ASK)
    business_asked = Flag("8", "Business income and costs asked about in full", needed=_ASK,
                          only=lambda paper: bool(paper.run.papers("business")))  # fmt: skip
    eitc_eligible = Flag("9a", "Earned income credit: eligibility decided, with or without a child", needed=_ASK,
                         only=_claimed("eitc"))  # fmt: skip
    head_eligible = Flag("14", "Head of household: unmarried, paid over half of the home", needed=_ASK, only=_claimed("head"))
    certified = Flag("15", "All of it true, to the best of what the preparer knows", needed="The signer certifies it.")


class DiligenceForChild(_Asked):
    """Questions about one child or other dependant. Form 8867, parts II and III."""

    kind, name, official = "diligence-child", "Checklist, one child", "8867"

    child = Refer(None, "Child or dependant", ("person",), needed="Say whom it is about.", optional=True)
    lived_here = Flag("9b", "Lived here for more than half of the year", needed=_ASK, only=_claimed("eitc"), cites="IRC 32(c)(3)")
    tie_explained = Flag("9c", "Rules explained, if somebody else could claim this child too", needed=_ASK, only=_claimed("eitc"))
    dependant = Flag("10", "Dependant, and citizen, national or resident", needed=_ASK, only=_claimed("child"))
    absence_explained = Flag("11", "Explained: no credit for a child who lived elsewhere without a release", needed=_ASK,
                             only=_claimed("child"))  # fmt: skip
    release_explained = Flag("12", "Rules for parents apart explained, with Form 8332", needed=_ASK, only=_claimed("child"))

    @property
    def title(self):
        person = next((one for one in self.run.people() if one.key == self.values.get("child")), None)
        return f"Checklist, {person.title}" if person is not None else self.name


class DiligenceForStudent(_Asked):
    """The question about one student. Form 8867, part IV."""

    kind, name, official = "diligence-student", "Checklist, one student", "8867"

    student = Refer(None, "Student", ("person",), needed="Say whom it is about.", optional=True)
    substantiated = Flag("13", "Tuition statement or receipts seen for the costs", needed=_ASK)

    @property
    def title(self):
        person = next((one for one in self.run.people() if one.key == self.values.get("student")), None)
        return f"Checklist, {person.title}" if person is not None else self.name
