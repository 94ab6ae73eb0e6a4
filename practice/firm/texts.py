"""Words that people write besides the fields of papers: notes, reasons, answers. Refused with a sentence, never cut off."""

from taxcore.engine import BadValue
from taxcore.engine.characters import refused


def written(text, what, most, needed=""):
    """The text, trimmed. BadValue where it is longer than `most`, has a character that cannot be taken, or is empty although
    `needed` says why it may not be."""
    text = text.strip()
    if needed and not text:
        raise BadValue(needed, text)
    if len(text) > most:
        raise BadValue(f"{what} is longer than {most:,} characters: {len(text):,}.", text)
    if says := refused(text, lines=True):
        raise BadValue(f"{what}: {says}.", text)
    return text
