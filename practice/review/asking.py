"""The preparer's checklist as a reviewer sees it: what is claimed, which questions stand, who answered, when and how."""

from dataclasses import dataclass, field

from django.urls import reverse

from taxcore.engine import Flag, Refer
from taxcore.packs.us.papers.diligence import claims

NAMES = {"eitc": "Earned income credit", "child": "Child credits", "education": "Education credit", "head": "Head of household"}
_KINDS = (("diligence", "The return as a whole"), ("diligence-child", "Each child"), ("diligence-student", "Each student"))
_OF_THE_RECORD = ("asked", "asked_on", "manner", "documents", "note")


@dataclass
class Sheet:
    """One paper of questions. `rows` are (label, answer or None, url); `record` what was written down about the asking."""

    title: str
    url: str
    rows: list = field(default_factory=list)
    record: list = field(default_factory=list)

    @property
    def open(self):
        return sum(answer is None for _, answer, _ in self.rows)


@dataclass(frozen=True)
class Missing:
    """A child or student whose questions are not there yet."""

    kind: str
    name: str
    person: str
    key: str


def diligence_of(return_, result, papers):
    """{"claimed": names, "sheets": [...], "missing": [...]} of a return; sheets without questions that apply are left out."""
    run, stored = result.run, {(paper.kind, paper.key): paper for paper in papers}
    sheets = []
    for kind, _ in _KINDS:
        for node in run.papers(kind):
            paper = stored.get((kind, node.key))
            if paper is not None:
                sheets.append(_sheet(return_, paper, node))
    return {
        "claimed": [NAMES[name] for name in NAMES if name in claims(run)],
        "sheets": sheets,
        "missing": [*_missing(result)],
    }


def _sheet(return_, paper, node):
    url = reverse("paper", args=[return_.pk, paper.pk])
    made = Sheet(node.title, url)
    for name, spec in node.fields().items():
        if isinstance(spec, Refer) or not spec.applies(node):
            continue
        value, place = node.cell(name).value, f"{url}#f-{paper.pk}-{name}"
        if name in _OF_THE_RECORD:
            made.record.append((spec.label, spec.options.get(value, value) if hasattr(spec, "options") else value, place))
        elif isinstance(spec, Flag):
            made.rows.append((spec.label, value, place))
    return made


def _missing(result):
    people = {person.address_prefix: person for person in result.run.people()}
    kinds = {"us.diligence.child-missing": "diligence-child", "us.diligence.student-missing": "diligence-student"}
    for one in result.all_findings:
        if one.code == "us.diligence.missing":
            yield Missing("diligence", "Preparer's checklist", "", "")
        elif one.code in kinds:
            person = people.get(one.at[0].rpartition(".")[0])
            yield Missing(kinds[one.code], "Checklist", person.title if person else "", person.key if person else "")
