"""The preparer's checklist as a reviewer sees it: what is claimed, which questions stand, who answered, when and how."""

from dataclasses import dataclass

from practice.returns.drawing import paper_view
from taxcore.engine import Flag
from taxcore.packs.us.papers.diligence import claims

NAMES = {"eitc": "Earned income credit", "child": "Child credits", "education": "Education credit", "head": "Head of household"}
KINDS = ("diligence", "diligence-child", "diligence-student")
OF_THE_RECORD = ("asked", "asked_on", "manner", "documents", "note")


@dataclass
class Sheet:
    """One paper of questions, ready to be answered: its fields, those about the asking apart, and the lists they choose from."""

    title: str
    questions: list
    record: list
    lists: dict
    open: int


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
    for kind in KINDS:
        for node in run.papers(kind):
            paper = stored.get((kind, node.key))
            if paper is not None:
                sheets.append(_sheet(return_, paper, node, result))
    return {
        "claimed": [NAMES[name] for name in NAMES if name in claims(run)],
        "sheets": sheets,
        "missing": [*missing_of(result)],
    }


def _sheet(return_, paper, node, result):
    view = paper_view(return_, paper, result)
    fields = [one for one in view.fields if one.path not in ("child", "student")]
    answered = [node.cell(name).value is not None for name, spec in node.fields().items()
                if isinstance(spec, Flag) and spec.applies(node)]  # fmt: skip
    return Sheet(
        node.title,
        [one for one in fields if one.path not in OF_THE_RECORD],
        [one for one in fields if one.path in OF_THE_RECORD],
        view.lists,
        len(answered) - sum(answered),
    )


def missing_of(result):
    """Every sheet of questions that the claims call for and that is not there."""
    people = {person.address_prefix: person for person in result.run.people()}
    kinds = {"us.diligence.child-missing": "diligence-child", "us.diligence.student-missing": "diligence-student"}
    for one in result.all_findings:
        if one.code == "us.diligence.missing":
            yield Missing("diligence", "Preparer's due diligence", "", "")
        elif one.code in kinds:
            person = people.get(one.at[0].rpartition(".")[0])
            yield Missing(kinds[one.code], "Due diligence", person.title if person else "", person.key if person else "")
