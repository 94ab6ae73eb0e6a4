"""What earlier documents kept elsewhere, read as it is entered today. Stored returns were moved once, by a migration."""

from dataclasses import replace

# A student's support is a fact of the person: (kind, field) where it stood
_OWN_SUPPORT = {"1098-t": "support_by_self", "parent": "support_above_half"}


def today(data):
    """The same return with every value where it belongs now."""
    if not any(_OWN_SUPPORT.get(paper.kind) in paper.values for paper in data.papers):
        return data
    said = [paper.values[name] for paper in data.papers if (name := _OWN_SUPPORT.get(paper.kind)) in paper.values]
    return data.but(papers=tuple(_moved(paper, said) for paper in data.papers))


def _moved(paper, said):
    if paper.kind == "person" and paper.values.get("role") == "taxpayer":
        value = "yes" if "yes" in said else said[0]
        return replace(paper, values={"earns_own_support": value, **paper.values})
    name = _OWN_SUPPORT.get(paper.kind)
    return replace(paper, values={key: value for key, value in paper.values.items() if key != name}) if name else paper
