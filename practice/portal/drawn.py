"""Signatures as they are drawn in a browser, looked into before they are kept."""

import base64
import io

from PIL import Image, UnidentifiedImageError

from practice.firm.refusals import Cannot

LARGEST_IMAGE = 300_000  # bytes of a drawn signature


class NotDrawn(Cannot):
    """What came is no drawn signature."""


def drawn_signature(image):
    """The drawn signature as base64 of a PNG; NotDrawn when it is empty, too large or no picture."""
    try:
        content = base64.b64decode(image.removeprefix("data:image/png;base64,"), validate=True)
        if not content or len(content) > LARGEST_IMAGE:
            raise NotDrawn("The signature was not received. Please draw it again.")
        with Image.open(io.BytesIO(content), formats=["PNG"]) as picture:
            if picture.width * picture.height > 4_000_000:
                raise NotDrawn("The signature is too large. Please draw it again.")
            low, high = picture.convert("RGBA").getchannel("A").getextrema()
    except (ValueError, UnidentifiedImageError, OSError):
        raise NotDrawn("The signature was not received. Please draw it again.") from None
    if low == high:
        raise NotDrawn("The signature is empty. Please sign.")
    return base64.b64encode(content).decode()
