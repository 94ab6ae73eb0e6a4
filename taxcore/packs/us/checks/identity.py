"""Numbers of people, employers and banks: what an authority matches first. Formats are published, as are check digits."""

import re

from stdnum.exceptions import ValidationError
from stdnum.us import ein, itin, rtn, ssn

from taxcore.engine import check, found, stops
from taxcore.packs.us.base import digits

# Adoption numbers: the library knows their length only, the published structure is 9xx-93-xxxx
_ADOPTION = re.compile(r"9\d\d93\d{4}")
# Never issued to anybody: numbers beginning with 9 whose middle digits belong to neither itin nor atin, employers 00
_TRAINING_PERSON = re.compile(r"9\d\d[0-4]\d\d{4}")
_TRAINING_EMPLOYER = re.compile(r"00\d{7}")
_TRAINING_BANK = re.compile(r"1[3-9]\d{7}")


def _is_valid(number, *kinds):
    for kind in kinds:
        try:
            kind.validate(number)
            return True
        except ValidationError:
            continue
    return False


def person_number_ok(number, training):
    """A number of a person: published structure, or, on a training return, a range that is never issued."""
    plain = digits(number)
    if training:
        return bool(_TRAINING_PERSON.fullmatch(plain))
    return _is_valid(plain, ssn, itin) or bool(_ADOPTION.fullmatch(plain))


def employer_number_ok(number, training):
    plain = digits(number)
    return bool(_TRAINING_EMPLOYER.fullmatch(plain)) if training else _is_valid(plain, ein)


def bank_number_ok(number, training):
    return _is_valid(digits(number), rtn) and (not training or bool(_TRAINING_BANK.fullmatch(digits(number))))


@stops("us.person.number-malformed", "Invalid Social Security number", "format", "IRC 6109(d)")
def person_number(run):
    for person in run.people():
        if person.number and not person_number_ok(person.number, run.training):
            kind = "training number (9, then middle digits 00 to 49)" if run.training else "number ever issued"
            yield found(
                person.address("number"), f"{person.title}'s Social Security number is no {kind}. Compare it with the card."
            )


@stops("us.person.number-twice", "Duplicate Social Security number", "format")
def person_number_twice(run):
    seen = {}
    for person in run.people():
        plain = digits(person.number)
        if plain and plain in seen:
            yield found(
                (person.address("number"), seen[plain].address("number")),
                f"{person.title} and {seen[plain].title} have the same Social Security number. Check both cards.",
            )
        seen.setdefault(plain, person)


@stops("us.employer-number-malformed", "Invalid EIN or TIN", "format")
def employer_number(run):
    for paper, name in _payers(run):
        number = getattr(paper, name)
        if number and not employer_number_ok(number, run.training):
            kind = "training number (it would begin with 00)" if run.training else "number ever issued"
            yield found(paper.address(name), f"{paper.title}: {number} is no {kind}. Enter it again from the paper.")


def _payers(run):
    """Every paper with a number of an employer, payer or entity, and which field it is."""
    for paper in run.all_papers():
        for name in ("employer_number", "payer_number", "entity_number"):
            if paper.values.get(name):
                yield paper, name


@check("us.spouse-number-is-taxpayers", "Spouse's SSN same as taxpayer's", "format", "IRC 6109")
def spouse_apart_number(run):
    filing, taxpayer = run.single("filing"), run.person("taxpayer")
    if taxpayer is not None and filing.spouse_number and digits(filing.spouse_number) == digits(taxpayer.number) != "":
        yield found(filing.address("spouse_number"), "This is the taxpayer's own number. Enter the spouse's, or NRA.")


CHECKS = (
    person_number,
    person_number_twice,
    employer_number,
    spouse_apart_number,
)
