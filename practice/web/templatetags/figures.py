"""How amounts and dates are set: parentheses for negatives, a dash for nothing, cents only where they matter."""

from datetime import date
from decimal import Decimal

from django import template
from django.template.defaultfilters import date as date_filter

from practice.firm import dates, packs
from practice.firm.crypto import masked
from taxcore.engine.characters import within

register = template.Library()


@register.filter
def whole(value):
    """1,234 or (1,234); – for None."""
    return _set(value, 0)


@register.filter
def exact(value):
    """1,234.50 or (1,234.50); – for None."""
    return _set(value, 2)


@register.filter
def fitting(value):
    """Cents only when there are any; a rate or a share below one with the places it has, six at most."""
    if isinstance(value, Decimal) and value == value.to_integral_value():
        return _set(value, 0)
    if isinstance(value, Decimal) and abs(value) < 1 and value != round(value, 2):
        return f"{round(value, 6).normalize():f}"
    return _set(value, 2)


@register.filter
def brief(value):
    """Whole, but a rate or a share below one with its places."""
    return fitting(value) if isinstance(value, Decimal) and 0 < abs(value) < 1 else whole(value)


@register.filter
def percent(value):
    return f"{value * 100:f}".rstrip("0").rstrip(".") + "%"


@register.filter
def shown(value):
    """Any computed value as a reader expects it."""
    if isinstance(value, Decimal):
        return fitting(value)
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, date):
        return f"{dates.short(value)}"
    return "–" if value in (None, "") else str(value)


@register.filter
def short_day(iso):
    """`2026-02-04` → 4 Feb."""
    if not iso:
        return ""
    found = iso if isinstance(iso, date) else date.fromisoformat(str(iso)[:10])
    return f"{dates.short_day(found)}"


@register.filter("date", expects_localtime=True, is_safe=False)
def dated(value, written):
    """Django's own, with the format in the order of the practice's country."""
    return date_filter(value, dates.format_here(written))


register.simple_tag(packs.word, name="word")


@register.simple_tag
def declares(what, practice, authority, year=""):
    """What is declared by signing, in the country's words: `what` is signs, authorizes or signs_on_paper."""
    return getattr(packs.usual_pack().outgoing, what).format(practice=practice, authority=authority, year=year)


@register.simple_tag
def has_originator():
    """Whether the practice signs authorizations with numbers of its own."""
    return packs.usual_pack().outgoing.originator


@register.simple_tag
def filing_number():
    """What the number is called under which the practice files."""
    name = packs.usual_pack().outgoing.filing_number
    return name[0].upper() + name[1:]


@register.filter
def here(text):
    """A word of the American trade as the practice's country says it."""
    return packs.word(str(text))


@register.filter
def tax_year(year):
    """A year as the trade of the country writes it: 2025, 2025-26."""
    return packs.usual_pack().shown_year(year) if isinstance(year, int) else year


@register.filter
def of_hundred(share):
    """A share that is kept in percent: 40%, 33.3333%."""
    return f"{share.normalize():f}%"


@register.filter
def less(value, other):
    """One amount less another."""
    return value - other


@register.filter
def signed(value):
    """▲ 480 or ▼ 480, for a change."""
    if not value:
        return "–"
    return f"{'▲' if value > 0 else '▼'} {abs(value):,.0f}"


def _set(value, places):
    if value in (None, ""):
        return "–"
    value = Decimal(value)
    text = f"{abs(value):,.{places}f}"
    return f"({text})" if value < 0 and text.strip("0.,") else text


@register.filter
def after_colon(text):
    """`restore:12` → 12."""
    return str(text).partition(":")[2].split()[0]


@register.filter
def at(mapping, key):
    """What a mapping holds under a key, or nothing."""
    return mapping.get(key) if mapping else None


@register.filter
def slug(path):
    """`states.1.wages` → states-1-wages, as in the ids of fields."""
    return str(path).replace(".", "-")


@register.filter
def cents_per_unit(value):
    """0.2200 → 0.22; -1 → −1.00."""
    return f"{'−' if value < 0 else ''}{abs(value):.2f}"


@register.filter
def add_dy(value, more):
    """A place in a picture, moved down by so many pixels."""
    return round(float(value) + float(more), 1)


@register.filter
def veiled(number):
    """A taxpayer number with only its last four characters."""
    return masked(number) if number else ""


@register.filter
def first_labels(fields):
    """What the first four fields of a table are called, as a list inside a sentence."""
    return ", ".join(within(str(spec.label)) for spec in list(fields.values())[:4])


@register.filter
def inside(label):
    """A label as it stands inside a sentence."""
    return within(str(label))
