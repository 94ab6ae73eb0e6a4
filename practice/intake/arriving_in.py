"""Clients from elsewhere taken in, each in a transaction of its own with its own result.

A return of an earlier year is there to be rolled forward; of a list, the season's return is opened with what last year closed,
to be confirmed.
"""

import json
import logging
from dataclasses import replace

from django.core.files.storage import default_storage
from django.db import transaction

from practice.firm.crypto import unseal_bytes
from practice.firm.events import record
from practice.firm.packs import usual_pack
from practice.intake.arriving import OF_ADDRESS, PERSONAL, find, household_of, is_there
from practice.intake.models import Arrival
from practice.returns.changing import summarise
from practice.returns.computing import BROUGHT, result_of
from practice.returns.models import LineOverride, Stage
from practice.returns.opening import FILERS, new_return, open_household, put_papers, spanned
from practice.returns.placing import marks_of
from practice.returns.stages import reach
from taxcore.engine import BadValue, Refer, document

_log = logging.getLogger(__name__)


@transaction.atomic
def ask_to_take_in(actor, arrival_id, places):
    """Have the chosen clients taken in. BadValue when none can be."""
    from practice.intake.tasks import take_clients_in

    row = find(actor, arrival_id)
    if row.state != Arrival.State.READ:
        raise BadValue("This file is being read, or was taken in.", row.name)
    for item in row.items:
        item["chosen"] = item["place"] in places and not item["errors"] and not item["there"]
    if not any(item["chosen"] for item in row.items):
        raise BadValue("Choose at least one client who is not there yet.", "")
    row.state, row.by = Arrival.State.TAKING, actor
    row.save()
    take_clients_in.ask(arrival_id=row.pk)
    return row


def take_in(row):
    """Take the chosen ones in that are not yet; each in a transaction of its own with its result on the row."""
    with default_storage.open(f"{row.file}.read") as stored:
        documents = json.loads(unseal_bytes(stored.read()))
    for item in row.items:
        if item.get("chosen") and not item["says"]:
            item["says"], item["made"] = _take_one(row, documents[item["place"]])
            row.save(update_fields=["items", "touched_at"])
    row.state = Arrival.State.DONE
    row.save()
    record(row.by, "clients taken in", says=f"{row.name}: {sum(item['made'] is not None for item in row.items)} returns")


def _take_one(row, given):
    try:
        with transaction.atomic():
            return "taken in", _made(row, document.read(given)).pk
    except BadValue as bad:
        return bad.says[:200], None
    except Exception:  # one client must not hold up the others
        _log.exception("arrival %s", row.pk)
        return "failed because of a program error; it was logged", None


def _named_by_role(pack, data):
    """Taxpayer and spouse are called by their role here, whatever the document calls them."""
    ids = {one.id: str(one.values["role"]) for one in data.papers if one.kind == "person" and one.values.get("role") in FILERS}
    papers = []
    for one in data.papers:
        fields = pack.by_kind[one.kind].fields()
        named = {n: ids[v] for n, v in one.values.items() if isinstance(fields.get(n), Refer) and isinstance(v, str) and v in ids}
        papers.append(
            replace(one, id=ids.get(one.id, one.id) if one.kind == "person" else one.id, values={**one.values, **named})
        )
    return data.but(papers=tuple(papers))


def _made(row, data):
    data = _named_by_role(usual_pack(), data)
    people = {
        one.values.get("role"): one.values for one in data.papers if one.kind == "person" and one.values.get("role") in FILERS
    }
    household = household_of(row.firm_id, people["taxpayer"]) or _new_household(row.by, people, data)
    if is_there(household, data):
        raise BadValue(f"There is a return of {data.year} already.", "")
    return_ = new_return(household, data.year, row.by, pack=data.pack, **spanned(data.period))
    clients = dict(zip(FILERS, household.people.order_by("id").values_list("pk", flat=True), strict=False))
    ids = {one.id: clients.get(one.values.get("role")) for one in data.papers if one.kind == "person"}
    mark = {"how": "imported", "by": row.by.initials}
    put_papers(return_, data.papers, lambda one: marks_of(one.values, one.values, mark) | _from_last_year(data, one), ids)
    if data.year < row.firm.season:
        reach(return_, Stage.DONE, "from elsewhere")
    LineOverride.objects.bulk_create(
        LineOverride(firm=row.firm, of=return_, address=address[:120], amount=one.amount, reason=one.reason[:300], by=row.by)
        for address, one in data.overrides.items()
    )
    summarise(return_, result_of(return_))
    return_.save()
    record(row.by, "return taken in", return_, says=f"{data.year}, {row.name}")
    return return_


def _from_last_year(data, one):
    """What a list says of last year waits to be confirmed, as if it had been rolled forward."""
    return {name: {"how": BROUGHT, "by": "", "from": data.year - 1} for name in one.carried}


def _new_household(actor, people, data):
    standing = usual_pack().standing
    filing = next((one.values for one in data.papers if standing is not None and one.kind == standing.kind), {})
    first = people["taxpayer"]
    names = " and ".join(str(one.get("first_name", "")) for one in people.values() if one.get("first_name"))
    given = [{name: str(one[name]) for name in PERSONAL if one.get(name)} for one in people.values()]
    address = {name: str(filing[name])[:60] for name in OF_ADDRESS if filing.get(name)}
    return open_household(actor, f"{first.get('last_name', '')}, {names}".strip(", ")[:120], given, **address)
