"""All that the practice has of a client, as one ZIP: returns in the open format, packages, and the pages beside papers."""

import json
import re
import tempfile
import zipfile

from practice.clients.models import Household, Kind
from practice.delivery import stating
from practice.delivery.plan_sheets import read as read_plans
from practice.delivery.tasks import read_package
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.intake import attaching
from practice.returns.computing import data_of
from taxcore.engine import document


def hand_over(actor, household_id):
    """(name, open temporary file) of a household's ZIP. It shows every number in plain: an event, and a right of its own."""
    household = fetch(Household.objects, actor, pk=household_id)
    require(actor, "reveal", household)
    require(actor, "deliver", household)
    file = tempfile.TemporaryFile()  # noqa: SIM115 - the answer that sends it closes it
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as packed:
        returns = household.returns.for_firm(household.firm_id).select_related("firm").order_by("year", "pk")
        listed = [_put(packed, one) for one in returns]
        people = [one.full_name for one in household.people.all()]
        about = {"household": household.name, "people": people, "returns": listed} | _company(household)
        packed.writestr("contents.json", json.dumps(about, indent=1, ensure_ascii=False))
    record(actor, "client handed over", household=household, says=f"{len(listed)} returns as a file")
    file.seek(0)
    return f"{_plain(household.name)}.zip", file


def _company(household):
    """What is kept of a client that is no person."""
    if household.kind != Kind.ENTITY:
        return {}
    entity, roles = household.entity, household.roles.select_related("person", "holder")
    details = {
        "form": entity.form, "number": entity.number, "formed_on": _day(entity.formed_on), "email": entity.email,
        "telephone": entity.telephone,
    }  # fmt: skip
    named = [
        {"who": one.named, "role": one.kind, "share": f"{one.share.normalize():f}" if one.share is not None else None,
         "since": _day(one.since), "until": _day(one.until)}
        for one in roles
    ]  # fmt: skip
    return {"company": details, "roles": named}


def _day(day):
    return day.isoformat() if day else None


def _put(packed, return_):
    """One return with its packages and pages; what the list of contents says of it."""
    folder = f"{return_.year}-{return_.get_purpose_display().lower()}-{return_.pk}"
    data = data_of(return_, look_back=False)
    packed.writestr(f"{folder}/return.json", json.dumps(document.write(data), indent=1, ensure_ascii=False))
    files = []
    for package in return_.packages.filter(state="ready").order_by("pk"):
        files.append(f"package-{package.pk}.pdf")
        packed.writestr(f"{folder}/{files[-1]}", read_package(package))
    for one in return_.statements.filter(state="ready").order_by("pk"):
        files.append(f"{one.code}-{one.pk}.pdf")
        packed.writestr(f"{folder}/{files[-1]}", stating.read(one))
    for sheet in return_.plan_sheets.order_by("pk"):
        files.append(f"plans-{sheet.pk}.pdf")
        packed.writestr(f"{folder}/{files[-1]}", read_plans(sheet))
    for page in return_.attachments.filter(removed_at=None, state="ready").order_by("pk"):
        files.append(f"pages/{page.pk}-{_plain(page.name.rsplit('.', 1)[0])}.{'xhtml' if page.kind == 'xbrl' else page.kind}")
        packed.writestr(f"{folder}/{files[-1]}", attaching.content_of(page))
    return {
        "folder": folder, "year": return_.year, "purpose": return_.purpose, "stage": return_.stage, "files": files,
        "submissions": [
            {"authority": one.authority, "state": one.state, "receipt": one.receipt} for one in return_.submissions.all()
        ],
    }  # fmt: skip


def _plain(name):
    return re.sub(r"[^A-Za-z0-9]+", "-", name).strip("-")[:60] or "client"
