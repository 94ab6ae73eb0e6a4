"""Sales, dividends and foreign tax: dates and boxes that contradict each other, basis that is missing, losses left over."""

import re
from datetime import date, timedelta
from decimal import Decimal
from functools import lru_cache

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.checks.carrying import by_year
from taxcore.packs.us.papers.investments import LONG, SHORT

_WASH = timedelta(days=30)
_MANY, _NOTABLE, _SHOWN = 20, Decimal(10_000), 20
_SEVERAL = ("VARIOUS", "INHERITED", "INHERIT")


@lru_cache(maxsize=4096)
def _day(text):
    """A date as statements print it, or None."""
    for pattern, order in ((r"(\d{1,2})/(\d{1,2})/(\d{4})", "mdy"), (r"(\d{4})-(\d{2})-(\d{2})", "ymd")):
        match = re.fullmatch(pattern, text.strip())
        if match:
            parts = dict(zip(order, map(int, match.groups()), strict=True))
            try:
                return date(parts["y"], parts["m"], parts["d"])
            except ValueError:
                return None
    return None


@lru_cache(maxsize=4096)
def _a_year_later(day):
    try:
        return day.replace(year=day.year + 1)
    except ValueError:
        return date(day.year + 1, 3, 1)


@stops("us.sale.acquired-after-sold", "Acquired after date sold", "conflict")
@check("us.sale.term-differs", "Form 8949 box does not match the holding period", "conflict", "IRC 1222, 1223")
@check("us.sale.no-basis", "Sale without cost basis", "missing", "IRC 1012")
@check("us.sale.gain-unlikely", "Proceeds over 20 times cost", "unlikely")
@check("us.sale.wash-sale-gain", "Wash sale adjustment exceeds the loss", "conflict", "IRC 1091(a)")
@check("us.sale.home-above-limit", "Home sale exclusion exceeds the limit", "rule", "IRC 121(b)")
def sales(run):
    status = run.form("us.1040").status if run.papers("1099-b") or run.papers("1099-da") else ""
    for kind in ("1099-b", "1099-da"):
        for paper in run.papers(kind):
            yield from _of_statement(paper, status)


def _of_statement(paper, status):
    """What concerns many rows alike is said once: a list of thousands is read by nobody."""
    other_term, without_cost, above_loss = [], [], []
    for row in paper.sales:  # thousands, perhaps: what is keyed decides what is looked at
        values = row.values
        if values.get("acquired") and values.get("sold"):
            bought, sold = _bought(str(values["acquired"])), _day(str(values["sold"]))
            if bought is not None and sold is not None:
                if bought > sold:
                    yield found(
                        (row.address("acquired"), row.address("sold")),
                        f"{paper.title}: acquired {values['acquired']}, sold before that. Except for short sales, "
                        "correct one of the dates.",
                        code="us.sale.acquired-after-sold",
                    )
                elif str(values.get("box")) in (SHORT if sold > _a_year_later(bought) else LONG):
                    other_term.append(row)
        if values.get("basis") in (None, ""):
            without_cost += [row] if row.proceeds > 0 else []
        elif row.proceeds > _NOTABLE and 0 < row.basis * _MANY < row.proceeds:
            yield found(
                (row.address("proceeds"), row.address("basis")),
                f"{paper.title}: sold for {row.proceeds:,}, bought for {row.basis:,}. Check the decimal point.",
                code="us.sale.gain-unlikely",
            )
        if values.get("adjustment"):
            if row.code == "W" and row.adjustment > max(row.basis - row.proceeds, ZERO):
                above_loss.append(row)
            yield from _home(paper, row, status)
    if above_loss:
        yield found(
            _places(above_loss, "adjustment"),
            f"{paper.title}: {_counted(above_loss)} with a wash sale adjustment above the loss. Compare the adjustments.",
            code="us.sale.wash-sale-gain",
        )
    if other_term:
        yield found(
            _places(other_term, "box", "acquired"),
            f"{paper.title}: {_counted(other_term)} in a box that does not match the holding period. Compare box and dates.",
            code="us.sale.term-differs",
        )
    if without_cost:
        proceeds = sum((row.proceeds for row in without_cost), ZERO)
        yield found(
            _places(without_cost, "basis"),
            f"{paper.title}: {_counted(without_cost)} without basis, so all of {proceeds:,} is gain. Ask for the basis; "
            "enter 0 if none.",
            code="us.sale.no-basis",
        )


