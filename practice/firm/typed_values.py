"""What people type, read into the open format: amounts with arithmetic, dates in any common way, yes and no."""

import re
from datetime import date, datetime
from decimal import Decimal, DivisionByZero, InvalidOperation
from functools import lru_cache

from practice.firm.packs import usual_pack
from taxcore.engine import Amount, BadValue, Choice, Day, Flag
from taxcore.engine.characters import refused
from taxcore.engine.fields import LARGEST

_TOKEN = re.compile(r"\s*([0-9][0-9,]*\.?[0-9]*|\.[0-9]+|[-+*/()×÷])")
_PLAIN = re.compile(r"-?[0-9][0-9,]*\.?[0-9]*")
_GROUPED = re.compile(r"[0-9]{1,3}(,[0-9]{3})+(\.[0-9]*)?|[0-9]*\.?[0-9]*")
_THREE_PLACES = re.compile(r"-?[0-9]{1,3}\.[0-9]{3}")
_LONGEST = 600  # characters of an amount with its tape
_SIGNS = {"×": "*", "÷": "/"}
_MONTH_FIRST = ("%m/%d/%Y", "%m/%d/%y", "%m-%d-%Y", "%m-%d-%y", "%m.%d.%Y", "%m%d%Y")
_DAY_FIRST = ("%d/%m/%Y", "%d/%m/%y", "%d-%m-%Y", "%d-%m-%y", "%d.%m.%Y", "%d%m%Y")
_IN_WORDS = ("%d %b %Y", "%d %B %Y", "%b %d %Y", "%B %d %Y", "%b %d, %Y", "%B %d, %Y")
_CURRENCIES = str.maketrans("", "", "$£")


def day_of(text, label):
    """A date in any common way; None for nothing. BadValue where it cannot be read."""
    written, _ = read_typed(Day(None, label), text)
    return date.fromisoformat(written) if written else None


def read_typed(field, text, by_hand=True):
    """(open-format text, tape) for one field; ("", "") when it was emptied. BadValue where it cannot be read, or where a hand may
    have meant another amount; `by_hand` is false for files, whose programs write no thousands as 12.345."""
    text = text.strip()
    if not text:
        return "", ""
    if says := refused(text, lines=True):
        raise BadValue(f"{field.label}: {says}.", text)
    if by_hand and isinstance(field, Amount):
        _refuse_ambiguous(text, field.label)
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
    if len(text) > _LONGEST:
        raise BadValue(f"{label} is longer than {_LONGEST} characters.", text)
    if _PLAIN.fullmatch(text):
        return _bounded(_number(text, label), text, label), ""
    plain = re.fullmatch(r"\(\s*([0-9,]*\.?[0-9]+)\s*\)", text.translate(_CURRENCIES))
    if plain:
        return _bounded(-_number(plain[1], label), text, label), ""
    tokens = _tokens(text.translate(_CURRENCIES), label)
    try:
        value = _Sum(tokens).read()
    except (InvalidOperation, DivisionByZero, IndexError, ZeroDivisionError):
        raise BadValue(f"{label} cannot be calculated from {text!r}.", text) from None
    return _bounded(value, text, label), (text if len(tokens) > 2 else "")


def _number(text, label):
    """A number with commas between thousands only. BadValue where a comma stands elsewhere: it may be meant for the point."""
    sign, digits = ("-", text[1:]) if text.startswith("-") else ("", text)
    if not _GROUPED.fullmatch(digits):
        point, whole = digits.replace(",", "."), digits.replace(",", "")
        raise BadValue(f"{label}: {text} can be read in two ways. Type {point} or {whole}.", text)
    return Decimal(sign + digits.replace(",", ""))


def _refuse_ambiguous(text, label):
    """12.345 is a thousand's point to some, and cents have two digits."""
    if _THREE_PLACES.fullmatch(text) and not text.startswith(("0", "-0")):
        raise BadValue(f"{label}: {text} can be read in two ways. Type {text.replace('.', '')} or {text[:-1]}.", text)


def _bounded(value, text, label):
    if abs(value) > LARGEST:
        raise BadValue(f"{label} is larger than any amount a form can hold.", text)
    return value


def money(text, label):
    """An amount typed outside a paper's field, in cents. BadValue as `amount`, and for a text with refused characters."""
    field = Amount(None, label, negative=True)
    return Decimal(read_typed(field, text)[0] or 0)


def _tokens(text, label):
    tokens, position, text = [], 0, text.strip()
    while position < len(text):
        found = _TOKEN.match(text, position)
        if found is None or len(tokens) > 200:
            raise BadValue(f"{label} takes an amount such as 1,250.00 or 1200*12+350.", text)
        if found[1][0] in "0123456789.":
            _number(found[1], label)  # each number of a tape, by itself
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
    """A date typed in any common way, in numbers in the order of the country. A two-digit year lies in the last hundred years."""
    day_first, plain = usual_pack().day_first, re.sub(r"\s+", " ", text.strip())
    found = _date_in(plain, date.today(), day_first) if text.isascii() and len(text) < 40 else None
    if found is None:
        raise BadValue(f"{field.label} takes a date such as {'14/3/1980' if day_first else '3/14/1980'}.", text)
    return found


@lru_cache(maxsize=4096)
def _date_in(text, today, day_first):
    """Files bring the same few hundred dates thousands of times."""
    for form in ("%Y-%m-%d", *(_DAY_FIRST if day_first else _MONTH_FIRST), *_IN_WORDS):
        try:
            found = datetime.strptime(text, form).date()
        except ValueError:
            continue
        return found.replace(year=found.year - 100) if "%y" in form and found > today else found
    return None


def _option(field, text):
    """A code by any letter case, by the words that stand for it, or by a beginning that only one has."""
    wanted = text.lower()
    if answer := {"y": "yes", "n": "no"}.get(wanted):
        wanted = answer if answer in field.options else wanted
    for code, meaning in field.options.items():
        if wanted in (code.lower(), meaning.lower(), field.shown(code).lower()):
            return code
    begun = [code for code, meaning in field.options.items() if meaning.lower().startswith(wanted)]
    return begun[0] if len(begun) == 1 else text
