"""Names, dates, addresses and accounts as authorities and banks match them: what is mistyped is rejected, or goes astray."""

from datetime import timedelta

from taxcore.engine import Mend, check, found, idea, stops
from taxcore.packs.us.base import STATES, digits
from taxcore.packs.us.checks.identity import bank_number_ok
from taxcore.packs.us.spelling import header_name

# First digit of ZIP codes by state (Postal Service, national areas). A few border places differ: never more than a Check
_ZIP_AREAS = {
    "0": "CT MA ME NH NJ RI VT NY", "1": "DE NY PA", "2": "DC MD NC SC VA WV", "3": "AL FL GA MS TN", "4": "IN KY MI OH",
    "5": "DC IA MN MT ND SD WI", "6": "IL KS MO NE", "7": "AR LA OK TX", "8": "AZ CO ID NM NV TX UT WY", "9": "AK CA HI OR WA",
}  # fmt: skip
_TWINS = timedelta(days=3)
_NEXT_BIRTH = timedelta(days=240)


@check("us.person.name-characters", "Name is transmitted in another spelling", "format", "Pub. 4164")
@stops("us.person.name-unwritable", "Name cannot be transmitted", "format", "Pub. 4164")
def name_characters(run):
    """The filed document writes names without marks by itself; the client's own spelling stays."""
    for person in run.people():
        for name in ("first_name", "last_name"):
            text = getattr(person, name)
            sent = header_name(text)
            if text and not sent:
                yield found(
                    person.address(name),
                    f"“{text}” cannot be transmitted in the allowed characters. Enter the name as on the Social Security card.",
                    code="us.person.name-unwritable",
                )
            elif sent != " ".join(text.split()):
                yield found(
                    person.address(name),
                    f"“{text}” is sent as “{sent}” in the e-filed return. Everywhere else it stays as entered.",
                    code="us.person.name-characters",
                )


@check("us.person.whole-name-in-first", "First and last name in one field", "format")
def last_name_in_first(run):
    for person in run.people():
        last = person.last_name.strip().lower()
        if last and person.first_name.strip().lower().endswith(f" {last}"):
            plain = person.first_name.strip()[: -len(last)].strip()
            yield found(
                person.address("first_name"),
                f"The first name “{person.first_name}” ends with the last name. Keep the first name only.",
                mend=Mend(f"Write {plain}", person.address("first_name"), plain),
            )


@stops("us.person.death-before-birth", "Date of death before date of birth", "format")
@check("us.person.very-old", "Age over 110", "unlikely")
@check("us.person.filer-very-young", "Spouse under 16", "unlikely")
def ages(run):
    for person in run.people():
        born, died = person.birth_date, person.death_date
        if born is None:
            continue
        if died is not None and died < born:
            yield found(
                (person.address("death_date"), person.address("birth_date")),
                f"{person.title} would have died before birth. Correct one of the dates.",
                code="us.person.death-before-birth",
            )
        elif run.year - born.year > 110 and died is None:
            yield found(
                person.address("birth_date"),
                f"{person.title} would be {run.year - born.year}. Compare the year of birth.",
                code="us.person.very-old",
            )
        if person.role == "spouse" and run.year - born.year < 16:
            yield found(
                person.address("birth_date"),
                f"{person.title} would be {run.year - born.year} and married. Compare the year of birth.",
                code="us.person.filer-very-young",
            )


@check("us.dependent.older-than-parent", "Child nearly as old as the parents", "unlikely", "IRC 152(c)(3)(A)")
@check("us.dependent.parent-too-young", "Parent barely older than the taxpayer", "unlikely", "IRC 152(d)(2)(C)")
def generations(run):
    filers = [person.birth_date for person in map(run.person, ("taxpayer", "spouse")) if person is not None and person.birth_date]
    for child in run.people("dependant"):
        if child.birth_date is None or not filers:
            continue
        if child.relationship == "child" and child.birth_date.year - min(filers).year < 13:
            yield found(
                child.address("birth_date"),
                f"{child.title}, a child, is nearly as old as the parents. Compare the dates of birth, and the relationship.",
                code="us.dependent.older-than-parent",
            )
        if child.relationship == "parent" and max(filers).year - child.birth_date.year < 13:
            yield found(
                child.address("birth_date"),
                f"{child.title}, a parent, is barely older than the taxpayer. Compare the dates of birth, and the relationship.",
                code="us.dependent.parent-too-young",
            )


