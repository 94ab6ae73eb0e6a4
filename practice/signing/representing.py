"""Who signs for somebody who cannot: as what the law allows, with the proof beside the return and in the filed document."""

from django.db import transaction
from django.utils import timezone

from practice.clients.models import Person
from practice.firm import dates
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.firm.typed_values import day_of
from practice.intake import attaching
from practice.intake.models import Attachment
from practice.returns.changing import Settled, closed_because, lock_opens
from practice.returns.computing import pack_of
from practice.returns.models import Return
from practice.signing.models import Representative
from practice.signing.needed import CannotSign, cannot_sign, signers
from taxcore.engine import BadValue


def of_return(return_):
    """{client's id: who represents them}."""
    rows = return_.representatives.filter(ended_at=None).select_related("person", "proof", "client")
    return {one.client_id: one for one in rows}


def written_to(return_):
    """The clients who hear of a return: who signs it, and of somebody who has died the client who represents them."""
    gone, rows = cannot_sign(return_), of_return(return_)
    found = [
        (rows[client.pk].person if client.pk in rows else None) if client.pk in gone else client for client, _ in signers(return_)
    ]
    return [one for one in found if one is not None]


def who_may(actor, return_, client):
    """Clients of the practice who may be chosen: the household's others."""
    rows = Person.objects.for_staff(actor).filter(household=return_.household_id, merged_into=None)
    return rows.exclude(pk=client.pk).order_by("pk")


@transaction.atomic
def represent(actor, return_id, client_id, given, file=None):
    """From now on somebody else signs for a client. `given` maps capacity, person (an id), name, seen and until to what was
    typed; `file` is (name, bytes) of the proof. BadValue with the reason where something is missing."""
    return_ = attaching.locked(actor, return_id, "request e-signatures")
    if says := closed_because(return_):
        raise Settled(says)
    client = _signer(return_, client_id)
    capacity = pack_of(return_).outgoing.capacity(given.get("capacity", ""))
    if capacity is None:
        raise BadValue("Choose the capacity.", "")
    person, name, seen = _who(actor, return_, client, given)
    until = day_of(given.get("until", ""), "Valid until")
    if until is not None and until < return_.firm.today():
        raise BadValue("The authority to sign has expired.", given.get("until", ""))
    if capacity.proof and file is None:
        raise BadValue(f"Attach the proof: {pack_of(return_).outgoing.kind(capacity.proof).name}.", "")
    proof = _kept(actor, return_, capacity, file)
    return_.representatives.filter(client=client, ended_at=None).update(ended_at=timezone.now())
    made = Representative.objects.create(
        firm=return_.firm, of=return_, client=client, person=person, name=name, capacity=capacity.code, proof=proof, seen=seen,
        until=until, by=actor,
    )  # fmt: skip
    _void_requests(return_, client)
    record(actor, "represented", return_, says=f"{name}, {capacity.name}, signs for {client.full_name}")
    if proof is not None:
        lock_opens(actor, return_)
    return made


def _signer(return_, client_id):
    found = next((client for client, _ in signers(return_) if client.pk == client_id), None)
    if found is None:
        raise CannotSign("This person does not sign the return.")
    return found


def _who(actor, return_, client, given):
    """(client of the practice or None, name, how their identity was verified)."""
    if chosen := given.get("person", "").strip():
        person = who_may(actor, return_, client).filter(pk=chosen).first() if chosen.isdigit() else None
        if person is None:
            raise BadValue("Choose who signs.", chosen)
        return person, person.full_name, ""
    name = written(given.get("name", ""), "The name", 90, "Who signs? Choose a client, or enter a name.")
    seen = written(given.get("seen", ""), "The document", 120, f"How did you verify {name}'s identity? Enter the document shown.")
    return None, name, seen


def _kept(actor, return_, capacity, file):
    if file is None:
        return None
    proof = attaching.attach(actor, return_.pk, None, *file, action="request e-signatures")
    if capacity.proof and not proof.along:
        proof.along, proof.along_name = capacity.proof, pack_of(return_).outgoing.kind(capacity.proof).name[:60]
        proof.save(update_fields=["along", "along_name"])
    return proof


@transaction.atomic
def end(actor, return_id, client_id):
    """The client signs themselves again; the proof does not go along any more. Signatures that were given stand."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "request e-signatures", return_)
    row = return_.representatives.filter(client=client_id, ended_at=None).select_related("client", "proof").first()
    if row is None:
        return
    row.ended_at = timezone.now()
    row.save(update_fields=["ended_at"])
    _void_requests(return_, row.client)
    record(actor, "represented no longer", return_, says=f"{row.name} for {row.client.full_name}")
    if row.proof and row.proof.along and not return_.signatures.filter(client=row.client, voided_at=None).exists():
        row.proof.along = ""
        row.proof.save(update_fields=["along"])
        lock_opens(actor, return_)


def _void_requests(return_, client):
    """Whoever was asked is not the one who signs."""
    return_.signature_requests.filter(client=client, voided_at=None).update(voided_at=timezone.now())


def signs_today(return_, client):
    """(who signs, in words as what or "") for a client. CannotSign where what allows it has ended or is not there."""
    row = of_return(return_).get(client.pk)
    if row is None:
        if client.pk in cannot_sign(return_):
            raise CannotSign(f"{client.full_name} has died. Choose who signs: “signed by a representative”.")
        return client.full_name, ""
    capacity = pack_of(return_).outgoing.capacity(row.capacity)
    if row.until is not None and row.until < return_.firm.today():
        raise CannotSign(f"{row.name}'s authority to sign for {client.full_name} expired on {dates.long(row.until)}.")
    if row.proof is not None and row.proof.state == Attachment.State.READING:
        raise CannotSign(f"{row.proof.name} is still being read. Try again in a moment.")
    if row.proof is not None and row.proof.state == Attachment.State.REFUSED:
        raise CannotSign(f"{row.proof.name} was not accepted: {row.proof.says} Attach the proof again.")
    return row.name, capacity.name if capacity else row.capacity
