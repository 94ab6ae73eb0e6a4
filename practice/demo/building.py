"""Puts the scenario into the database with the same services that people use."""

import secrets
from datetime import date

from django.db import transaction
from PIL import Image, ImageDraw

from practice.clients.identity import record_identity
from practice.clients.models import Household
from practice.demo import earlier, scenario
from practice.dispatch.filing import file_return
from practice.firm.models import Firm, Staff
from practice.returns.changing import summarise
from practice.returns.computing import result_of
from practice.returns.confirming import confirm_many
from practice.returns.entry import add_paper, save_field
from practice.returns.models import How, Stage
from practice.returns.opening import new_return, open_household, open_return, put_papers
from practice.returns.rolling import FILL, note_origin, roll
from practice.returns.stages import reach
from practice.review.signing_off import sign_off
from practice.signing.locking import lock_figures
from practice.signing.needed import authorities_to_sign, signers
from practice.signing.requesting import ask_for_signature, sign_in_office

_DAYS = {"gather": date(2026, 1, 20), "prepare": date(2026, 2, 2), "review": date(2026, 2, 5), "sign": date(2026, 2, 6),
         "file": date(2026, 2, 9)}  # fmt: skip


@transaction.atomic
def build_firm(password=None, domain=None):
    """The firm and its staff; returns (firm, password). Another mail domain makes room for a second such firm."""
    firm = Firm.objects.create(**scenario.FIRM)
    password = password or secrets.token_urlsafe(9)
    for email, name, initials, role in scenario.STAFF:
        email = f"{email.split('@')[0]}@{domain}" if domain else email
        person = Staff(firm=firm, email=email, name=name, initials=initials, role=role)
        person.set_password(password)
        person.save()
    return firm, password


@transaction.atomic
def build_household(firm, entry):
    """One household with its return, brought to its stage; returns the return."""
    staff = {person.initials: person for person in firm.staff.all()}
    preparer = staff[entry["in_care_of"]]
    household = open_household(
        preparer, entry["name"], [member["person"] for member in entry["people"]], trade=entry["trade"],
        **dict(zip(("street", "city", "state", "zip"), entry["address"], strict=True)),
    )  # fmt: skip
    roles = list(zip(household.people.all(), ("taxpayer", "spouse"), strict=False))
    if entry.get("rolled"):
        return roll(preparer, _earlier_years(preparer, household, entry).pk).return_
    return_ = open_return(preparer, household.pk, 2025, [(person.pk, role) for person, role in roles])
    _key_papers(preparer, return_, entry)
    return_.refresh_from_db()
    _bring_to_stage(staff, return_, entry)
    return return_


@transaction.atomic
def add_earlier_years(firm, entry):
    """The years before of a household that is there, and what this year's return has from them: confirmed."""
    household = Household.objects.for_firm(firm).get(name=entry["name"])
    this = household.returns.for_firm(firm).get(year=2025)
    last = _earlier_years(household.in_care_of, household, entry)
    roll(household.in_care_of, last.pk, FILL)
    confirm_many(household.in_care_of, this.pk, set(this.papers.values_list("pk", flat=True)))
    if entry["filed_before"]:
        _file_before({person.initials: person for person in firm.staff.all()}, last)


def _file_before(staff, return_):
    """Last year's return goes out as well, so that there is one to correct."""
    sign_off(staff["RA"], return_.pk)
    lock_figures(staff["SH"], return_.pk)
    for client, _ in signers(_fresh(return_)):
        _sign_all(staff["AP"], return_, client)
    file_return(staff["SH"], return_.pk)
    return_.refresh_from_db()
    return_.stages = {name: f"{return_.year + 1}-03-0{place}" for place, name in enumerate(return_.stages, start=1)}
    return_.save()


def _earlier_years(actor, household, entry):
    """Returns of the years before, done; gives the last of them."""
    people, source = dict(zip(("taxpayer", "spouse"), household.people.all(), strict=False)), None
    for data, rolled in earlier.years_of(entry, 2025):
        return_ = new_return(household, data.year, actor)
        ids = {one.id: getattr(people.get(one.values.get("role")), "pk", None) for one in data.papers if one.kind == "person"}
        put_papers(return_, data.papers, lambda one: {}, ids)
        if source is not None:
            note_origin(actor, return_, source, How.ROLLED, rolled)
        summarise(return_, result_of(return_))
        reach(return_, Stage.DONE)
        return_.stages = {name: f"{data.year + 1}-03-0{place}" for place, name in enumerate(return_.stages, start=1)}
        return_.save()
        source = return_
    return source


