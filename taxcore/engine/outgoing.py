"""What a country lets go with a return besides its lines, who may sign for somebody, and why a return goes on paper."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Attachable:
    """A kind of PDF that goes with a return that is e-filed. `code` stands in the filed document. `tagged`: a program reads it,
    so it must be a page with inline XBRL tags; one that is attached goes in the place of what follows from the figures."""

    code: str
    name: str
    cites: str = ""
    tagged: bool = False


@dataclass(frozen=True, slots=True)
class Capacity:
    """As what somebody signs for a person who cannot. `proof` is the code of the Attachable that shows it, empty where the law
    asks for none."""

    code: str
    name: str
    proof: str = ""
    cites: str = ""


@dataclass(frozen=True, slots=True)
class PaperReason:
    """Why a preparer may file a return on paper. `needs` says what has to be written with it, empty where nothing has."""

    code: str
    name: str
    needs: str = ""
    cites: str = ""


@dataclass(frozen=True, slots=True)
class MailTo:
    """Where a return on paper goes: lines of an address, and where they are from."""

    lines: tuple[str, ...]
    source: str


@dataclass(frozen=True, slots=True)
class DrawnTable:
    """A table of a document: what it is about, heads, rows of texts and amounts, sums under the columns where there are any."""

    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[Any, ...], ...]
    sums: tuple[Any, ...] = ()


@dataclass(frozen=True, slots=True)
class Drawn:
    """A document that follows from a return's figures: `code` is that of its Attachable where it goes with the return. `page` is
    all of it where it is made already: an XHTML page with its own tags, which goes as it is. `number` is what whoever it is for
    is known by, where it is for somebody."""

    code: str
    name: str
    tables: tuple[DrawnTable, ...]
    remarks: tuple[str, ...] = ()
    page: bytes = b""
    number: str = ""


def _nothing_drawn(result: Any, authority: str) -> tuple[Drawn, ...]:
    return ()


def _no_statements(result: Any) -> tuple[Drawn, ...]:
    return ()


def _unknown(code: str, region: str, owing: bool) -> MailTo | None:
    return None


_SIGNS = (
    "I declare that I have examined this return and that to the best of my knowledge and belief it is correct and complete. "
    "{practice} may send it to {authority} for me."
)


@dataclass(frozen=True)
class Outgoing:
    """Declared by a pack. `mail_to(authority's code, region that the filer lives in, whether a payment is enclosed)` gives None
    where it knows no address. `paper_form` is what explains a return on paper, with its number, where the law wants one.
    `preparer_number` is what a paid preparer is known by, and `preparer_shape` how it is written. `drawn(result, authority's
    code)` gives the documents that follow from the figures, `statements(result)` those that a client may want for others.
    `signs`, `authorizes` and `signs_on_paper` are what is declared by signing here, in the authorization and on paper, with
    {practice}, {authority} and {year} in them; `originator`: the practice signs the authorization with numbers of its own,
    of which `filing_number` is the name of that under which it files."""

    attachable: tuple[Attachable, ...] = ()
    capacities: tuple[Capacity, ...] = ()
    paper_reasons: tuple[PaperReason, ...] = ()
    paper_form: str = ""
    preparer_number: str = ""
    preparer_shape: str = ""
    mail_to: Callable[[str, str, bool], MailTo | None] = _unknown
    signs: str = _SIGNS
    authorizes: str = _SIGNS
    signs_on_paper: str = _SIGNS.partition(" {practice}")[0]
    originator: bool = False
    filing_number: str = "identification number"
    drawn: Callable[[Any, str], tuple[Drawn, ...]] = _nothing_drawn
    statements: Callable[[Any], tuple[Drawn, ...]] = _no_statements

    def kind(self, code: str) -> Attachable | None:
        return next((one for one in self.attachable if one.code == code), None)

    def capacity(self, code: str) -> Capacity | None:
        return next((one for one in self.capacities if one.code == code), None)

    def reason(self, code: str) -> PaperReason | None:
        return next((one for one in self.paper_reasons if one.code == code), None)


NOTHING = Outgoing()
