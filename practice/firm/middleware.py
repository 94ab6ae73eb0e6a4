"""Every page wants somebody signed in, except the few that say otherwise."""

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.http import HttpResponse

_OPEN = ("/sign-in", "/healthy", "/portal/", settings.STATIC_URL)


def staff_only(get_response):
    def middleware(request):
        if request.user.is_authenticated or request.path.startswith(_OPEN):
            return get_response(request)
        if request.htmx:
            return HttpResponse(status=401, headers={"HX-Redirect": "/sign-in"})
        return redirect_to_login(request.get_full_path(), "/sign-in")

    return middleware
