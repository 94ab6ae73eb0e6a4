"""Making, looking at and delivering the package."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from practice.delivery import packaging
from practice.delivery.models import Package
from practice.delivery.tasks import read_package
from practice.firm.events import record
from practice.firm.permissions import fetch, require


@require_POST
def make(request, return_id):
    try:
        packaging.make_package(request.user, return_id)
    except packaging.CannotDeliver as error:
        messages.error(request, error.says)
    return redirect("sign", return_id)


@require_POST
def deliver(request, package_id):
    package = fetch(Package.objects, request.user, pk=package_id)
    try:
        packaging.deliver(request.user, package_id)
        messages.success(request, "The package is in the portal, and the clients are notified by email.")
    except packaging.CannotDeliver as error:
        messages.error(request, error.says)
    return redirect("sign", package.of_id)


def read(request, package_id):
    package = fetch(Package.objects.select_related("of__household"), request.user, pk=package_id)
    require(request.user, "view", package)
    if package.state != "ready":
        return HttpResponse("The package is not ready.", status=404)
    record(request.user, "package read", package.of)
    return HttpResponse(read_package(package), content_type="application/pdf")
