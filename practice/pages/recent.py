"""Where a person was lately, for the command line. Kept with the session."""

_RECENT = 6


def recent(request):
    """Papers and lines that this person was at, the newest first, but for the page they look at."""
    return [{"url": url, "does": does, "note": "lately"} for url, does in request.session.get("recent", [])[1:]]


def note_recent(request, does):
    """Remember this page for the command line."""
    here = [request.get_full_path(), does]
    before = request.session.get("recent", [])
    if before[:1] != [here]:
        request.session["recent"] = [here, *(one for one in before if one[0] != here[0])][: _RECENT + 1]
