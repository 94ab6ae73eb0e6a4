"""Which characters can be entered anywhere: what prints, in any script, with the digits 0 to 9 only."""

import unicodedata

_REFUSED = {
    "Cc": "a control character",
    "Cf": "an invisible character",
    "Cs": "half of a character",
    "Co": "a character that no font has",
    "Cn": "a character that does not exist",
}


def refused(text: str, lines: bool = False) -> str:
    """What cannot be imported a text, in words; empty where all can. `lines`: line breaks and tabs may stand in it."""
    if text.isascii() and text.isprintable():
        return ""
    if "\ufffd" in text:
        return "a character was lost on its way: type the text again"
    for character in text:
        if lines and character in "\n\r\t":
            continue
        if character.isdigit() and not character.isascii():
            return f"{character} is a digit of another script: type 0 to 9"
        kind = _REFUSED.get(unicodedata.category(character))
        if kind:
            return f"{kind} (U+{ord(character):04X}) cannot be taken: type the text again"
    return ""
