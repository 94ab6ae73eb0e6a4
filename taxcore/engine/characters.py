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
    """What cannot be taken into a text, in words; empty where all can. `lines`: line breaks and tabs may stand in it."""
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


# Words that keep their capital inside a sentence: names of forms, laws and institutions
_NAMES = {
    "Form", "Schedule", "Social", "Medicare", "Medicaid", "Treasury", "Marketplace", "American", "Armed", "Roth", "Archer",
    "Alaska", "California", "Georgia", "Illinois", "Indiana", "Iowa", "Missouri", "Pennsylvania", "Virginia", "Wisconsin",
}  # fmt: skip


def within(label: str) -> str:
    """A label as it stands inside a sentence: its first letter small, unless the word is a name or an abbreviation."""
    first = label.split(" ", 1)[0].split("'", 1)[0]
    if first in _NAMES or not first[1:].islower():
        return label
    return label[:1].lower() + label[1:]
