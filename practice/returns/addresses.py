"""From an address to the stored paper and field it means."""

from taxcore.engine import Rows


def place_of(papers, result, address):
    """(paper, path, title) of a paper's field or row's field; None for a line of a form."""
    stored = {(paper.kind, paper.key): paper for paper in papers}
    for node in (*result.run.people(), *result.run.all_papers()):
        if address != node.address_prefix and not address.startswith(node.address_prefix + "."):
            continue
        paper = stored.get((node.kind, node.key))
        if paper is None:
            continue
        path = path_in(node, address)
        if path is not None:
            return paper, path, _title(node, path)
    return None


def path_in(node, address):
    """The path of the field of a paper, or of a row of it, that an address means; None where it means none of them."""
    for name, spec in node.fields().items():
        if isinstance(spec, Rows):
            for row in node.cell(name).value:
                for inner in row.fields():
                    if row.address(inner) == address:
                        return f"{name}.{row.key}.{inner}"
        if node.address(name) == address:
            return name
    return None


def _title(node, path):
    spec = node.fields()[path.split(".")[0]]
    number = f" box {spec.numbers}" if isinstance(spec.numbers, str) else ""
    return f"{node.title}{number}"
