"""What every page knows: who looks, which theme they chose."""

THEMES = (("", "System theme"), ("light", "Light"), ("dark", "Dark"))


def everywhere(request):
    theme = request.COOKIES.get("theme", "")
    actor = request.user if getattr(request, "user", None) is not None and request.user.is_authenticated else None
    return {"actor": actor, "theme": theme if theme in ("light", "dark") else "", "themes": THEMES}