def _key_papers(actor, return_, entry):
    filing = return_.papers.get(kind="filing")
    if entry["stage"] != "gather":
        save_field(actor, return_.pk, filing.pk, "residence", entry.get("residence", "IL"), filing.values.get("residence", ""))
        for name, value in entry["answers"].items():
            save_field(actor, return_.pk, filing.pk, name, value, filing.values.get(name, ""))
    for paper in return_.papers.filter(kind="person"):
        for member in entry["people"]:
            if member.get("claimed") and paper.values["first_name"] == member["person"]["first_name"]:
                save_field(actor, return_.pk, paper.pk, "claimed_by_other", "yes", "")
    for dependant in entry.get("dependants", []):
        add_paper(actor, return_.pk, "person", "", dependant)
    for wages in entry["wages"]:
        add_paper(actor, return_.pk, "w2", wages["owner"], _wage_values(wages))
    for bank, owner, amount, treasury in entry["interest"]:
        name, number = scenario.BANKS[bank]
        values = {"payer": name, "payer_number": number, "interest": amount}
        add_paper(actor, return_.pk, "1099-int", owner, values | ({"government_interest": treasury} if treasury else {}))
    for kind, owner, values in entry.get("papers", []):
        add_paper(actor, return_.pk, kind, owner, values)
    if entry["use_tax"]:
        add_paper(actor, return_.pk, "il-questions", "", {"use_tax": entry["use_tax"]})
    if "deposit" in entry:
        values = dict(zip(("routing", "account", "account_kind"), entry["deposit"], strict=True))
        add_paper(actor, return_.pk, "deposit", "", values)


def _wage_values(wages):
    name, number, street, city, state, zip_code, state_number = scenario.EMPLOYERS[wages["employer"]]
    values = {
        "employer": name, "employer_number": number, "employer_street": street, "employer_city": city,
        "employer_state": state, "employer_zip": zip_code, "wages": wages["wages"], "federal_withheld": wages["withheld"],
        "codes": [{"code": code, "amount": amount} for code, amount in wages.get("codes", [])],
        "states": scenario.state_rows(wages, state_number),
    }  # fmt: skip
    if wages.get("others"):
        values["others"] = [{"kind": kind, "description": text, "amount": amount} for kind, text, amount in wages["others"]]
    if wages.get("no_number"):
        del values["employer_number"]
    if wages.get("box_3"):
        values["social_security_wages"] = wages["box_3"]
    return {name: value for name, value in values.items() if value}


def _bring_to_stage(staff, return_, entry):
    stage = entry["stage"]
    signer, reviewer = staff["SH"], staff["RA"]
    if stage == "gather":
        reach(return_, Stage.GATHER, "papers to come")
    elif stage == "prepare":
        reach(return_, Stage.PREPARE, "data entry")
    elif stage == "review":
        reach(return_, Stage.REVIEW, "first review")
        return_.waiting_for = reviewer
    return_.save()
    if stage == "sign":
        sign_off(reviewer, return_.pk)
        ask_for_signature(signer, return_.pk)
        client, _ = signers(_fresh(return_))[0]
        _sign_all(staff["AP"], return_, client)
    if stage == "file":
        sign_off(reviewer, return_.pk)
        lock_figures(signer, return_.pk)
        for client, _ in signers(_fresh(return_)):
            _sign_all(staff["AP"], return_, client)
        file_return(signer, return_.pk)
    return_.refresh_from_db()
    return_.stages = {name: _DAYS.get(name, _DAYS["file"]).isoformat() for name in return_.stages}
    return_.save()


def _fresh(return_):
    return_.refresh_from_db()
    return return_


def _sign_all(witness, return_, client):
    record_identity(witness, client.pk, "licence", str(4000 + client.pk)[-4:], "2029-06-30", "Illinois")
    for authority in authorities_to_sign(_fresh(return_)):
        sign_in_office(witness, return_.pk, client.pk, authority.code, drawn_name(client.full_name), "127.0.0.1", "41706")


def drawn_name(name):
    """A plain drawn line with the name's rhythm, as a PNG in a data address."""
    import base64
    import io

    picture = Image.new("RGBA", (480, 140), (0, 0, 0, 0))
    pen = ImageDraw.Draw(picture)
    points = [(30 + 16 * place, 80 - (ord(letter) * 7 % 46)) for place, letter in enumerate(name[:26])]
    pen.line(points, fill=(20, 35, 27, 255), width=3, joint="curve")
    made = io.BytesIO()
    picture.save(made, "PNG")
    return "data:image/png;base64," + base64.b64encode(made.getvalue()).decode()
