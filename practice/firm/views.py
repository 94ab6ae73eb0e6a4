"""Signing in and out."""

import json
from datetime import timedelta
from time import time

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import login
from django.contrib.auth import views as auth
from django.contrib.auth.forms import AuthenticationForm
from django.db.models import Sum
from django.http import JsonResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from practice.firm import passkeys, second_factor, sessions
from practice.firm.events import record
from practice.firm.models import Staff

SECONDS_FOR_CODE = 600  # after the password
FROM_ONE_ADDRESS = 25  # wrong passwords within a quarter of an hour, over all names


class SignInForm(AuthenticationForm):
    error_messages = {
        "invalid_login": "Wrong email or password. Passwords are case sensitive.",
        "inactive": "This account is no longer active.",
    }

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["username"].label = "Email"
        self.fields["username"].widget.attrs |= {"autocomplete": "username", "inputmode": "email"}


class SignIn(auth.LoginView):
    template_name = "firm/sign_in.html"
    authentication_form = SignInForm

    def get_context_data(self, **more):
        return super().get_context_data(**more) | {"passkeys": passkeys.possible_at(host_of(self.request))}

    redirect_authenticated_user = True

    def post(self, request, *args, **kwargs):
        """Many names tried from one address wait, whatever names they are."""
        since = timezone.now() - timedelta(minutes=15)
        failed = AccessAttempt.objects.filter(ip_address=request.META.get("REMOTE_ADDR"), attempt_time__gt=since)
        if (failed.aggregate(all=Sum("failures_since_start"))["all"] or 0) >= FROM_ONE_ADDRESS:
            return locked_out(request)
        return super().post(request, *args, **kwargs)

    def form_valid(self, form):
        """The password is right. Who has a second factor is asked for it before anything opens."""
        user = form.get_user()
        if second_factor.in_force(user):
            self.request.session["second"] = {"staff": user.pk, "next": self.get_success_url(), "at": time()}
            return redirect("sign-in-code")
        _open(self.request, user)
        return redirect(self.get_success_url())


def _open(request, user, with_factor=False):
    """`with_factor`: what they signed in with is two factors already."""
    login(request, user, "django.contrib.auth.backends.ModelBackend")
    request.session["needs_factor"] = second_factor.wanted(user) and not (with_factor or second_factor.in_force(user))
    sessions.begin(request)
    record(user, "signed in")


def code(request):
    """The second factor: a code of the authenticator, or a recovery code."""
    pending = request.session.get("second") or {}
    user = Staff.objects.filter(pk=pending.get("staff"), is_active=True).first()
    if user is None or pending["at"] < time() - SECONDS_FOR_CODE:
        request.session.pop("second", None)
        return redirect("sign-in")
    error = ""
    if request.method == "POST":
        try:
            second_factor.check(user, request.POST.get("code", ""))
        except second_factor.WrongCode as wrong:
            error = wrong.says
        else:
            request.session.pop("second")
            _open(request, user)
            return redirect(pending["next"])
    return render(request, "firm/code.html", {"error": error}, status=422 if error else 200)


def host_of(request):
    """The name in the address bar, without its port."""
    return request.get_host().rsplit(":", 1)[0] if not request.get_host().endswith("]") else request.get_host()


@require_POST
def passkey_begin(request):
    """What the browser asks a device for."""
    options, request.session["passkey"] = passkeys.begin_opening(host_of(request))
    return JsonResponse(options)


@require_POST
def passkey_finish(request):
    """The device's answer: signed in, or why not."""
    try:
        state, answer = request.session.pop("passkey", None), json.loads(request.body)
        if not isinstance(state, dict):
            raise passkeys.PasskeyRefused("This took too long. Try again.")
        user = passkeys.opened_by(host_of(request), state, answer)
    except ValueError:
        return JsonResponse({"says": "This is no answer of a passkey."}, status=422)
    except passkeys.PasskeyRefused as refused:
        return JsonResponse({"says": refused.says}, status=422)
    _open(request, user, with_factor=True)
    return JsonResponse({"next": settings.LOGIN_REDIRECT_URL})


class SignOut(auth.LogoutView):
    next_page = "/sign-in"


def attempted_name(request, credentials=None):
    """Whose password is guessed, however the address is written."""
    given = credentials.get("username") if credentials else request.POST.get("username")
    return str(given or "").strip().lower()


def locked_out(request, credentials=None, *args, **kwargs):
    """Too many wrong passwords from one place."""
    says = "Too many wrong passwords. Wait 15 minutes, or ask your administrator."
    return render(request, "web/refused.html", {"title": "Locked for a while", "says": says}, status=429)
