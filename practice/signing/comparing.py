"""What was corrected between the return that was signed and the one that is locked now: the same figures, other words."""

from dataclasses import dataclass

from practice.returns.computing import pack_of
from practice.returns.frozen import content_of


@dataclass(frozen=True)
class Corrections:
    """Both hashes, and (where, before, after) of every entry that differs."""

    signed: str
    locked: str
    changes: tuple


def corrections(return_):
    """Signed against locked, entry by entry; secrets are only said to differ."""
    before, after = (_entries(pack_of(return_), content_of(one)["return"]) for one in (return_.signed, return_.snapshot))
    changes = [
        (where, _seen(secret, before.get((where, secret), "")), _seen(secret, after.get((where, secret), "")))
        for where, secret in dict.fromkeys([*before, *after])
        if before.get((where, secret)) != after.get((where, secret))
    ]
    return Corrections(return_.signed.hash, return_.snapshot.hash, tuple(changes))


def _seen(secret, value):
    return "••••" if secret and value else value


def _entries(pack, document):
    """{(words for the entry, whether it is secret): value} of every field of a document of the open format."""
    found = {}
    for paper in (*({"kind": "person", **person} for person in document["people"]), *document["papers"]):
        declared = pack.paper(paper["kind"])
        if declared is None:
            continue
        for name, field in declared.fields().items():
            value = paper.get(name, "")
            rows = value if isinstance(value, list) else [{"id": "", name: value}]
            inner = field.row.fields() if isinstance(value, list) else {name: field}
            for row in rows:
                for each, spec in inner.items():
                    where = f"{declared.name} {paper['id']}, {spec.label}" + (f", row {row['id']}" if row["id"] else "")
                    found[where, spec.secret] = str(row.get(each, ""))
    return found
