"""Inline XBRL 1.1: a page for people whose figures a program can read, and the taxonomy of its concepts.

What is tagged how stands in tagging.toml. Whole pounds, tax in pence; pools are told apart by a dimension.
"""

from dataclasses import dataclass, field
from datetime import date, timedelta
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape, quoteattr

from taxcore.engine.law import Law, read_law
from taxcore.packs.uk.company.base import months_after

_SPACES = {
    "": "http://www.w3.org/1999/xhtml", "ix": "http://www.xbrl.org/2013/inlineXBRL", "xbrli": "http://www.xbrl.org/2003/instance",
    "ixt": "http://www.xbrl.org/inlineXBRL/transformation/2020-02-12", "link": "http://www.xbrl.org/2003/linkbase",
    "xlink": "http://www.w3.org/1999/xlink", "iso4217": "http://www.xbrl.org/2003/iso4217", "xbrldi": "http://xbrl.org/2006/xbrldi",
}  # fmt: skip
_STYLE = (
    "body{font:11pt sans-serif;max-width:46em;margin:2em auto}table{width:100%;border-collapse:collapse}td{padding:2pt 0}"
    "td.n{text-align:right;white-space:nowrap}tr.total td{border-top:1pt solid;font-weight:bold}"
    "tr.note td{padding:0 0 4pt 1.5em;font-style:italic}"
    "h2{margin-top:1.5em;font-size:12pt}"
)
CELL = '<td class="n">{}</td>'
_ONE = timedelta(days=1)
_UNIT = '<xbrli:unit id="GBP"><xbrli:measure>iso4217:GBP</xbrli:measure></xbrli:unit>'


@cache
def tagging() -> Law:
    return read_law(Path(__file__).parent / "tagging.toml")


@dataclass
class Page:
    """A tagged page under way: its contexts, what it says, what is hidden. `entity` is (scheme, identifier)."""

    title: str
    entity: tuple[str, str]
    begins: date
    ends: date
    contexts: dict[tuple[str, str], str] = field(default_factory=dict)
    body: list[str] = field(default_factory=list)
    hidden: list[str] = field(default_factory=list)
    notes: int = 0  # how many of its figures have one

    def context(self, when: str, member: str = "") -> str:
        """The id of what a fact is about: the period or its last day, those before ("before-"), and a member of the dimension."""
        key = (when, member)
        return self.contexts.setdefault(key, f"{when}{member}")

    def amount(self, value: Decimal, concept: str, when: str = "duration", mark: str = "") -> str:
        """A tagged number: in words what is below nothing has a minus, in the fact a sign. By its mark a note finds it."""
        name, _, member = (part.strip() for part in concept.partition("|"))
        places = 0 if value == value.to_integral_value() else 2
        sign = ' sign="-"' if value < 0 else ""
        shown = f"{abs(value):,.{places}f}"
        attributes = {"id": mark} if mark else {}
        attributes |= {"name": _named(name), "contextRef": self.context(when, member), "unitRef": "GBP", "decimals": str(places)}
        said = " ".join(f"{key}={quoteattr(one)}" for key, one in attributes.items())
        fact = f'<ix:nonFraction {said} format="ixt:num-dot-decimal"{sign}>{shown}</ix:nonFraction>'
        return f"({fact})" if value < 0 else fact

    def words(self, text: str, what: str) -> str:
        name = quoteattr(_named(tagging().words[what]))
        return f'<ix:nonNumeric name={name} contextRef="{self.context("duration")}">{escape(text)}</ix:nonNumeric>'

    def table(
        self,
        title: str,
        rows: list[tuple[Any, ...]],
        when: str = "duration",
        total: bool = False,
        notes: dict[str, str] | None = None,
    ) -> None:
        """Rows of (label, amount, concept), the last one in the heavier face where it is the total; a fourth value is the amount
        of the period before. `notes` are what is said of a concept's figure."""
        made = []
        for place, (label, value, concept, *before) in enumerate(rows):
            heavy = ' class="total"' if total and place == len(rows) - 1 else ""
            note = (notes or {}).get(concept, "")
            self.notes += bool(note)
            amounts = [
                self.amount(value, concept, when, f"noted{self.notes}" if note else ""),
                *(self.amount(one, concept, f"before-{when}") for one in before),
            ]
            made.append(f"<tr{heavy}><td>{escape(label)}</td>{''.join(CELL.format(one) for one in amounts)}</tr>")
            if note:
                said = f'<ix:footnote id="note{self.notes}">{escape(note)}</ix:footnote>'
                made.append(f'<tr class="note"><td colspan="{1 + len(amounts)}">{said}</td></tr>')
        self.body.append(f"<h2>{escape(title)}</h2><table><tbody>{''.join(made)}</tbody></table>")

    def made(self) -> bytes:
        spaces = " ".join(f"xmlns{':' if name else ''}{name}={quoteattr(uri)}" for name, uri in _SPACES.items())
        own = tagging().taxonomy
        body = "".join(self.body)  # contexts are known once everything is drawn
        hidden = f"<ix:hidden>{''.join(self.hidden)}</ix:hidden>" if self.hidden else ""
        return (
            f'<?xml version="1.0" encoding="UTF-8"?>\n<html {spaces} xmlns:{own.prefix}={quoteattr(own.namespace)} xml:lang="en">'
            f'<head><title>{escape(self.title)}</title><style type="text/css">{_STYLE}</style></head>'
            f'<body><div style="display:none"><ix:header>{hidden}<ix:references><link:schemaRef xlink:type="simple" '
            f"xlink:href={quoteattr(own.schema)}/></ix:references><ix:resources>{self._relations()}{self._contexts()}{_UNIT}</ix:resources>"
            "</ix:header></div>"
            f"<h1>{escape(self.title)}</h1>{body}</body></html>"
        ).encode()

    def _relations(self) -> str:
        """Which figure each note is about."""
        places = range(1, self.notes + 1)
        return "".join(f'<ix:relationship fromRefs="noted{place}" toRefs="note{place}"/>' for place in places)

    def _contexts(self) -> str:
        scheme, identifier = self.entity
        who = f"<xbrli:entity><xbrli:identifier scheme={quoteattr(scheme)}>{escape(identifier)}</xbrli:identifier>"
        return "".join(self._context(name, when, member, who) for (when, member), name in self.contexts.items())

    def _context(self, name: str, when: str, member: str, who: str) -> str:
        dimension = tagging().dimension.name
        explicit = f'<xbrldi:explicitMember dimension="{_named(dimension)}">{_named(member)}</xbrldi:explicitMember>'
        segment = f"<xbrli:segment>{explicit}</xbrli:segment>" if member else ""
        kind, begins, ends = when.removeprefix("before-"), self.begins, self.ends
        if kind != when:
            begins, ends = months_after(self.begins - _ONE, -12) + _ONE, self.begins - _ONE
        span = f"<xbrli:startDate>{begins}</xbrli:startDate><xbrli:endDate>{ends}</xbrli:endDate>"
        period = span if kind == "duration" else f"<xbrli:instant>{ends}</xbrli:instant>"
        return f'<xbrli:context id="{name}">{who}{segment}</xbrli:entity><xbrli:period>{period}</xbrli:period></xbrli:context>'