def _bought(text):
    return _day(text) if text.upper() not in _SEVERAL else None


def _counted(rows):
    return "a sale stands" if len(rows) == 1 else f"{len(rows):,} sales stand"


def _places(rows, *names):
    return tuple(row.address(name) for row in rows[:_SHOWN] for name in names)


def _home(paper, row, status):
    law = paper.run.laws["us"].home_sale
    if row.code == "H" and -row.adjustment > (law.joint if status == "joint" else law.alone):
        yield found(
            row.address("adjustment"),
            f"{paper.title}: {-row.adjustment:,} of home sale gain is excluded, above the limit. Check it.",
            code="us.sale.home-above-limit",
        )


@check("us.sale.maybe-wash-sale", "Loss, and same security bought within 30 days", "missed", "IRC 1091")
def wash_sales(run):
    """Within and between statements: a broker reports only its own."""
    rows = [(paper, row) for paper in run.papers("1099-b") for row in paper.sales if row.values.get("acquired")]
    bought = {}
    for _, row in rows if len(rows) < 500 else ():
        day, name = _day(str(row.values.get("acquired"))), str(row.values.get("description", "")).strip().lower()
        if day is not None and name:
            bought.setdefault(name, []).append((day, row))
    for paper, row in rows if bought else ():
        if not row.values.get("sold") or row.sold is None or row.proceeds >= row.basis or row.adjustment:
            continue
        near = bought.get(str(row.values.get("description", "")).strip().lower(), ())
        if any(
            other is not row and abs(day - row.sold) <= _WASH and day != _day(str(row.values["acquired"])) for day, other in near
        ):
            yield found(
                row.address("adjustment"),
                f"{paper.title}: {row.description} was sold at a loss and bought within 30 days. If it is a wash sale, "
                "enter code W and the disallowed loss.",
            )


@check("us.sale.totals-and-rows", "Totals and transactions in the same box", "conflict", "Form 8949")
@check("us.sale.collectibles-above", "Collectibles gain exceeds the gain", "conflict", "IRC 1(h)(5)")
def totals_and_rows(run):
    for kind in ("1099-b", "1099-da"):
        for paper in run.papers(kind):
            if not paper.summaries:
                continue
            both = {row.box for row in paper.summaries} & {str(row.values.get("box") or "") for row in paper.sales}
            if both - {""}:
                yield found(
                    paper.address("summaries"),
                    f"{paper.title}: box {', '.join(sorted(both - {''}))} has totals and transactions. Both are added: "
                    "make sure nothing is in both.",
                    code="us.sale.totals-and-rows",
                )
            for row in paper.summaries:
                if row.collectible and row.collectible > max(row.proceeds - row.basis, ZERO):
                    yield found(
                        row.address("collectible"),
                        f"{paper.title}: the collectibles gain exceeds the gain of the box. Compare both.",
                        code="us.sale.collectibles-above",
                    )


@idea("us.capital-loss.carried-on", "Capital loss carryover to next year", "carried", "IRC 1212(b)")
def loss_carried_on(run):
    if run.is_idle("us.sch-d") or run.form("us.sch-d").together >= 0:
        return
    form = run.form("us.capital-loss-carryover")
    left = form.short_carried + form.long_carried
    if left > 0:
        yield found(
            (form.address("short_carried"), form.address("long_carried")),
            f"{left:,} of capital loss carries over to next year. Gains up to that amount are not taxed: tell the client.",
        )


def _preferred_open(run):
    """Where the fraction is adjusted, it turns on what of foreign income bears the lower rates."""
    form, paper = run.form("us.1116"), run.single("foreign-tax")
    if form.is_excepted or paper.is_keyed("qualified") or paper.is_keyed("long_gain"):
        return
    says = "Enter what of it is qualified dividends and long-term gain, zero if nothing: line 1a counts them in part."
    yield found(paper.address("qualified"), says, code="us.foreign-tax.preferred-open")


