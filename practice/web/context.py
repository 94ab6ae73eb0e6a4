"""What every page knows: who looks, which theme they chose."""

from django.utils.functional import SimpleLazyObject

from practice.firm.packs import usual_pack

THEMES = (("", "System theme"), ("light", "Light"), ("dark", "Dark"))


def everywhere(request):
    theme = request.COOKIES.get("theme", "")
    actor = request.user if getattr(request, "user", None) is not None and request.user.is_authenticated else None
    usual = SimpleLazyObject(usual_pack)
    couples = SimpleLazyObject(lambda: "spouse" in usual_pack().people.adds)
    return {"actor": actor, "theme": theme if theme in ("light", "dark") else "", "themes": THEMES, "usual": usual,
            "couples": couples}  # fmt: skip
