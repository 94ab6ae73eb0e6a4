"""Names and addresses as authorities match and mail them: what is mistyped is rejected, or goes astray."""

from taxcore.engine import Mend, check, found, idea, stops
from taxcore.packs.us.base import STATES
from taxcore.packs.us.places import home_at_end
from taxcore.packs.us.spelling import header_name

# First digit of ZIP codes by state (Postal Service, national areas). A few border places differ: never more than a Check
_ZIP_AREAS = {
    "0": "CT MA ME NH NJ RI VT NY", "1": "DE NY PA", "2": "DC MD NC SC VA WV", "3": "AL FL GA MS TN", "4": "IN KY MI OH",
    "5": "DC IA MN MT ND SD WI", "6": "IL KS MO NE", "7": "AR LA OK TX", "8": "AZ CO ID NM NV TX UT WY", "9": "AK CA HI OR WA",
}  # fmt: skip


@stops("us.taxpayer-missing", "No taxpayer", "missing")
def nobody(run):
    if run.person("taxpayer") is None:
        yield found("us.filing.status", "There is no taxpayer. Add a person.")


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


@check("us.filing.moved", "Address and residency in different states", "unlikely")
def zip_of_state(run):
    filing = run.single("filing")
    home = home_at_end(run)
    if filing.state and home and filing.state != home:
        yield found(
            (filing.address("state"), filing.address("residence")),
            "The address and the state lived in all year differ. Correct after a move; otherwise correct one of them.",
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


CHECKS = (
    nobody,
    name_characters,
    last_name_in_first,
    zip_of_state,
    zip_and_state,
    signature_block,
    foreign_country,
)
