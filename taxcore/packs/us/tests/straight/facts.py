"""A household put together at random: what is true of it. Whole dollars; ages at the edges of the law."""

from dataclasses import dataclass, field
from datetime import date, timedelta

YEARS = (2022, 2023, 2024, 2025, 2026)


@dataclass
class Job:
    wages: int
    withheld: int
    deferral: int = 0
    health: int = 0  # paid by the employer into a health savings account
    care: int = 0
    tips: int = 0
    overtime: int = 0

    @property
    def insured(self):
        return self.wages + self.deferral


@dataclass
class Trade:
    receipts: int
    supplies: int
    meals: int = 0
    miles: int = 0
    area: int = 0
    insurance: int = 0
    plan: int = 0  # paid into a SEP
    farm: bool = False  # Schedule F, without what only Schedule C has
    machine: tuple = ()  # (cost, years ago) of one of seven years, without the special allowance, bought in spring
    office: dict = field(default_factory=dict)  # actual costs of the home, by their field; else by the square foot


@dataclass
class Someone:
    role: str
    born: date
    blind: bool = False
    jobs: list = field(default_factory=list)
    trade: Trade | None = None
    ira: int = 0
    roth: int = 0
    pension: int = 0
    early: int = 0  # out of an IRA before 59 1/2
    converted: int = 0  # of an IRA to a Roth IRA
    basis: int = 0  # contributions to IRAs that were never deducted
    benefits: int = 0
    health: int = 0  # own contributions to a health savings account
    family_cover: bool = False
    educator: int = 0

    def aged(self, year, years):
        """Whether that age is reached in the year, by the calendar; the old rule of the day before is `reached`."""
        return year - self.born.year >= years


@dataclass
class Child:
    key: str
    born: date
    student: bool = False
    care: int = 0

    def age(self, year):
        return year - self.born.year


@dataclass
class Facts:
    year: int
    status: str
    people: list
    children: list
    amounts: dict
    tuition: tuple = ()  # (who, paid, credit)
    paid: tuple = ()  # (day, amount) of each estimated payment
    before: tuple = (0, 1)  # tax and adjusted gross income of the year before
    cover: tuple = ()  # (first month, last month, premium, benchmark, advance of a month)
    home: str = "TX"

    def __getattr__(self, name):
        """An amount that was not drawn is nothing."""
        if name.startswith("_"):
            raise AttributeError(name)
        return self.amounts.get(name, 0)

    @property
    def joint(self):
        return self.status == "joint"

    @property
    def jobs(self):
        return [job for one in self.people for job in one.jobs]


# What belongs to the household: (share of returns that have it, amounts)
_SOMETIMES = {
    "interest": (0.5, (0, 14_000)), "government": (0.2, (0, 3_000)), "exempt": (0.2, (0, 20_000)), "private": (0.05, (0, 9_000)),
    "early_withdrawal": (0.1, (0, 300)), "dividends": (0.4, (0, 40_000)), "distributions": (0.25, (0, 9_000)),
    "short": (0.35, (-12_000, 20_000)), "long": (0.45, (-15_000, 150_000)), "carried_short": (0.1, (1, 9_000)),
    "carried_long": (0.1, (1, 9_000)), "unemployment": (0.12, (0, 15_000)), "winnings": (0.1, (0, 12_000)), "lost": (0.08, (0, 15_000)),
    "alimony": (0.08, (1, 15_000)), "student_loan": (0.25, (1, 4_000)), "medical": (0.25, (1, 30_000)), "state_tax": (0.4, (1, 25_000)),
    "property_tax": (0.4, (1, 25_000)), "mortgage": (0.4, (1, 30_000)), "given": (0.4, (1, 15_000)), "given_things": (0.2, (1, 4_900)),
    "solar": (0.06, (1, 20_000)), "insulation": (0.08, (1, 9_000)), "heat_pump": (0.08, (1, 12_000)), "windows": (0.08, (1, 4_000)),
    "car_loan": (0.3, (1, 14_000)), "options": (0.08, (1, 250_000)), "foreign": (0.15, (1, 300)),
    "share": (0.15, (-5_000, 120_000)), "margin": (0.08, (1, 9_000)), "margin_before": (0.05, (1, 4_000)), "sales_tax": (0.1, (1, 9_000)),
    "given_before": (0.1, (1, 9_000)), "abroad": (0.1, (301, 6_000)), "abroad_before": (0.05, (1, 900)), "doors": (0.05, (1, 3_000)),
    "furnace": (0.05, (1, 4_000)), "panels": (0.04, (1, 3_000)), "audit": (0.05, (1, 900)), "battery": (0.04, (1, 9_000)),
    "rents": (0.25, (0, 60_000)), "rent_costs": (0.25, (1, 60_000)), "rents_waiting": (0.08, (1, 20_000)),
}  # fmt: skip
_PAY = ((0, 14_000), (8_000, 60_000), (30_000, 130_000), (90_000, 300_000), (300_000, 900_000))


