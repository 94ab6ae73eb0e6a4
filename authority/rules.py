"""What is checked before a return is accepted. Each rule has a code, a message and the path of the element at fault."""

import base64
import hashlib
import re
from dataclasses import asdict, dataclass
from functools import lru_cache

from django.conf import settings
from django.db import models
from lxml import etree

from authority.agreement import disagreements
from authority.models import Claim, Employer, Filing, Mood, Person
from authority.registers import register
from authority.tagged import wrong_with

ON_PAPER = "on paper"  # in place of a receipt, where what is corrected came by mail: nobody here has it


@dataclass(frozen=True)
class Fault:
    rule: str
    message: str
    path: str

    def as_dict(self):
        return asdict(self)


@lru_cache(maxsize=64)
def schema_of(authority, year):
    """The published schema of an authority and year, or None where the year is not open."""
    file = settings.SCHEMAS / f"{authority}-{year}.xsd"
    return etree.XMLSchema(etree.parse(file)) if file.is_file() else None


def parse(document):
    """The document as a tree. Entities and network are off: it comes from outside."""
    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False)
    return etree.fromstring(bytes(document), parser)


def faults_of(authority, year, document):
    """Every fault of a document; an empty list means it is acceptable."""
    try:
        root = parse(document)
    except etree.XMLSyntaxError as error:
        return [Fault("X-0001", f"The document is not XML: {error.msg}", "/")]
    if root.getroottree().docinfo.doctype:
        return [Fault("X-0004", "A document type declaration is not taken.", "/")]
    schema = schema_of(authority, year)
    if schema is None:
        return [Fault("X-0002", f"Year {year} is not open for filing.", "/Return")]
    if not schema.validate(root):
        return [Fault("X-0003", _schema_message(error), _path_at(root, error.line)) for error in list(schema.error_log)[:5]]
    found = Document(root)
    return [*_asked_for(), *(fault for rule in RULES for fault in rule(found, authority, year))]


def _asked_for():
    """A refusal that somebody asked for on the console; counts down."""
    asked = Mood.objects.filter(pk=1, to_refuse__gt=0).update(to_refuse=models.F("to_refuse") - 1)
    if asked:
        yield Fault("C-0901", "Rejected by request of the simulator's console.", "/Return")


def learn(document, authority):
    """Meet the people and employers of an accepted document."""
    if (persons := register(authority, "person")) is not None:
        met = {}
        for person in document.people():
            met.setdefault(persons.number(document, person), persons.text(document, person, "last_name")[:60])
        Person.objects.bulk_create((Person(number=number, last_name=last) for number, last in met.items()), ignore_conflicts=True)
    if (employers := register(authority, "employer")) is not None:
        met = {}
        for paper in document.all(employers.given["papers"]):
            met.setdefault(employers.number(document, paper), employers.text(document, paper, "name")[:120])
        Employer.objects.bulk_create((Employer(number=number, name=name) for number, name in met.items()), ignore_conflicts=True)


def extension_faults(authority, year, document):
    """Every fault of a request for more time: its schema, whom it is for, and that nobody asks twice."""
    try:
        root = parse(document)
    except etree.XMLSyntaxError as error:
        return [Fault("X-0001", f"The document is not XML: {error.msg}", "/")]
    schema = etree.XMLSchema(etree.parse(settings.EXTENSION))
    if not schema.validate(root):
        return [Fault("X-0003", _schema_message(error), _path_at(root, error.line)) for error in list(schema.error_log)[:5]]
    found = Document(root)
    if (root.get("authority"), root.get("year")) != (authority, str(year)):
        return [Fault("X-0005", "The document is for another authority or year.", "/Extension")]
    return [*person_matches(found, authority, year), *_too_late(found, authority, year)]


def _too_late(document, authority, year):
    """Nobody needs more time for a return that is here."""
    persons = register(authority, "person")
    for person in document.people() if persons is not None else ():
        number = persons.number(document, person)
        if Claim.objects.filter(authority=authority, year=year, number=number).exists():
            says = f"A return for {year} was accepted already; no extension is granted."
            yield Fault("E-0501", says, path_of(person, persons.path))


class Document:
    """Reads elements without minding the namespace, and names their paths."""

    def __init__(self, root):
        self.root = root
        self._space = {"r": etree.QName(root).namespace}

    def all(self, path, under=None):
        steps = "/".join(f"r:{step}" for step in path.split("/"))
        return (under if under is not None else self.root).findall(f"./{steps}", self._space)

    def text(self, path, under=None):
        found = self.all(path, under)
        return (found[0].text or "") if found else ""

    @property
    def corrects(self):
        """The receipt of the return that this one corrects; empty for an original."""
        found = self.all("Header/Amends")
        return found[0].get("receipt", "") or "none" if found else ""

    @property
    def ends(self):
        """The last day of a period of its own; empty where the year says what it is for."""
        return self.root.get("ends", "")

    def filers(self):
        return [one for one in self.people() if one.get("role") in ("taxpayer", "spouse", "entity")]

    def people(self):
        return [element for group in self.all("People") for element in group]


