"""What people type, read into the open format: amounts with arithmetic, dates in any common way, yes and no."""

import re
from datetime import date, datetime
from decimal import Decimal, DivisionByZero, InvalidOperation
from functools import lru_cache

from taxcore.engine import Amount, BadValue, Choice, Day, Flag

_TOKEN = re.compile(r"\s*(\d[\d,]*\.?\d*|\.\d+|[-+*/()×÷])")
_PLAIN = re.compile(r"\d[\d,]*(\.\d+)?")
_SIGNS = {"×": "*", "÷": "/"}
_DATES = (
    "%Y-%m-%d", "%m/%d/%Y", "%m/%d/%y", "%m-%d-%Y", "%m-%d-%y", "%m.%d.%Y", "%m%d%Y",
    "%d %b %Y", "%d %B %Y", "%b %d %Y", "%B %d %Y", "%b %d, %Y", "%B %d, %Y",
)  # fmt: skip


def read_typed(field, text):
    """(open-format text, tape) for one field; ("", "") when it was emptied. BadValue where it cannot be read."""
    text = text.strip()
    if not text:
        return "", ""
    tape = ""
    if isinstance(field, Amount):
        value, tape = amount(text, field)
        text = str(value)
    elif isinstance(field, Day):
        text = day(text, field).isoformat()
    elif isinstance(field, Flag):
        text = {"y": "yes", "n": "no", "true": "yes", "false": "no", "x": "yes"}.get(text.lower(), text.lower())
    elif isinstance(field, Choice):
        text = text if text in field.options else _option(field, text)
        if text not in field.options:
            raise BadValue(f"{field.label}: choose one of the list; {text!r} is not on it.", text)
    else:
        text = field.tidy(re.sub(r"\s+", " ", text))
    return field.write(field.parse(text)), tape


def amount(text, field=None):
    """(amount, tape). The tape is what was typed when it was more than one number."""
    label = field.label if field else "This"
    if _PLAIN.fullmatch(text):
        return Decimal(text.replace(",", "")), ""
    plain = re.fullmatch(r"\(\s*([\d,]*\.?\d+)\s*\)", text.replace("$", ""))
    if plain:
        return -Decimal(plain[1].replace(",", "")), ""
    tokens = _tokens(text.replace("$", ""), label)
    try:
        value = _Sum(tokens).read()
    except (InvalidOperation, DivisionByZero, IndexError, ZeroDivisionError):
        raise BadValue(f"{label} cannot be worked out from {text!r}.", text) from None
    return value, (text if len(tokens) > 2 else "")


def _tokens(text, label):
    tokens, position, text = [], 0, text.strip()
    while position < len(text):
        found = _TOKEN.match(text, position)
        if found is None or len(tokens) > 200:
            raise BadValue(f"{label} takes an amount such as 1,250.00 or 1200*12+350.", text)
        tokens.append(_SIGNS.get(found[1], found[1]))
        position = found.end()
    return tokens


class _Sum:
    """Plus and minus, times and divided by, brackets: the four rules, exact."""

    def __init__(self, tokens):
        self.tokens = [*tokens, "end"]

    def read(self):
        value = self._sum()
        if self.tokens[0] != "end":
            raise InvalidOperation
        return value

    def _sum(self):
        value = self._product()
        while self.tokens[0] in "+-":
            value = value + self._product() if self._take() == "+" else value - self._product()
        return value

    def _product(self):
        value = self._number()
        while self.tokens[0] in "*/":
            value = value * self._number() if self._take() == "*" else value / self._number()
        return value

    def _number(self):
        token = self._take()
        if token == "-":
            return -self._number()
        if token == "(":
            value = self._sum()
            if self._take() != ")":
                raise InvalidOperation
            return value
        return Decimal(token.replace(",", ""))

    def _take(self):
        return self.tokens.pop(0)


def day(text, field):
    """A date typed in any common way, month first. A two-digit year lies in the last hundred years."""
    found = _date_in(re.sub(r"\s+", " ", text.strip()), date.today())
    if found is None:
        raise BadValue(f"{field.label} takes a date such as 3/14/1980.", text)
    return found


@lru_cache(maxsize=4096)
def _date_in(text, today):
    """Files bring the same few hundred dates thousands of times."""
    for form in _DATES:
        try:
            found = datetime.strptime(text, form).date()
        except ValueError:
            continue
        return found.replace(year=found.year - 100) if "%y" in form and found > today else found
    return None


def _option(field, text):
    """A code by any letter case, by the words that stand for it, or by a beginning that only one has."""
    wanted = text.lower()
    for code, meaning in field.options.items():
        if wanted in (code.lower(), meaning.lower(), field.shown(code).lower()):
            return code
    begun = [code for code, meaning in field.options.items() if meaning.lower().startswith(wanted)]
    return begun[0] if len(begun) == 1 else text
