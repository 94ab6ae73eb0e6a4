"""The package: asked for by staff, made in the background, delivered to the portal."""

from django.db import transaction
from django.utils import timezone

from practice.delivery.models import Download, Package
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.portal.links import send_link
from practice.returns.acts import Done, act
from practice.returns.models import FILED, Return, Stage
from practice.returns.stages import reach
from practice.signing.representing import written_to


class CannotDeliver(Cannot):
    """The package cannot be given to the client."""


@transaction.atomic
def make_package(actor, return_id):
    """Have the package made. CannotDeliver before every authority has accepted."""
    from practice.delivery.tasks import build

    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "deliver", return_)
    accepted = set(return_.submissions.filter(state__in=FILED).values_list("authority", flat=True))
    wanted = [line["code"] for line in return_.snapshot.bottom_lines] if return_.snapshot else ["?"]
    if not accepted.issuperset(wanted):
        raise CannotDeliver("The package is assembled once every return is accepted or mailed.")
    making = return_.packages.filter(snapshot=return_.snapshot, state__in=["making", "ready"]).first()
    if making:
        return making
    package = Package.objects.create(firm=return_.firm, of=return_, snapshot=return_.snapshot, asked_by=actor)
    record(actor, "package requested", return_)
    build.ask(package_id=package.pk)
    return package


@transaction.atomic
def deliver(actor, package_id):
    """Put a finished package into the portal and tell the clients."""
    package = fetch(Package.objects.select_related("of__firm", "of__household"), actor, pk=package_id)
    require(actor, "deliver", package)
    if package.state != "ready":
        raise CannotDeliver("The package is not ready yet.")
    package.delivered_at = timezone.now()
    package.save()
    return_ = package.of
    clients = written_to(return_)
    for client in clients:
        if client.email:
            send_link(return_, client, "package")
    reach(return_, Stage.DONE, "delivered")
    return_.save()
    record(actor, "delivered", return_, says=", ".join(client.full_name for client in clients))
    return package


@act("package", "Assemble packages", "deliver")
def make_one(actor, return_id):
    made = make_package(actor, return_id)
    return Done("assembled already" if made.state == "ready" else "being assembled")


@act("deliver", "Deliver packages", "deliver")
def deliver_one(actor, return_id):
    """The newest package of a return, once."""
    package = Package.objects.for_staff(actor).filter(of=return_id).first()
    if package is None:
        raise CannotDeliver("There is no package yet.")
    if package.delivered_at is None:
        deliver(actor, package.pk)
        return Done("delivered")
    return Done("delivered already")


@transaction.atomic
def note_download(package, client):
    Download.objects.create(firm=package.firm, package=package, client=client)
    record(None, "package downloaded", package.of, by=client.full_name)
