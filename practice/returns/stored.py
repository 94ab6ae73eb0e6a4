"""Stored values that are not as their declarations want them: found, and put right where that can be done.

Sealed values are told by their shape, an object; earlier ones were told by a beginning, "enc:", which anybody could type.
"""

from dataclasses import dataclass

from practice.firm.crypto import CannotUnseal, is_sealed, seal, unseal, unseal_text

EARLIER = "enc:"


@dataclass(frozen=True)
class Found:
    """One value that is not as it should be: the paper, the path, what is wrong, and what it becomes (None: by hand)."""

    paper: object
    path: str
    says: str
    becomes: object


def reshaped(value):
    """A value of an earlier program as this one holds it: what a key opens was sealed, anything else was typed."""
    if isinstance(value, list):
        return [{name: reshaped(inner) for name, inner in row.items()} for row in value]
    if isinstance(value, str) and value.startswith(EARLIER):
        try:
            return seal(unseal_text(value.removeprefix(EARLIER)))
        except (CannotUnseal, UnicodeEncodeError):
            return value
    return value


def look_through(paper, declared):
    """What is wrong with one paper's values."""
    for name, field in declared.fields().items():
        value = paper.values.get(name)
        if not isinstance(value, list):
            yield from _about(paper, name, field, value)
            continue
        for row in value:
            for inner, spec in field.row.fields().items():
                yield from _about(paper, f"{name}.{row.get('id')}.{inner}", spec, row.get(inner))


def _about(paper, path, field, value):
    if value in (None, ""):
        return
    if is_sealed(value):
        try:
            plain = unseal(value)
        except CannotUnseal:
            yield Found(paper, path, "no key of this installation opens it; it must be entered again", None)
            return
        if not field.secret:
            yield Found(paper, path, "sealed although the field is no secret", plain)
    elif not isinstance(value, str):
        yield Found(paper, path, "not a text; it must be entered again", None)
    elif field.secret:
        shaped = reshaped(value)
        yield Found(paper, path, "a secret that is not sealed", shaped if is_sealed(shaped) else seal(value))


def put_right(found):
    """Store what a value becomes."""
    parts = found.path.split(".")
    if len(parts) == 1:
        found.paper.values[found.path] = found.becomes
    else:
        rows, row_id, name = parts
        next(row for row in found.paper.values[rows] if row.get("id") == row_id)[name] = found.becomes
    found.paper.save(update_fields=["values"])
