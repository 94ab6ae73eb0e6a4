"""The way back to the page that asked, where that is a page of ours."""

from django.utils.http import url_has_allowed_host_and_scheme


def back_or(request, otherwise):
    """The address that a form names as `back`; another one where it is no path of this program."""
    back = request.POST.get("back", "")
    ours = back.startswith("/") and url_has_allowed_host_and_scheme(back, {request.get_host()})
    return back if ours else otherwise
