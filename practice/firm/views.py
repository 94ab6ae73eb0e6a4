"""Signing in and out."""

from datetime import timedelta
from time import time

from axes.models import AccessAttempt
from django.contrib.auth import login
from django.contrib.auth import views as auth
from django.contrib.auth.forms import AuthenticationForm
from django.db.models import Sum
from django.shortcuts import redirect, render
from django.utils import timezone

from practice.firm import second_factor, sessions
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


def _open(request, user):
    login(request, user, "django.contrib.auth.backends.ModelBackend")
    request.session["needs_factor"] = second_factor.wanted(user) and not second_factor.in_force(user)
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