@check("us.1116.category-twice", "Form 1116: the same category twice", "conflict", "IRC 904(d)")
@check("us.1116.category-income", "Form 1116: foreign tax of a category without income", "lost", "IRC 904(a)")
@check("us.foreign-tax.preferred-open", "Foreign income: gain and qualified dividends not answered", "missing", "IRC 904(b)(2)")
@check("us.foreign-tax.income-missing", "Foreign tax without foreign income", "lost", "IRC 904(a)")
@idea("us.foreign-tax.limited", "Foreign tax not fully credited", "lost", "IRC 904(c)")
@stops("us.foreign-tax.carry-expired", "Foreign tax carried over more than 10 years", "carried", "IRC 904(c)")
@idea("us.foreign-tax.carry-expires", "Foreign tax carryover expires this year", "carried", "IRC 904(c)")
def foreign_tax(run):
    questions = run.single("foreign-tax")
    most = int(run.laws["us"].carried_years.foreign_tax.most)
    yield from by_year(
        run, questions.carried, most, "Foreign tax", "us.foreign-tax.carry-expired", "us.foreign-tax.carry-expires"
    )
    seen = {questions.category} if questions.values else set()
    for paper in run.papers("foreign-category"):
        yield from by_year(
            run, paper.carried, most, "Foreign tax", "us.foreign-tax.carry-expired", "us.foreign-tax.carry-expires"
        )
        if paper.category and paper.category in seen:
            says = "Everything of one category has one limit. Enter it on one paper."
            yield found(paper.address("category"), says, code="us.1116.category-twice")
        if paper.other_tax and not paper.gross_income:
            says = "Tax without foreign income credits nothing. Enter the income."
            yield found(paper.address("gross_income"), says, code="us.1116.category-income")
        seen.add(paper.category)
    if run.is_idle("us.1116") or not run.form("us.1116").required():
        return
    yield from _preferred_open(run)
    form = run.form("us.1116")
    if form.tax > 0 and form.gross == 0:
        yield found(
            (questions.address("gross_income"), form.address("gross")),
            f"{form.tax:,} of foreign tax is entered without foreign income, so nothing is credited. Enter the foreign income.",
            code="us.foreign-tax.income-missing",
        )
    elif form.credit < form.available:
        yield found(
            form.address("limit"),
            f"{form.available - form.credit:,} of foreign tax exceeds the limit. It carries back 1 year and forward 10; "
            "compare with deducting it.",
            code="us.foreign-tax.limited",
        )


@check("us.foreign-account.likely", "Foreign tax on interest, foreign account answered no", "conflict", "31 CFR 1010.350")
@check("us.dividend.all-qualified-reit", "Section 199A dividends that are also qualified", "unlikely", "IRC 199A(e)(3)(B)")
@check("us.interest.taxed-and-exempt", "Same interest taxable and tax-exempt", "unlikely")
def payers(run):
    filing = run.single("filing")
    for paper in run.papers("1099-int"):
        if paper.foreign_tax and filing.foreign_account is False:
            yield found(
                (filing.address("foreign_account"), paper.address("foreign_tax")),
                f"{paper.title} paid foreign tax on interest. Confirm that there is no foreign account.",
                code="us.foreign-account.likely",
            )
        if paper.exempt_interest >= 10 and paper.exempt_interest == paper.interest:
            yield found(
                (paper.address("exempt_interest"), paper.address("interest")),
                f"{paper.title}: boxes 1 and 8 are the same. Was one amount entered twice?",
                code="us.interest.taxed-and-exempt",
            )
    for paper in run.papers("1099-div"):
        if paper.trust_dividends and paper.trust_dividends + paper.qualified > paper.dividends:
            yield found(
                (paper.address("trust_dividends"), paper.address("qualified")),
                f"{paper.title}: boxes 1b and 5 exceed box 1a. Compare them.",
                code="us.dividend.all-qualified-reit",
            )


CHECKS = (sales, wash_sales, totals_and_rows, loss_carried_on, foreign_tax, payers)
