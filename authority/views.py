"""The HTTP door of the authorities, and the small console that sets how they behave."""

import hmac
import time
import uuid
from functools import wraps

from django.conf import settings
from django.http import HttpResponse, HttpResponseServerError, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from authority.models import Filing, Mood
from authority.receiving import KeyReused, answer, lose_this_answer, receive


def door(view):
    """Transmitters show their key; the day's mood comes first."""

    @wraps(view)
    def inner(request, *args, **kwargs):
        mood = Mood.now()
        if mood.slow_ms:
            time.sleep(min(mood.slow_ms, 30_000) / 1000)
        if mood.is_down:
            return HttpResponseServerError("The service is closed for maintenance.", status=503)
        if not hmac.compare_digest(request.headers.get("X-Transmitter-Key", ""), settings.TRANSMITTER_KEY):
            return JsonResponse({"error": "unknown transmitter"}, status=401)
        return view(request, *args, **kwargs)

    return inner


@csrf_exempt
@require_POST
@door
def returns(request, authority, year):
    """Receive a return. 202 with a receipt; 409 when the key came before with another document."""
    return _received(request, authority, year, "return")


@csrf_exempt
@require_POST
@door
def extensions(request, authority, year):
    """Receive a request for more time, as returns are received."""
    return _received(request, authority, year, "extension")


def _received(request, authority, year, kind):
    try:
        key = uuid.UUID(request.headers.get("Idempotency-Key", ""))
    except ValueError:
        return JsonResponse({"error": "an Idempotency-Key is required"}, status=400)
    if not any(settings.SCHEMAS.glob(f"{authority}-[0-9]*.xsd")):
        return JsonResponse({"error": f"no authority {authority}"}, status=404)
    try:
        filing = receive(key, authority, year, request.body, kind)
    except KeyReused:
        return JsonResponse({"error": "this key was used for another document"}, status=409)
    if lose_this_answer():
        return HttpResponse("", status=504)
    return JsonResponse({"receipt": filing.receipt}, status=202)


@require_GET
@door
def receipt(request, receipt):
    """State of a filing: pending, accepted or rejected with its faults."""
    filing = answer(receipt)
    if filing is None:
        return JsonResponse({"error": "no such receipt"}, status=404)
    return JsonResponse({"receipt": filing.receipt, "state": filing.state, "faults": filing.faults})


def console(request):
    """Recent filings and the switches."""
    return render(request, "authority/console.html", {"filings": Filing.objects.all()[:40], "mood": Mood.now()})


@require_POST
def mood(request):
    today = Mood.now()
    today.slow_ms = _number(request.POST.get("slow_ms"), 30_000)
    today.answers_to_lose = _number(request.POST.get("answers_to_lose"), 100)
    today.to_refuse = _number(request.POST.get("to_refuse"), 100)
    today.is_down = request.POST.get("is_down") == "on"
    today.save()
    return redirect("console")


def healthy(request):
    Mood.now()
    return HttpResponse("yes")


def stylesheet(request):
    path = settings.BASE / "static" / "authority" / "console.css"
    return HttpResponse(path.read_text(), content_type="text/css")


def _number(text, most):
    return min(int(text), most) if (text or "").isdigit() else 0
