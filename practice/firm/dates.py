"""Days in the order of the practice's country: January 31, 2027 or 31 January 2027. The pack says which."""

from practice.firm.packs import usual_pack

# Django's formats as pages are written with, and the same where the day comes first
DAY_FIRST = {
    "M j": "j M", "M j, Y": "j M Y", "M j, H:i": "j M, H:i", "M j H:i": "j M H:i", "M j, Y, H:i": "j M Y, H:i",
    "M j, Y, H:i:s": "j M Y, H:i:s", "F j": "j F", "F j, Y": "j F Y", "F j, Y, H:i": "j F Y, H:i",
    "F j, Y, H:i:s e": "j F Y, H:i:s e", "F j, g:i a": "j F, H:i", "F j, Y, g:i a": "j F Y, H:i", "l, F j": "l j F",
    "n/j/Y": "d/m/Y",
}  # fmt: skip


def format_here(written):
    """A Django date format as pages are written with, in the country's order."""
    return DAY_FIRST.get(written, written) if usual_pack().day_first else written


def long(day):
    """With the month in full and the year."""
    return f"{long_day(day)} {day.year}" if usual_pack().day_first else f"{long_day(day)}, {day.year}"


def long_day(day):
    return f"{day.day} {day:%B}" if usual_pack().day_first else f"{day:%B} {day.day}"


def short(day):
    return f"{short_day(day)} {day.year}" if usual_pack().day_first else f"{short_day(day)}, {day.year}"


def in_figures(day):
    """As it is entered and shown in a field: 1/31/2027 or 31/1/2027."""
    return f"{day.day}/{day.month}/{day.year}" if usual_pack().day_first else f"{day.month}/{day.day}/{day.year}"


def short_day(day):
    return f"{day.day} {day:%b}" if usual_pack().day_first else f"{day:%b} {day.day}"
