"""Attachments that must be tagged pages (inline XBRL): readable by a program, and saying what the return says."""

import tomllib
from decimal import Decimal
from functools import lru_cache

from lxml import etree

from authority.agreement import FOLDER, Forms

_INLINE = "{http://www.xbrl.org/2013/inlineXBRL}"
_LINK = "{http://www.xbrl.org/2003/linkbase}"


@lru_cache(maxsize=16)
def wanted(authority):
    """{what an attachment is: {concept: (form, line)}} of those that must be tagged; empty where none must."""
    file = FOLDER / f"{authority}.toml"
    said = tomllib.loads(file.read_text()).get("tagged", []) if file.is_file() else []
    return {one["what"]: {name: tuple(place.split(".")) for name, place in one.get("agree", {}).items()} for one in said}


def wrong_with(content, what, authority, root):
    """Why an attachment cannot be taken as a tagged page; empty where it can, and for what need not be one."""
    places = wanted(authority).get(what)
    if places is None:
        return "" if content.startswith(b"%PDF-") else "An attachment is no PDF."
    if content.startswith(b"%PDF-"):
        return f"The {what} is a PDF, which no program can read. It must be tagged (inline XBRL)."
    try:
        page = etree.fromstring(content, etree.XMLParser(resolve_entities=False, no_network=True))
    except etree.XMLSyntaxError as error:
        return f"The {what} is no tagged page: {error.msg}"
    if page.find(f".//{_LINK}schemaRef") is None or not (facts := _facts(page)):
        return f"The {what} has no tags."
    forms = Forms(root)
    for name, (form, line) in places.items():
        said, filed = facts.get(name), forms.all_of(form, line)
        if said is not None and said != filed:
            return f"The {what} says {said:,} for {name}, {form} line {line} is {filed:,}."
    return ""


def _facts(page):
    """{concept without its prefix: amount} of what is tagged for the whole period."""
    found = {}
    for one in page.iter(f"{_INLINE}nonFraction"):
        if one.get("contextRef") == "duration":
            amount = Decimal("".join(one.itertext()).replace(",", ""))
            found[one.get("name").partition(":")[2]] = -amount if one.get("sign") == "-" else amount
    return found
