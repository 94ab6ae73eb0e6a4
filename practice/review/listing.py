"""Diagnostics of one return as Review lists them: filtered, searched, grouped, each with where it is fixed."""

from dataclasses import dataclass

from django.urls import reverse

from practice.returns.addresses import place_of
from practice.review.seeing import seen_in
from taxcore.engine import KINDS, Finding

WEIGHTS = {"stops": "Stops filing", "check": "Check", "idea": "Idea"}
GROUPS = {"weight": "by severity", "place": "by paper or form", "kind": "by kind"}


@dataclass(frozen=True)
class Line:
    """One diagnostic, where to go for it, and who has seen it."""

    finding: Finding
    where: dict
    seen: tuple = ()

    @property
    def key(self):
        return self.finding.code, self.finding.at[0]


@dataclass(frozen=True)
class Group:
    """`weight` is the common weight of its lines, empty where they differ."""

    name: str
    weight: str
    lines: list


def lines_of(return_, result, papers):
    """Every diagnostic that is heard, heaviest first."""
    seen = seen_in(return_, result)
    return [
        Line(one, where_of(return_, papers, result, one), tuple(seen.get((one.code, one.at[0]), ()))) for one in result.findings
    ]


def fitting(lines, words="", weight=""):
    """Those of a weight in whose sentence, code, rule or place every word stands."""
    wanted = words.lower().split()
    found = []
    for line in lines:
        one = line.finding
        offered = one.mend.label if one.mend else ""
        text = f"{one.says} {one.code} {one.cites} {line.where['title']} {offered}".lower()
        if weight in ("", one.weight) and all(word in text for word in wanted):
            found.append(line)
    return found


def grouped(lines, by="weight"):
    """Groups in the order in which their first line stands."""
    found = {}
    for line in lines:
        one = line.finding
        name = {"weight": WEIGHTS[one.weight], "kind": KINDS.get(one.kind, "Other"), "place": line.where["title"]}.get(by, "")
        found.setdefault(name, []).append(line)
    return [Group(name, (by == "weight" and rows[0].finding.weight) or "", rows) for name, rows in found.items()]


def where_of(return_, papers, result, finding):
    """Where the first place of a finding is fixed: its url, or the kind of paper to add first."""
    at = finding.at[0]
    place = place_of(papers, result, at)
    if place is not None:
        paper, path, title = place
        url = f"{reverse('paper', args=[return_.pk, paper.pk])}#f-{paper.pk}-{path.replace('.', '-')}"
        return {"title": title, "url": url}
    for kind in result.run.pack.papers:
        named = f"{kind.jurisdiction}.{kind.kind}"
        if at == named or (kind.single and at.startswith(named + ".")):
            return {"title": kind.name, "kind": kind.kind}
    cell = result.get(at)
    title = f"{cell.node.title} {cell.number}".strip() if cell else at
    return {"title": title, "url": f"{reverse('forms', args=[return_.pk])}?at={at}"}
