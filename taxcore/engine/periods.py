"""What time a return is for. For most kinds of return that follows from the year; a company's may begin and end on any day."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta

_DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class Part:
    """The days of a period that one of the law's years governs, both ends included."""

    year: int
    start: date
    end: date

    @property
    def days(self) -> int:
        return (self.end - self.start).days + 1


@dataclass(frozen=True, slots=True)
class Period:
    """From the first day to the last, both included. ValueError where it ends before it begins."""

    start: date
    end: date

    def __post_init__(self) -> None:
        if self.end < self.start:
            raise ValueError(f"a period cannot end on {self.end} and begin on {self.start}")

    @property
    def days(self) -> int:
        return (self.end - self.start).days + 1

    def __contains__(self, day: object) -> bool:
        return isinstance(day, date) and self.start <= day <= self.end

    def parts(self, year_of: Callable[[date], int]) -> tuple[Part, ...]:
        """Its parts by the law's years, in order: what straddles two is apportioned by their days."""
        found: list[Part] = []
        day = self.start
        while day <= self.end:
            if found and found[-1].year == year_of(day):
                found[-1] = Part(found[-1].year, found[-1].start, day)
            else:
                found.append(Part(year_of(day), day, day))
            day += _DAY
        return tuple(found)


def calendar_year(year: int) -> Period:
    return Period(date(year, 1, 1), date(year, 12, 31))


def year_of_day(day: date) -> int:
    return day.year
