"""What is checked before a return is accepted. Each rule has a code, a message and the path of the element at fault."""

import re
from dataclasses import asdict, dataclass
from decimal import Decimal, InvalidOperation
from functools import lru_cache

from django.conf import settings
from lxml import etree

from authority.models import Claim, Employer, Person


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
    return [fault for rule in RULES for fault in rule(found, authority, year)]


def extension_faults(authority, year, document):
    """Every fault of a request for more time: its schema, whom it is for, and that nobody asks twice."""
    try:
        root = parse(document)
    except etree.XMLSyntaxError as error:
        return [Fault("X-0001", f"The document is not XML: {error.msg}", "/")]
    schema = etree.XMLSchema(etree.parse(settings.SCHEMAS / "extension.xsd"))
    if not schema.validate(root):
        return [Fault("X-0003", _schema_message(error), _path_at(root, error.line)) for error in list(schema.error_log)[:5]]
    found = Document(root)
    if (root.get("authority"), root.get("year")) != (authority, str(year)):
        return [Fault("X-0005", "The document is for another authority or year.", "/Extension")]
    return [*person_matches(found, authority, year), *_too_late(found, authority, year)]


def _too_late(document, authority, year):
    """Nobody needs more time for a return that is here."""
    for person in document.people():
        if Claim.objects.filter(authority=authority, year=year, number=digits(document.text("Number", person))).exists():
            yield Fault("E-0501", f"A return for {year} was accepted already; no more time is given.", path_of(person, "Number"))


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

    def amount(self, path):
        try:
            return Decimal(self.text(path) or 0)
        except InvalidOperation:
            return Decimal(0)

    def people(self):
        return [element for group in self.all("People") for element in group]


def digits(text):
    return re.sub(r"\D", "", text or "")


def path_of(element, child=""):
    parts = []
    here = element
    while here is not None:
        name = etree.QName(here).localname
        parts.append(name + (f"[@id='{here.get('id')}']" if here.get("id") else ""))
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
    for person in document.people():
        number, last = digits(document.text("Number", person)), document.text("LastName", person)
        known = Person.objects.filter(number=number).first()
        if known is None or name_control(known.last_name) != name_control(last):
            yield Fault("P-0101", "Number and last name do not match the register.", path_of(person, "Number"))


def number_already_used(document, authority, year):
    for person in document.people():
        number, role = digits(document.text("Number", person)), person.get("role")
        claim = Claim.objects.filter(authority=authority, year=year, number=number).first()
        if claim is not None:
            rule, who = ("P-0202", "dependant") if role == "dependant" else ("P-0201", "taxpayer")
            message = f"The {who}'s number was already used on another return for {year}."
            yield Fault(rule, message, path_of(person, "Number"))


def employer_known(document, authority, year):
    for statement in document.all("Papers/WageStatement"):
        if not Employer.objects.filter(number=digits(document.text("EmployerNumber", statement))).exists():
            yield Fault("E-0301", "The employer number is not in the register.", path_of(statement, "EmployerNumber"))


# Lines that must agree: form, result, added lines, subtracted lines, and whether the result stops at zero
_SUMS = {
    "us": [
        ("IncomeTaxReturn", "TotalIncome", ["Wages", "TaxableInterest"], [], False),
        ("IncomeTaxReturn", "AdjustedGrossIncome", ["TotalIncome"], ["Adjustments"], False),
        ("IncomeTaxReturn", "TaxableIncome", ["AdjustedGrossIncome"], ["Deductions"], True),
        ("IncomeTaxReturn", "TotalTax", ["TaxAfterCredits", "OtherTaxes"], [], False),
        ("IncomeTaxReturn", "Overpaid", ["Payments"], ["TotalTax"], True),
        ("IncomeTaxReturn", "Owed", ["TotalTax"], ["Payments"], True),
    ],
    "us-il": [
        ("IncomeTax", "TotalIncome", ["FederalAgi", "ExemptInterest", "Additions"], [], False),
        ("IncomeTax", "NetIncome", ["BaseIncome"], ["Exemptions"], True),
        ("IncomeTax", "Overpaid", ["Payments"], ["TotalTax"], True),
        ("IncomeTax", "Owed", ["TotalTax"], ["Payments"], True),
    ],
}


def totals_agree(document, authority, year):
    for form, result, added, subtracted, floor in _SUMS.get(authority, []):
        expected = sum(document.amount(f"Forms/{form}/{line}") for line in added)
        expected -= sum(document.amount(f"Forms/{form}/{line}") for line in subtracted)
        expected = max(expected, Decimal(0)) if floor else expected
        if document.amount(f"Forms/{form}/{result}") != expected:
            message = f"{result} is not what its lines make: expected {expected}."
            yield Fault("T-0401", message, f"/Return/Forms/{form}/{result}")


def withheld_agrees(document, authority, year):
    if authority != "us":
        return
    papers = [*document.all("Papers/WageStatement/FederalWithheld"), *document.all("Papers/InterestStatement/Withheld")]
    keyed = sum(Decimal(element.text) for element in papers)
    if abs(document.amount("Forms/IncomeTaxReturn/Withheld") - keyed) > 1:
        yield Fault("T-0402", "Tax withheld is not what the statements say.", "/Return/Forms/IncomeTaxReturn/Withheld")


RULES = (person_matches, number_already_used, employer_known, totals_agree, withheld_agrees)
