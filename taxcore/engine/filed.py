"""The filed document: XML for one authority, and the XSD it is valid against, both made from the declarations.

A document holds the people, the papers (the country's and the authority's own) and the authority's forms, each line with its
official number. Element names are the declared names in capitals: `total_tax` is TotalTax.
"""

from __future__ import annotations

import base64
import hashlib
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any
from xml.etree import ElementTree as ET

from taxcore.engine.fields import Amount, Choice, Count, Day, Field, Flag, Rows
from taxcore.engine.forms import Form
from taxcore.engine.pack import Authority, Pack
from taxcore.engine.papers import Paper
from taxcore.engine.result import Result

XS = "http://www.w3.org/2001/XMLSchema"


def namespace(authority: Authority, year: int) -> str:
    return f"urn:impuesto:filing:{authority.code}:{year}"


def element_name(name: str) -> str:
    """`total_tax` → TotalTax, `1099-int` → a class name is used instead, since a digit cannot begin an element."""
    return "".join(part.capitalize() for part in name.replace("-", "_").split("_"))


@dataclass(frozen=True)
class Preparer:
    """Who was paid for preparing the return: name, number, firm, and the firm's number as originator."""

    name: str
    number: str
    firm: str
    originator: str


@dataclass(frozen=True)
class Enclosure:
    """A PDF that goes with the document: the code of its kind (engine/outgoing.py), its name, the paper that it stands behind if
    it does, and its bytes."""

    what: str
    name: str
    content: bytes
    paper: str = ""


def filed_document(
    result: Result,
    authority: Authority,
    return_id: str,
    content_hash: str,
    enclosed: Sequence[Enclosure] = (),
    preparer: Preparer | None = None,
) -> bytes:
    """The XML that goes to `authority`, in UTF-8. `content_hash` is the hash of the figures that were signed."""
    root = ET.Element(
        "Return",
        {
            "xmlns": namespace(authority, result.year),
            "authority": authority.code,
            "returnType": authority.return_type,
            "year": str(result.year),
        }
        | (
            {"begins": result.run.period.start.isoformat(), "ends": result.run.period.end.isoformat()}
            if result.run.pack.asks
            else {}
        ),
    )
    header = ET.SubElement(root, "Header")
    for name, value in (("ReturnId", return_id), ("Software", "Impuesto"), ("SignedHash", content_hash)):
        ET.SubElement(header, name).text = value
    _add_amends(header, result, authority)
    if preparer is not None:
        ET.SubElement(header, "Preparer", {name: getattr(preparer, name) for name in _OF_PREPARER})
    _add_papers(ET.SubElement(root, "People"), result.run.people())
    of_authority = [paper for paper in result.run.all_papers() if paper.jurisdiction in _jurisdictions(authority)]
    _add_papers(ET.SubElement(root, "Papers"), of_authority)
    forms = ET.SubElement(root, "Forms")
    for form in result.forms:
        if form.jurisdiction == authority.form.jurisdiction:
            _add_form(forms, form)
    if enclosed:
        attachments = ET.SubElement(root, "Attachments")
        for one in enclosed:
            digest = hashlib.sha256(one.content).hexdigest()
            about = {"what": one.what, "name": one.name, "paper": one.paper, "sha256": digest}
            ET.SubElement(attachments, "Attachment", about).text = base64.b64encode(one.content).decode()
    ET.indent(root)
    return ET.tostring(root, encoding="utf-8", xml_declaration=True)


_OF_PREPARER = ("name", "number", "firm", "originator")


def _add_amends(header: ET.Element, result: Result, authority: Authority) -> None:
    """What is corrected, or taken the place of, under the receipt that the authority gave for it."""
    amends = result.run.amends
    if amends is not None and (filed := amends.filed.get(authority.code)) is not None:
        kind = "superseding" if amends.superseding else "amended"
        ET.SubElement(header, "Amends", {"kind": kind, "receipt": filed.receipt, "number": str(amends.number)})


