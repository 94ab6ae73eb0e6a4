"""Papers, their rows and people: what stands on a return as it was entered."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, ClassVar

from taxcore.engine.cells import Node, Raw
from taxcore.engine.fields import Choice, Field, schemas_of

if TYPE_CHECKING:
    from taxcore.engine.grids import Grid
    from taxcore.engine.run import Run


class _Keyed(Node):
    """A node with entered values: a paper or a row of one."""

    def __init__(self, run: Run, key: str | None, address_prefix: str, values: Mapping[str, Any]):
        super().__init__(run, key, address_prefix)
        self.entered = values

    raws: Mapping[str, Raw] = {}

    @property
    def values(self) -> Mapping[str, Any]:
        """All that was entered, as it was entered."""
        self.run.reading.append(self.raw("*"))
        return self.entered

    def raw(self, name: str) -> Raw:
        """What stands for an entered value, or for all of them, among the reads."""
        found = self.raws.get(name)
        if found is None:
            found = Raw()
            self.raws = {**self.raws, name: found}
        return found

    def is_keyed(self, name: str) -> bool:
        self.run.reading.append(self.raw(name))
        return self.entered.get(name) not in (None, "")

    def is_answered(self, name: str) -> bool:
        """Entered on this return, or answered by the practice for all of them."""
        return self.is_keyed(name) or self.cell(name).how == "answered"

    def __init_subclass__(cls, **kwargs: Any) -> None:
        super().__init_subclass__(**kwargs)
        cls._fields = {name: spec for name, spec in cls.specs.items() if isinstance(spec, Field)}
        if not getattr(cls, "owned", True):
            cls._fields.pop("owner", None)
        cls._needed = tuple(name for name, spec in cls._fields.items() if spec.needed)

    _fields: ClassVar[dict[str, Field]] = {}
    _needed: ClassVar[tuple[str, ...]] = ()

    @classmethod
    def fields(cls) -> dict[str, Field]:
        """The fields that can be entered, in the order of the printed document."""
        return cls._fields

    @classmethod
    def needed(cls) -> tuple[str, ...]:
        """Names of the fields that filing needs."""
        return cls._needed


class Row(_Keyed):
    """One row of a table inside a paper.

    Files of others name and cut their columns in their own way: `known_as` are words that head a field's column there,
    `same_by` names the field by which a row of a file is one that is there already, and changes it.
    `also_read` are columns that are no field but say something about one, which `take_in` turns into fields.
    Rows that files bring are saved as files too; `leaves`: so are these.
    """

    paper: Any = None
    leaves: ClassVar[bool] = False
    known_as: ClassVar[Mapping[str, tuple[str, ...]]] = {}
    also_read: ClassVar[Mapping[str, Field]] = {}
    same_by: ClassVar[str] = ""

    @classmethod
    def take_in(cls, values: dict[str, str]) -> dict[str, str]:
        """Fields from what a row of a file said, in open-format values; what `also_read` named is used up."""
        return {name: value for name, value in values.items() if name not in cls.also_read}

    def raw(self, name: str) -> Raw:
        """Of a table's rows there may be thousands: whoever reads one as entered depends on its whole paper."""
        return self.paper.raw("*")

    @property
    def title(self) -> str:
        return self.paper.title


OWNERS = {"taxpayer": "Taxpayer", "spouse": "Spouse", "joint": "Both"}


