"""Whole numbers in addresses and forms: the digits 0 to 9 and no more than a database's number holds."""

_MOST = 2**31 - 1


def whole_number(text, most=_MOST):
    """The number, or None for anything else: `²`.isdigit() is true, and int() does not read it."""
    text = (text or "").strip()
    if not (text.isascii() and text.isdigit() and len(text) <= 10):
        return None
    number = int(text)
    return number if number <= most else None
