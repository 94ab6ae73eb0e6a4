"""Documents that follow from a return's figures (engine/outgoing.py), as PDFs or tagged pages: seen before, sent with it."""

import base64
from decimal import Decimal

import lxml.etree as etree

from practice.pages.pdf import pdf_from, pdf_of
from practice.returns.computing import pack_of
from taxcore.engine.filed import Enclosure


def drawn_for(return_, result, authority):
    """What goes to an authority by itself."""
    return pack_of(return_).outgoing.drawn(result, authority.code)


def pdf_of_drawn(return_, one):
    """The PDF's bytes."""
    if one.page:
        return as_pdf(one.page)
    tables = [(_heads(table), table, [_cells(row) for row in table.rows], _cells(table.sums)) for table in one.tables]
    context = {"drawn": one, "tables": tables, "return": return_, "firm": return_.firm, "pack": pack_of(return_)}
    return pdf_of("intake/drawn_pdf.html", context)


def as_pdf(content):
    """What goes along, for people: a tagged page as a PDF, a PDF as it is."""
    return content if content.startswith(b"%PDF-") else pdf_from(content.decode())


def _cells(row):
    """(value, whether it is an amount or a count)."""
    return [(value, isinstance(value, (Decimal, int))) for value in row]


def enclosed_in(content):
    """(name, bytes) of everything that goes along in a filed document."""
    document = etree.fromstring(content, etree.XMLParser(resolve_entities=False))
    return [(one.get("name"), base64.b64decode(one.text)) for one in document.iter("{*}Attachment")]


def _heads(table):
    """(head, whether amounts stand below it)."""
    return [(head, any(isinstance(row[place], (Decimal, int)) for row in table.rows)) for place, head in enumerate(table.heads)]


def enclosed(return_, result, authority):
    return [
        Enclosure(one.code, one.name, one.page or pdf_of_drawn(return_, one)) for one in drawn_for(return_, result, authority)
    ]
