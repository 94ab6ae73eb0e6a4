"""What an entity's return issues to its owners' returns: a Schedule K-1, and the paper of their basis. IRC 6031(b), 6037(b)."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from taxcore.engine import Issued
from taxcore.packs.us.base import digits


def _nothing_more(owner):
    return {}, {}


@dataclass(frozen=True)
class Told:
    """Kinds of the owner's papers, and of each field there the line here; `of_entities` are fields that only an entity's paper
    has, `returns` which return of theirs has it. `owner_of` finds the paper of a form's owner; `more` gives values that no line
    has, of the share and of the basis; `in_states` rows of what a share means to each state."""

    share: str
    fields: Mapping[str, str]
    basis: str
    of_basis: Mapping[str, str]
    owner_of: Callable[[Any], Any]
    more: Callable[[Any], tuple[dict[str, str], dict[str, str]]] = _nothing_more
    in_states: Callable[[Any], list[dict[str, str]]] = lambda form: []
    of_entities: Mapping[str, str] = field(default_factory=dict)
    returns: Mapping[str, str] = field(default_factory=dict)


def to_owners(run, told):
    """To each owner who is an individual or has one of the `returns`; what others have to do with theirs is told by the document
    and the open format."""
    filer = next(iter(run.people()), None)
    if filer is None or not filer.number:
        return
    number = digits(filer.number)
    called = {"entity": str(filer.company), "entity_number": f"{number[:2]}-{number[2:]}"}
    service = {"service_trade": "yes"} if run.single("business").service_trade else {}
    for form in run.every("us.sch-k-1"):
        owner = told.owner_of(form)
        if owner.sort in told.returns:
            yield _to_entity(form, owner, told, called | service, number)
        if owner.sort != "individual":
            continue
        key, (of_share, of_basis) = f"k1-{number}", told.more(owner)
        who = (owner.address("called"), str(owner.called), str(owner.number), "us")
        values, lines = _values(form, told.fields)
        by_states = told.in_states(form)
        values |= {"states": by_states} if by_states else {}
        yield Issued(*who, told.share, key, called | values | service | of_share, lines, known_by="entity_number")
        basis, of = _values(form, told.of_basis)
        if basis | of_basis:
            yield Issued(*who, told.basis, f"basis-{number}", {"share": key} | basis | of_basis, of, known_by="share")


def _to_entity(form, owner, told, called, number):
    """A share of an entity: all of it is on one paper of its return."""
    values, lines = _values(form, told.fields | told.of_entities)
    return Issued(
        owner.address("called"), str(owner.called), str(owner.number), told.returns[owner.sort], told.share, f"k1-{number}",
        called | values, lines, known_by="entity_number",
    )  # fmt: skip


def _values(form, fields):
    """(values, lines they come from) of what is there."""
    kept = {field: name for field, name in fields.items() if getattr(form, name)}
    return {field: f"{getattr(form, name):f}" for field, name in kept.items()}, {
        field: form.address(name) for field, name in kept.items()
    }
