"""Every page wants somebody signed in, except the few that say otherwise."""

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.http import HttpResponse, HttpResponseRedirect

from practice.firm.sessions import note_seen

_OPEN = ("/sign-in", "/healthy", "/portal/", "/join/", "/set-up/", "/calendar/", "/look/", settings.STATIC_URL)
_WITHOUT_FACTOR = ("/account", "/sign-out", "/theme", *_OPEN)


def staff_only(get_response):
    def middleware(request):
        if request.user.is_authenticated:
            note_seen(request)
            if request.session.get("needs_factor") and not request.path.startswith(_WITHOUT_FACTOR):
                return HttpResponseRedirect("/account/second-factor")
            return get_response(request)
        if request.path.startswith(_OPEN):
            return get_response(request)
        if request.htmx:
            return HttpResponse(status=401, headers={"HX-Redirect": "/sign-in"})
        return redirect_to_login(request.get_full_path(), "/sign-in")

    return middleware