def element_path(authority: Authority, address_cell: Any) -> str:
    """Where a cell stands in the filed document, as an authority would name it in a rejection."""
    node = address_cell.node
    place = element_name(address_cell.spec.name)
    if isinstance(node, Form):
        return f"/Return/Forms/{type(node).__name__}/{place}"
    group = "People" if node in node.run.people() else "Papers"
    return f"/Return/{group}/{_paper_element(type(node))}[@id='{node.key}']/{place}"


_STEP = re.compile(
    r"/Return/(?P<group>Forms|Papers|People)/(?P<node>\w+)(?:\[@(?:id|of)='(?P<key>[^']+)'\])?(?:/(?P<place>\w+))?(?P<rest>.*)"
)


def address_at(result: Result, path: str) -> str | None:
    """The address of the cell at an authority's element path; None where the path names no single cell."""
    found = _STEP.match(path)
    if found is None:
        return None
    nodes: list[Any] = [*result.forms, *result.run.people(), *result.run.all_papers()]
    for node in nodes:
        if type(node).__name__ == found["node"] and found["key"] in (None, node.key):
            names = [name for name in node.specs if element_name(name) == found["place"]]
            return node.address(names[0]) if names else node.address_prefix
    return None


def _jurisdictions(authority: Authority) -> tuple[str, str]:
    return authority.form.jurisdiction.split("-")[0], authority.form.jurisdiction


def _paper_element(paper: type[Paper]) -> str:
    return paper.__name__


def _add_papers(parent: ET.Element, papers: list[Any]) -> None:
    for paper in sorted(papers, key=lambda paper: (type(paper).__name__, paper.key)):
        attributes = {"id": str(paper.key)} | ({"role": paper.called} if hasattr(paper, "role") else {})
        _add_fields(ET.SubElement(parent, _paper_element(type(paper)), attributes), paper)


def _add_fields(parent: ET.Element, node: Any) -> None:
    for name, field in node.fields().items():
        cell = node.cell(name)
        if isinstance(field, Rows):
            for row in cell.value:
                _add_fields(ET.SubElement(parent, element_name(name), {"id": str(row.key)}), row)
        elif cell.how != "empty" and cell.value not in (None, "") and (text := _text(field, cell.value)):
            ET.SubElement(parent, element_name(name)).text = text


def _text(field: Field, value: Any) -> str:
    if isinstance(field, Flag):
        return "true" if value else "false"
    text = field.write(value)
    return field.filed_as(text) if field.filed_as is not None else text


def _add_form(parent: ET.Element, form: Form) -> None:
    attributes = {"number": form.number} | ({"of": form.key} if form.key else {})
    element = ET.SubElement(parent, type(form).__name__, attributes)
    for cell in form.lines():
        ET.SubElement(element, element_name(cell.spec.name), {"line": cell.number}).text = (
            f"{cell.value:f}" if cell.is_amount else str(cell.value)
        )


# The schema


def filed_schema(pack: Pack, authority: Authority, year: int) -> str:
    """The XSD of one authority and year, as text with a final newline."""
    space = namespace(authority, year)
    root = ET.Element(
        "xs:schema",
        {"xmlns:xs": XS, "xmlns": space, "targetNamespace": space, "elementFormDefault": "qualified"},
    )
    body = _complex(_element(root, "Return"))
    header = _complex(_element(body, "Header"))
    for name in ("ReturnId", "Software", "SignedHash"):
        _element(header, name, type="xs:string")
    amends = ET.SubElement(_element(header, "Amends", minOccurs="0"), "xs:complexType")
    for name in ("kind", "receipt", "number"):
        _attribute(amends, name)
    prepared = ET.SubElement(_element(header, "Preparer", minOccurs="0"), "xs:complexType")
    for name in _OF_PREPARER:
        _attribute(prepared, name)
    people = _complex(_element(body, "People"))
    _paper_schema(people, pack.people)
    papers = _complex(_element(body, "Papers"))
    shown = [paper for paper in pack.papers if paper.jurisdiction in _jurisdictions(authority)]
    for paper in sorted(shown, key=lambda paper: paper.__name__):
        _paper_schema(papers, paper)
    forms = _complex(_element(body, "Forms"))
    for form in pack.forms:
        if form.jurisdiction == authority.form.jurisdiction:
            _form_schema(forms, form, year, required=form is authority.form)
    attachments = _complex(_element(body, "Attachments", minOccurs="0"))
    one = _element(attachments, "Attachment", minOccurs="1", maxOccurs="unbounded")
    content = ET.SubElement(ET.SubElement(one, "xs:complexType"), "xs:simpleContent")
    extension = ET.SubElement(content, "xs:extension", {"base": "xs:base64Binary"})
    for name in ("what", "name", "paper", "sha256"):
        _attribute(extension, name)
    for name, fixed in (("authority", authority.code), ("returnType", authority.return_type), ("year", str(year))):
        _attribute(root[0][0], name, fixed)
    for name in ("begins", "ends") if pack.asks else ():
        _attribute(root[0][0], name)
    ET.indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ET.tostring(root, encoding="unicode") + "\n"