_OFFICE = ("direct", "interest", "taxes", "insurance", "rent", "repairs", "utilities", "other", "carried")
_IMPROVEMENTS = ("insulation", "heat_pump", "windows", "doors", "furnace", "panels", "audit")


# What a household of a state's test may have: the rest is for the federal one alone
_PLAIN = (
    "interest",
    "government",
    "dividends",
    "distributions",
    "short",
    "long",
    "unemployment",
    "medical",
    "property_tax",
    "mortgage",
    "given",
)


def due(year):
    """The four printed days on which estimated tax is due. IRC 6654(c)(2)."""
    return date(year, 4, 15), date(year, 6, 15), date(year, 9, 15), date(year + 1, 1, 15)


class Drawing:
    """One household from a source of chance (random.Random)."""

    def __init__(self, chance):
        self.chance = chance

    def plain(self, home, years):
        """One that lives in a state all year: pay, savings, pensions and children; nothing that only federal law knows."""
        facts = self.facts()
        while facts.year not in years:
            facts = self.facts()
        facts.home, facts.tuition, facts.cover = home, (), ()
        facts.amounts = {name: amount for name, amount in facts.amounts.items() if name in (*_PLAIN, "qualified")}
        for one in facts.people:
            one.trade, one.ira, one.roth, one.health, one.educator, one.converted, one.basis = None, 0, 0, 0, 0, 0, 0
            for job in one.jobs:
                job.deferral = job.care = job.tips = job.overtime = 0
        for child in facts.children:
            child.care = 0
        return facts

    def facts(self):
        chance = self.chance
        self.year = chance.choice(YEARS)
        self.status = chance.choice(
            ("single", "single", "joint", "joint", "joint", "head_of_household", "separate", "surviving_spouse")
        )
        self.pay = chance.choice(_PAY)
        needs_child = self.status in ("head_of_household", "surviving_spouse")
        children = [
            self.child(number) for number in range(1, chance.choice((0, 0, 1, 2, 3, 4) if not needs_child else (1, 1, 2, 3)) + 1)
        ]
        if needs_child:
            children[0].born, children[0].student = date(self.year - 9, 4, 1), False
        people = [self.someone(role) for role in (("taxpayer", "spouse") if self.status == "joint" else ("taxpayer",))]
        facts = Facts(self.year, self.status, people, children, self.amounts())
        self.costs_of_care(facts)
        if self.often(0.15):
            who = next((child.key for child in children if child.student), "taxpayer")
            facts.tuition = (who, chance.randint(500, 14_000), chance.choice(("american", "lifetime")))
        if self.status != "separate" and self.often(0.12):
            facts.cover = self.cover()
        if self.year < 2026 and self.often(0.3):  # the rates of 2026's quarters are not all known
            facts.before = (chance.randint(0, 60_000), chance.choice((60_000, 150_000, 150_001, 300_000)))
        if self.often(0.3):
            most = facts.before[0] // 3 + 4_000
            facts.paid = tuple(
                (day + timedelta(days=chance.choice((0, 0, 0, 20, 75))), chance.randint(0, most)) for day in due(self.year)
            )
        return facts

    def often(self, share):
        return self.chance.random() < share

    def someone(self, role):
        chance, year = self.chance, self.year
        one = Someone(
            role,
            chance.choice(
                (date(1985, 6, 15), date(1972, 2, 1), date(1968, 3, 3), date(1950, 1, 2), date(year - 64, 1, 1), date(1999, 9, 9))
            ),
        )
        one.blind = self.often(0.04)
        one.jobs = [self.job() for _ in range(chance.choice((0, 1, 1, 1, 2)))]
        if self.often(0.3):
            one.trade = self.trade()
        young = year - one.born.year < 59
        if self.often(0.15):
            one.pension = chance.randint(1_000, 60_000)
        if young and self.often(0.08):
            one.early = chance.randint(500, 20_000)
        if not young and self.often(0.5):
            one.benefits = chance.randint(3_000, 40_000)
        if self.often(0.08):
            one.converted = chance.randint(500, 40_000)
        if (one.early or one.converted) and self.often(0.5):
            one.basis = chance.randint(1, 60_000)
        if not (one.early or one.converted) and self.often(0.15):  # else what is not deducted now would be basis at once
            one.ira = chance.randint(1, 6_000)
        elif self.often(0.15):
            one.roth = chance.randint(1, 6_000)
        if one.born.year > 1960 and self.often(0.1):
            one.health, one.family_cover = chance.randint(1, 4_000), self.status != "joint" and self.often(0.4)
        if self.often(0.05):
            one.educator = chance.randint(1, 500)
        return one

    def job(self):
        chance = self.chance
        pay = chance.randint(*self.pay)
        job = Job(pay, chance.randint(0, pay // 4 + 1))
        if self.often(0.3):
            job.deferral = chance.randint(1, 9_000)
        if self.year >= 2025 and self.often(0.3):
            job.tips, job.overtime = chance.randint(0, pay // 3), chance.choice((0, chance.randint(0, pay // 4)))
        return job

    def trade(self):
        chance = self.chance
        trade = Trade(chance.randint(0, 2 * self.pay[1]), chance.choice((0, chance.randint(0, self.pay[1]))))
        trade.meals = chance.choice((0, chance.randint(1, 3_000)))
        trade.miles = chance.choice((0, chance.randint(1, 9_000))) if self.year > 2022 else 0
        trade.area = chance.choice((0, 0, chance.randint(1, 400)))
        if trade.area and self.often(0.5):
            trade.office = {name: chance.randint(1, 9_000) for name in _OFFICE if self.often(0.5)}
        trade.insurance = chance.choice((0, 0, chance.randint(1, 9_000)))
        trade.plan = chance.choice((0, 0, chance.randint(1, 9_000)))
        if self.often(0.3):
            trade.machine = (chance.randint(1, 40_000), chance.randint(0, 2))
        if self.often(0.2):
            trade.farm, trade.meals, trade.miles, trade.area, trade.office = True, 0, 0, 0, {}
        return trade

    def cover(self):
        """One stretch of the year, or two with another premium each."""
        chance, edge = self.chance, self.chance.choice((0, 0, self.chance.randint(1, 11)))
        begin = chance.choice((1, chance.randint(1, 12))) if not edge else 1
        spans = ((begin, edge), (edge + 1, chance.choice((12, chance.randint(edge + 1, 12))))) if edge else ((begin, 12),)
        return tuple(
            (first, last, chance.randint(300, 1_400), chance.randint(300, 1_500), chance.choice((0, chance.randint(1, 900))))
            for first, last in spans
        )

    def child(self, number):
        child = Child(f"d{number}", date(self.year - self.chance.choice((1, 4, 9, 12, 13, 16, 17, 18, 20, 23)), 4, 1))
        child.student = 18 <= child.age(self.year) <= 23
        return child

    def costs_of_care(self, facts):
        if self.status == "separate" or not self.often(0.3):
            return
        for child in facts.children:
            if child.age(self.year) < 13:
                child.care = self.chance.choice((0, self.chance.randint(1, 6_000)))
        if facts.jobs and self.often(0.3):
            facts.jobs[0].care = self.chance.randint(1, 6_000)

    def amounts(self):
        """Those of `_SOMETIMES` that this household has, and parts of its dividends."""
        chance = self.chance
        found = {name: chance.randint(*span) for name, (share, span) in _SOMETIMES.items() if self.often(share)}
        if dividends := found.get("dividends"):
            found["qualified"] = chance.randint(0, dividends)
            found["trust"] = chance.choice((0, chance.randint(0, dividends - found["qualified"])))
        if gains := found.get("distributions"):
            found["unrecaptured"] = chance.choice((0, 0, chance.randint(0, gains)))
            found["collectibles"] = chance.choice((0, 0, chance.randint(0, gains - found["unrecaptured"])))
        gone = {2022: _IMPROVEMENTS, 2026: (*_IMPROVEMENTS, "solar", "battery")}.get(self.year, ())
        found = {name: amount for name, amount in found.items() if name not in (*gone, "foreign" if "abroad" in found else "")}
        if "abroad" in found:
            found["abroad_income"], found["abroad_costs"] = (
                chance.randint(500, 60_000),
                chance.choice((0, chance.randint(1, 900))),
            )
        return found if self.year >= 2025 else {name: amount for name, amount in found.items() if name != "car_loan"}