def path_of(element, child=""):
    parts = []
    here = element
    while here is not None:
        name = etree.QName(here).localname
        key = next((key for key in ("id", "of") if here.get(key)), "")
        parts.append(name + (f"[@{key}='{here.get(key)}']" if key else ""))
        here = here.getparent()
    return "/" + "/".join(reversed(parts)) + (f"/{child}" if child else "")


def _schema_message(error):
    return re.sub(r"\{[^}]*\}", "", error.message)


def _path_at(root, line):
    found = [element for element in root.iter() if element.sourceline == line]
    return path_of(found[0]) if found else "/Return"


def name_control(name):
    """First four letters of the last name, as registries match them."""
    return re.sub(r"[^A-Z]", "", name.upper())[:4]


def person_matches(document, authority, year):
    """A number stands for one last name. Somebody whom the register has not met is taken as the document has them, except in
    the range that training keeps for refusals."""
    persons = register(authority, "person")
    for person in document.people() if persons is not None else ():
        number, last = persons.number(document, person), persons.text(document, person, "last_name")
        known = Person.objects.filter(number=number).first()
        if persons.refuses(number):
            says = f"does not match {persons.keeper} records"
        elif known is not None and name_control(known.last_name) != name_control(last):
            says = "belongs to another last name"
        else:
            continue
        yield Fault("P-0101", f"{_whose(document, person, persons)}: the number {says}.", path_of(person, persons.path))


def _whose(document, person, persons):
    """Who it is, and the end of the number, which tells two of one name apart."""
    name = " ".join(persons.text(document, person, part) for part in ("first_name", "last_name")).strip()
    return f"{name}, number ending {persons.number(document, person)[-4:]}"


def number_already_used(document, authority, year):
    persons = register(authority, "person")
    for person in document.people() if persons is not None else ():
        number = persons.number(document, person)
        claims = Claim.objects.filter(authority=authority, year=year, number=number, ends=document.ends)
        if claims.exclude(filing__receipt=document.corrects, filing__isnull=False).exists():
            rule = "P-0202" if person.get("role") == "dependent" else "P-0201"
            message = f"{_whose(document, person, persons)}: this number was already used on another return for {year}."
            yield Fault(rule, message, path_of(person, persons.path))


def employer_known(document, authority, year):
    """Employers whom the register has not met are taken too, except in the range that training keeps for refusals."""
    employers = register(authority, "employer")
    for paper in document.all(employers.given["papers"]) if employers is not None else ():
        if employers.refuses(employers.number(document, paper)):
            named = f"{employers.text(document, paper, 'name')}, {employers.text(document, paper, 'number')}"
            message = f"{named}: this {employers.given['called']} does not match {employers.keeper} records."
            yield Fault("E-0301", message, path_of(paper, employers.path))


def document_agrees(document, authority, year):
    """Lines, schedules and papers say the same (agreement.py), of a correction also what was accepted."""
    earlier = accepted(document, authority, year)
    for one in disagreements(document.root, authority, year, parse(earlier.document) if earlier is not None else None):
        line = one.statement.first_line
        message = f"Form {one.statement.form}, line {line}, is {one.found:,}; {one.statement.text} makes it {one.expected:,}."
        yield Fault(one.statement.code, message, path_of(one.element))


def accepted(document, authority, year):
    """The accepted return that this one corrects, the newest of its filer; None where it corrects none, or none is here."""
    persons = register(authority, "person")
    if persons is None:
        return None
    found = Filing.objects.filter(receipt=document.corrects, authority=authority, year=year, kind="return", state="accepted")
    return found.filter(claims__number__in=[persons.number(document, one) for one in document.filers()]).first()


def correction_follows_original(document, authority, year):
    """A correction names the newest accepted return of one of its filers."""
    if document.corrects not in ("", ON_PAPER) and accepted(document, authority, year) is None:
        message = (
            f"No accepted return for {year} stands under receipt {document.corrects[:40]}; only the newest can be corrected."
        )
        yield Fault("A-0601", message, "/Return/Header/Amends")


_LARGEST = 5_000_000  # bytes of one attachment


def attachments_whole(document, authority, year):
    """What goes along is a PDF or a tagged page, is what its hash says, has a name of its own and is not too large."""
    names = set()
    for one in document.all("Attachments/Attachment"):
        try:
            content = base64.b64decode(one.text or "", validate=False)
        except ValueError:
            content = b""
        says = wrong_with(content, one.get("what"), authority, document.root)
        if says:
            pass
        elif hashlib.sha256(content).hexdigest() != one.get("sha256"):
            says = "An attachment is not what its hash says."
        elif len(content) > _LARGEST:
            says = f"An attachment has more than {_LARGEST:,} bytes."
        elif one.get("name") in names:
            says = "Two attachments have the same name."
        names.add(one.get("name"))
        if says:
            yield Fault("A-0701", says, "/Return/Attachments")


RULES = (attachments_whole, person_matches, number_already_used, employer_known, correction_follows_original, document_agrees)