def _named(concept: str) -> str:
    return f"{tagging().taxonomy.prefix}:{concept}"


def concepts_of(section: Any) -> list[tuple[str, str]]:
    """(line, concept) of a part of the computation."""
    return [(name, concept) for name, concept in section.items() if name not in ("form", "title")]


def taxonomy() -> str:
    """The schema of the concepts that tagging.toml names, with a final newline."""
    said, own, quoted = tagging(), tagging().taxonomy, {name: quoteattr(uri) for name, uri in _SPACES.items()}
    instants = {line[2] for one in said.accounts if one["when"] == "instant" for line in one["lines"]}
    instants |= {one["total"][1] for one in said.accounts if one["when"] == "instant"}
    amounts = {concept.partition("|")[0].strip() for section in said.computation for _, concept in concepts_of(section)}
    amounts |= {line[2] for one in said.accounts for line in one["lines"]} | {one["total"][1] for one in said.accounts}
    amounts |= {line[2] for line in said.fixed_assets.lines} | {said.fixed_assets.total[1]}
    made = [_element(name, "xbrli:monetaryItemType", "instant" if name in instants else "duration") for name in sorted(amounts)]
    made += [_element(name, "xbrli:stringItemType", "duration") for _, name in said.words.items()]
    made.append(_element(said.dimension.name, "xbrli:stringItemType", "duration", "xbrldt:dimensionItem", abstract=True))
    made += [_element(name, "xbrli:stringItemType", "duration", abstract=True) for name in said.dimension.members]
    body = "\n".join(f"  {one}" for one in made)
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" '
        f'xmlns:xbrli={quoted["xbrli"]} xmlns:xbrldt="http://xbrl.org/2005/xbrldt"\n'
        f"  xmlns:{own.prefix}={quoteattr(own.namespace)}\n"
        f'  targetNamespace={quoteattr(own.namespace)} elementFormDefault="qualified">\n'
        f'  <xs:import namespace="{_SPACES["xbrli"]}" schemaLocation="http://www.xbrl.org/2003/xbrl-instance-2003-12-31.xsd"/>\n'
        '  <xs:import namespace="http://xbrl.org/2005/xbrldt" schemaLocation="http://www.xbrl.org/2005/xbrldt-2005.xsd"/>\n'
        f"{body}\n</xs:schema>\n"
    )


def _element(name: str, kind: str, when: str, group: str = "xbrli:item", *, abstract: bool = False) -> str:
    own = tagging().taxonomy
    return (
        f'<xs:element id="{own.prefix}_{name}" name="{name}" type="{kind}" substitutionGroup="{group}" xbrli:periodType="{when}" '
        f'nillable="true"{" abstract=" + chr(34) + "true" + chr(34) if abstract else ""}/>'
    )
