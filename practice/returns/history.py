"""A return's history in words."""


def what(result, change):
    """(paper, field, where it stands now or "") of a change in words; its address where declarations no longer know it."""
    pack = result.run.pack
    declared = pack.paper(change.paper.kind) if change.paper else None
    if declared is None:
        cell = result.get(change.path)
        return "Overridden", f"{cell.node.title} {cell.number}" if cell else change.path, ""
    name = str(change.paper.values.get(declared.heading, "") or declared.name)
    rows, _, inner = change.path.partition(".")
    field = declared.fields().get(rows)
    if field is not None and inner:
        field = field.row.fields().get(inner.rpartition(".")[2])
    where = "" if change.paper.removed_at else f"f-{change.paper.pk}-{change.path.replace('.', '-')}"
    return name, field.label if field is not None else change.path or "the whole paper", where
