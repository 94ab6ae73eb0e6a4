"""Signing in and out."""

from datetime import timedelta

from axes.models import AccessAttempt
from django.contrib.auth import views as auth
from django.contrib.auth.forms import AuthenticationForm
from django.db.models import Sum
from django.shortcuts import render
from django.utils import timezone

from practice.firm.events import record

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
        response = super().form_valid(form)
        record(form.get_user(), "signed in")
        return response


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