def _element(parent: ET.Element, name: str, **attributes: str) -> ET.Element:
    return ET.SubElement(parent, "xs:element", {"name": name} | attributes)


def _complex(element: ET.Element) -> ET.Element:
    return ET.SubElement(ET.SubElement(element, "xs:complexType"), "xs:sequence")


def _attribute(complex_type: ET.Element, name: str, fixed: str | None = None) -> None:
    attributes = {"name": name, "use": "required", "type": "xs:string"} | ({"fixed": fixed} if fixed else {})
    ET.SubElement(complex_type, "xs:attribute", attributes)


def _paper_schema(parent: ET.Element, paper: type[Paper]) -> None:
    element = _element(parent, _paper_element(paper), minOccurs="0", maxOccurs="unbounded")
    _fields_schema(_complex(element), paper)
    _attribute(element[0], "id")
    if hasattr(paper, "role"):
        _attribute(element[0], "role")


def _fields_schema(sequence: ET.Element, node: Any) -> None:
    for name, field in node.fields().items():
        if isinstance(field, Rows):
            element = _element(sequence, element_name(name), minOccurs="0", maxOccurs="unbounded")
            _fields_schema(_complex(element), field.row)
            _attribute(element[0], "id")
        else:
            element = _element(sequence, element_name(name), minOccurs="1" if field.needed and field.only is None else "0")
            _restrict(element, field)


def _restrict(element: ET.Element, field: Field) -> None:
    bases = ((Amount, "xs:decimal"), (Flag, "xs:boolean"), (Day, "xs:date"), (Count, "xs:nonNegativeInteger"))
    base = next((base for kind, base in bases if isinstance(field, kind)), "xs:string")
    if base in ("xs:boolean", "xs:date", "xs:nonNegativeInteger"):
        element.set("type", base)
        return
    restriction = ET.SubElement(ET.SubElement(element, "xs:simpleType"), "xs:restriction", {"base": base})
    for facet, value in _facets(field, base):
        ET.SubElement(restriction, f"xs:{facet}", {"value": value})


def _facets(field: Field, base: str) -> Iterator[tuple[str, str]]:
    if base == "xs:decimal":
        yield "totalDigits", "13"
        yield "fractionDigits", "2"
        return
    if isinstance(field, Choice):
        for option in field.options:
            yield "enumeration", option
        return
    yield "minLength", "1"
    yield "maxLength", str(field.longest)
    if field.pattern:
        yield "pattern", field.pattern.pattern


def _form_schema(parent: ET.Element, form: type[Form], year: int, required: bool) -> None:
    many = {} if form.per == "return" else {"maxOccurs": "unbounded"}
    element = _element(parent, form.__name__, **({} if required else {"minOccurs": "0"}), **many)
    sequence = _complex(element)
    for name, spec in form.specs.items():
        number = spec.number_in(year)
        if number is not None:
            line = _element(sequence, element_name(name))
            content = ET.SubElement(ET.SubElement(line, "xs:complexType"), "xs:simpleContent")
            base = "xs:string" if getattr(spec, "text", False) else "xs:decimal"
            extension = ET.SubElement(content, "xs:extension", {"base": base})
            _attribute(extension, "line", number)
    _attribute(element[0], "number", form.number)
    if form.per != "return":
        _attribute(element[0], "of")