class Paper(_Keyed):
    """Base of every source document. `kind` is its word in addresses and in the open format.

    `group` is where the index lists it; `single` papers exist exactly once a return (answers are such papers), those that are
    `always` there also while nothing is entered in them;
    `heading` names the field that tells one paper of a kind from another, `main` the field whose amount the index shows;
    `said` names the field whose value the index says of a paper that every return has.
    `corrects`: only a return that corrects one which was filed has it.
    `short` is the word before it there. `since` and `until` are the first and last year it can be of any use;
    `stands_for` names a table of totals that may stand for a list, when the statement goes with the filing;
    of a paper that is `once_each` a person has no more than one. `party` names the fields that say who sent it, by number,
    name, street, city, state, zip: what a practice remembers from one client's paper to the next; `repeats` are tables whose
    rows a second paper of the same sender has too, but for their amounts.
    `grid` sets fields among lines of a worksheet, as a table.
    `again`: next year brings another one, so it is expected even before anything is known of it; `whose` names the field that
    says whose balances it opens. `goes_on`: what it says happens each year, so a plan of the year after has it as it was,
    although a return of that year is asked anew.
    """

    kind: ClassVar[str] = ""
    name: ClassVar[str] = ""
    official: ClassVar[str] = ""
    said: ClassVar[str] = ""
    short: ClassVar[str] = ""
    group: ClassVar[str] = "income"
    single: ClassVar[bool] = False
    owned: ClassVar[bool] = True
    joint_owner: ClassVar[bool] = False
    once_each: ClassVar[bool] = False
    always: ClassVar[bool] = False
    corrects: ClassVar[bool] = False
    since: ClassVar[int] = 0
    until: ClassVar[int] = 9999
    heading: ClassVar[str] = ""
    main: ClassVar[str] = ""
    party: ClassVar[Mapping[str, str]] = {}
    stands_for: ClassVar[str] = ""
    repeats: ClassVar[tuple[str, ...]] = ()
    grid: ClassVar[Grid | None] = None
    again: ClassVar[bool] = False
    goes_on: ClassVar[bool] = False
    whose: ClassVar[str] = "owner"

    owner = Choice(None, "Owner", OWNERS)

    @owner.when_empty
    def _owner(self) -> str:
        """Where nobody else is on the return there is nothing to choose."""
        return "taxpayer" if self.run.person("spouse") is None else ""

    def __init__(self, run: Run, key: str, values: Mapping[str, Any], files: int = 0, brought: tuple[str, ...] = ()):
        prefix = f"{self.jurisdiction}.{self.kind}" + ("" if self.single else f"[{key}]")
        super().__init__(run, key, prefix, values)
        self.files = files
        self.brought = brought

    def comes_again(self) -> bool:
        """Whether another one is expected next year: what this one says of itself may speak against it."""
        return self.again

    def once(self, make: Callable[[Any], Any]) -> Any:
        """What several rules need to know of this paper, worked out when first asked, and again when something of it changes."""
        return self.run.ask((make, self.kind, self.key), lambda run: make(self))

    @property
    def attached(self) -> int:
        """How many files are beside it."""
        self.run.reading.append(self.raw("attached"))
        return self.files

    @property
    def carried(self) -> tuple[str, ...]:
        """Fields that came from last year and that nobody has confirmed."""
        self.run.reading.append(self.raw("carried"))
        return tuple(name for name in self.brought if name in self.entered)

    @property
    def title(self) -> str:
        """What it says of itself; else its name, with whose it is where two people have papers."""
        if self.heading:
            self.run.reading.append(self.raw(self.heading))
            if named := self.entered.get(self.heading):
                return str(named)
        self.run.reading.append(self.raw("owner"))
        owner = self.run.person(str(self.entered.get("owner"))) if self.run.person("spouse") is not None else None
        return f"{self.name}, {owner.title}" if owner is not None else self.name


class Person(Paper):
    """Someone on the return. `role` (taxpayer, spouse, dependant) decides which; the key is the id."""

    kind = "person"
    name = "Person"
    group = "people"
    owned = False
    heading = "first_name"

    adds: ClassVar[Mapping[str, str]] = {}  # roles that can be added to a return besides the taxpayer, with their names
    role_names: ClassVar[Mapping[str, str]] = {}  # where a role is called otherwise than it is coded
    planned: ClassVar[Mapping[str, Mapping[str, str]]] = {}  # what somebody added in a plan is taken to be, by role
    planned_with: ClassVar[Mapping[str, Mapping[str, str]]] = {}  # what else is other then, by the mark of its place

    @property
    def role(self) -> str:
        self.run.reading.append(self.raw("role"))
        return str(self.entered.get("role", ""))

    @property
    def short_name(self) -> str:
        """How a letter addresses them: the first name, where the pack asks for one."""
        return str(getattr(self, "first_name", "") or self.title)

    @property
    def whole_name(self) -> str:
        return str(getattr(self, "full_name", "") or self.short_name)

    @property
    def called(self) -> str:
        """The role in the pack's words."""
        return self.role_names.get(self.role, self.role)


def schema_of(paper: type[Paper]) -> dict[str, Any]:
    """JSON Schema of one paper as the open format holds it."""
    properties = {"id": {"type": "string", "pattern": "^[a-z0-9][a-z0-9-]{0,39}$"}} | schemas_of(paper)
    if issubclass(paper, Person):
        properties["role"] = {"enum": ["taxpayer", "spouse", "dependant"]}
    else:
        properties["kind"] = {"const": paper.kind}
        properties["attached"] = {"type": "integer", "minimum": 0, "description": "Attached documents"}
    properties["carried"] = {"type": "array", "items": {"type": "string"}, "description": "Fields rolled forward, not confirmed"}
    required = ["id", "role"] if issubclass(paper, Person) else ["id", "kind"]
    return {
        "type": "object",
        "title": paper.name,
        "properties": properties,
        "required": required,
        "additionalProperties": False,
    }
