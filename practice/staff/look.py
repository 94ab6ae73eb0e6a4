"""What a practice puts on what its clients see: a picture and a color."""

import base64
import io
import re

from django.db import transaction
from django.http import Http404, HttpResponse
from PIL import Image

from practice.firm.events import record
from practice.firm.models import Firm, LetterheadPicture
from practice.firm.permissions import require
from practice.intake import attaching
from practice.intake.confined import NotOpened, opened
from taxcore.engine import BadValue

LARGEST = 2_000_000  # bytes of the picture as it is brought
_SIZE = (520, 160)  # pixels that it is kept in
_CONTRAST = 4.5  # of the color on white, as WCAG 2.2, 1.4.3 has it for text


@transaction.atomic
def set_look(actor, color, picture=None, remove=False):
    """Keep a color (#rrggbb, or none) and a picture (bytes of a PNG or JPEG). BadValue where they cannot be used."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.color = _checked_color(color.strip().lower())
    if remove:
        LetterheadPicture.objects.filter(firm=firm).delete()
    elif picture:
        content = base64.b64encode(_checked_picture(picture)).decode()
        LetterheadPicture.objects.update_or_create(firm=firm, defaults={"content": content})
    firm.save(update_fields=["color"])
    record(actor, "letterhead", firm=firm, says=f"color {firm.color or 'none'}, {'a' if firm.picture else 'no'} picture")


def _checked_color(color):
    if not color:
        return ""
    if not re.fullmatch(r"#[0-9a-f]{6}", color):
        raise BadValue("A color is written as #235a72.", color)
    if _contrast_on_white(color) < _CONTRAST:
        raise BadValue("This color is too light to be read on white. Choose a darker one.", color)
    return color


def _contrast_on_white(color):
    def linear(part):
        share = int(part, 16) / 255
        return share / 12.92 if share <= 0.04045 else ((share + 0.055) / 1.055) ** 2.4

    red, green, blue = (linear(color[at : at + 2]) for at in (1, 3, 5))
    return 1.05 / (0.2126 * red + 0.7152 * green + 0.0722 * blue + 0.05)


def _checked_picture(content):
    """The picture drawn anew by a process of its own, small: nothing of the file that was brought is kept."""
    if len(content) > LARGEST:
        raise BadValue(f"The picture has {len(content) / 1e6:.1f} MB; up to {LARGEST / 1e6:.0f} are taken.", "")
    kind = attaching.kind_of(content)
    if kind == "pdf":
        raise BadValue("Choose a PNG or JPEG.", "")
    try:
        opened("look_into", content)
        drawn = opened("picture", content, kind=kind, page=1, turn=0)
    except NotOpened as error:
        raise BadValue(error.says, "") from None
    made = io.BytesIO()
    with Image.open(io.BytesIO(drawn)) as image:
        image.thumbnail(_SIZE)
        image.save(made, "PNG")
    return made.getvalue()


# Handed out to everybody: it stands on public pages and is no secret


def _firm(firm_id):
    firm = Firm.objects.filter(pk=firm_id).first()
    if firm is None:
        raise Http404
    return firm


def style(request, firm_id):
    """The color, as a style sheet: pages have no style of their own inside."""
    color = _firm(firm_id).color
    return HttpResponse(f":root {{ --firm: {color}; }}" if color else "", content_type="text/css")


def picture(request, firm_id):
    found = _firm(firm_id).picture
    if not found:
        raise Http404
    return HttpResponse(base64.b64decode(found), content_type="image/png")