@check("us.dependent.births-too-near", "Children born within 8 months", "unlikely")
@stops("us.person.twice", "Same person entered twice", "conflict", "IRC 151")
def births(run):
    people = [person for person in run.people() if person.birth_date is not None]
    for place, one in enumerate(people):
        for other in people[place + 1 :]:
            apart = abs(one.birth_date - other.birth_date)
            same_name = one.first_name.strip().lower() == other.first_name.strip().lower() != ""
            if same_name and not apart:
                yield found(
                    (other.address("first_name"), one.address("first_name")),
                    f"{one.title} is on the return twice. Remove one.",
                    code="us.person.twice",
                )
            elif one.relationship == other.relationship == "child" and _TWINS < apart < _NEXT_BIRTH:
                yield found(
                    (other.address("birth_date"), one.address("birth_date")),
                    f"{one.title} and {other.title} are born {apart.days} days apart. Correct for half or step "
                    "siblings; otherwise check the dates.",
                    code="us.dependent.births-too-near",
                )


@check("us.filing.zip-of-another-state", "ZIP code and state differ", "format", "Postal Service, Pub. 65")
@check("us.employer.zip-of-another-state", "Employer's ZIP code and state differ", "format", "Postal Service, Pub. 65")
def zip_and_state(run):
    filing = run.single("filing")
    if _elsewhere(filing.zip, filing.state):
        yield found(
            (filing.address("zip"), filing.address("state")),
            f"ZIP codes beginning with {filing.zip[0]} are not in {STATES[filing.state]}. Compare the address.",
            code="us.filing.zip-of-another-state",
        )
    for wage in run.papers("w2"):
        if _elsewhere(wage.employer_zip, wage.employer_state):
            yield found(
                (wage.address("employer_zip"), wage.address("employer_state")),
                f"{wage.title}: ZIP codes beginning with {wage.employer_zip[0]} are not in "
                f"{STATES[wage.employer_state]}. Compare box c.",
                code="us.employer.zip-of-another-state",
            )


def _elsewhere(code, state):
    return bool(code) and state in STATES and state not in _ZIP_AREAS.get(code[0], "").split()


@check("us.person.occupation-missing", "The occupation is empty", "missing", "Form 1040, signature block")
@idea("us.person.no-mail-address", "No email address", "missing")
def signature_block(run):
    filers = run.form("us.1040").filers
    for person in filers:
        if not person.occupation:
            yield found(
                person.address("occupation"),
                f"{person.title}'s occupation is printed beside the signature. Enter it.",
                code="us.person.occupation-missing",
            )
    if filers and not any(person.email for person in filers):
        yield found(
            filers[0].address("email"),
            "No email address is entered: the client cannot e-sign remotely.",
            code="us.person.no-mail-address",
        )


@stops("us.foreign-country-missing", "Country of foreign account missing", "missing", "Schedule B, line 7b")
def foreign_country(run):
    filing = run.single("filing")
    if filing.foreign_account and filing.foreign_report and not filing.foreign_country:
        yield found(filing.address("foreign_country"), "Enter the country of the account, Schedule B.")


@check("us.deposit.account-is-routing", "Account number same as routing number", "format")
@check("us.split-deposit.account-twice", "Form 8888: account entered twice", "conflict")
@stops("us.split-deposit.too-many", "Refund split over more than 3 accounts", "rule", "Form 8888")
@stops("us.split-deposit.routing-wrong", "Form 8888: invalid routing number", "format")
def accounts(run):
    deposit, split = run.single("deposit"), run.single("split-deposit")
    if deposit.routing and digits(deposit.account) == digits(deposit.routing):
        yield found(
            deposit.address("account"),
            "The account number is the routing number again. Copy it from a check or the bank's letter.",
            code="us.deposit.account-is-routing",
        )
    marks = [(row.routing, row.account) for row in split.rows if row.account]
    if len(marks) != len(set(marks)):
        yield found(
            split.address("rows"),
            "An account is entered twice. Combine both amounts.",
            code="us.split-deposit.account-twice",
        )
    if len(split.rows) > 3:
        yield found(
            split.address("rows"), "A refund can go to at most 3 accounts. Remove some.", code="us.split-deposit.too-many"
        )
    for row in split.rows:
        if row.routing and not bank_number_ok(row.routing, run.training):
            yield found(
                row.address("routing"),
                "The check digit of this routing number is wrong. Copy it from a check or the bank's letter.",
                code="us.split-deposit.routing-wrong",
            )


@check("us.spouse-number-is-taxpayers", "Spouse's SSN same as taxpayer's", "format", "IRC 6109")
def spouse_apart_number(run):
    filing, taxpayer = run.single("filing"), run.person("taxpayer")
    if taxpayer is not None and filing.spouse_number and digits(filing.spouse_number) == digits(taxpayer.number) != "":
        yield found(filing.address("spouse_number"), "This is the taxpayer's own number. Enter the spouse's, or NRA.")


CHECKS = (
    name_characters, last_name_in_first, ages, generations, births, zip_and_state, signature_block, foreign_country, accounts,
    spouse_apart_number,
)  # fmt: skip
