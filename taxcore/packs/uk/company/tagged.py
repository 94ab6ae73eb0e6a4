"""Computation and accounts of a company as tagged pages, and tagged accounts of others read back into a trial balance."""

from decimal import Decimal
from typing import Any
from xml.sax.saxutils import escape

from taxcore.packs.uk.company.inline import CELL, Page, concepts_of, tagging
from taxcore.packs.uk.company.journal import lines as journal
from taxcore.packs.uk.company.papers import HEADINGS, PROFIT_AND_LOSS

_UNAUDITED = (
    " The company was entitled to exemption from audit under section 477; the members have not required one under section 476. "
    "The directors acknowledge their responsibilities for records and accounts."
)
_STATED = {
    "micro": "These accounts were prepared under the provisions for micro-entities of the Companies Act 2006 and FRS 105.",
    "small": "These accounts were prepared under the provisions for small companies of the Companies Act 2006 and FRS 102, "
    "section 1A.",
}
_TITLES = {"micro": "Micro-entity accounts", "small": "Accounts of a small company"}
NET_ASSETS = ("fixed", "stock", "debtors", "cash", "creditors", "later", "provisions")
_LEFT_OUT = ("disallowed", "donation", "interest", "property", "dividend", "other")


def _begun(run: Any, title: str, what: str) -> Page:
    """A page with who it is about and for which period; the day it ends on is hidden as a date that a program reads."""
    company = next(iter(run.people()))
    identifier = str(company.number if what == "computation" else company.registration)
    accounts = run.single("accounts")
    begins = (what == "accounts" and accounts.begun) or run.period.start
    ends = (what == "accounts" and accounts.ended) or run.period.end
    page = Page(title, (tagging().scheme[what], identifier), begins, ends)
    page.hidden += [page.words(begins.isoformat(), "begins"), page.words(ends.isoformat(), "ends")]
    said = f"<p>{page.words(str(company.company), 'company')}, {page.words(str(company.registration), 'registration')}</p>"
    page.body.append(f"{said}<p>Period from {begins:%-d %B %Y} to {ends:%-d %B %Y}. Amounts in pounds.</p>")
    return page


def computation(run: Any) -> bytes:
    """The tax computation: every line of its forms, tagged as tagging.toml says."""
    page = _begun(run, "Corporation tax computation", "computation")
    said = _notes(run)
    for section in tagging().computation:
        if run.is_idle(section["form"]):
            continue
        form = run.form(section["form"])
        rows = [(form.specs[name].label, Decimal(getattr(form, name)), concept) for name, concept in concepts_of(section)]
        noted = {
            concept: said[f"{section['form']}:{name}"]
            for name, concept in concepts_of(section)
            if f"{section['form']}:{name}" in said
        }
        page.table(section["title"], rows, notes=noted)
        if section["form"] == "uk.trading-profit":
            _items(page, run)
    if notes := str(run.single("accounts").notes):
        page.body.append(f"<h2>Notes</h2><p>{page.words(notes, 'notes')}</p>")
    return page.made()


def _notes(run: Any) -> dict[str, str]:
    """{form:line: note}; several of one line as one."""
    found: dict[str, str] = {}
    for row in run.single("notes").lines:
        if row.at and row.says:
            found[str(row.at)] = " ".join(filter(None, (found.get(str(row.at), ""), str(row.says))))
    return found


def _items(page: Page, run: Any) -> None:
    """What the sums of the trading profit are made of: accounts that are left out or belong elsewhere, adjustments with their
    rule and note. The sums are tagged, these are for people."""
    form, paper = run.form("uk.accounts"), run.single("accounts")
    rows = [(str(row.account), HEADINGS[row.heading], row.net) for kind in _LEFT_OUT for row in form.lines_of(kind)]
    for row in paper.adjustments:
        about = " · ".join(part for part in (str(row.rule), str(row.note)) if part)
        rows.append((str(row.what), about, row.amount if row.by == "add" else -row.amount))
    if rows:
        made = [
            f"<tr><td>{escape(what)}</td><td>{escape(about)}</td>{CELL.format(f'{net:,.2f}')}</tr>" for what, about, net in rows
        ]
        page.body.append(f"<h2>Added and deducted, item by item</h2><table><tbody>{''.join(made)}</tbody></table>")


def accounts(run: Any) -> bytes:
    """Accounts of a micro-entity or a small company from the trial balance, with the statements that a director approves."""
    paper = run.single("accounts")
    size = str(paper.size)
    page = _begun(run, _TITLES[size], "accounts")
    years = [heading_sums(run), *sums_before(run)]
    if len(years) > 1:
        page.body.append("<p>Beside each amount that of the period before.</p>")
    for section in tagging().accounts:
        lines = [line for line in section["lines"] if any(sums[line[0]] for sums in years) or line[0] in _ALWAYS]
        rows = [(label, years[0][name], concept, *(sums[name] for sums in years[1:])) for name, label, concept in lines]
        label, concept = section["total"]
        totals = [sum((sums[name] for name, _, _ in section["lines"]), Decimal(0)) for sums in years]
        rows.append((label, totals[0], concept, *totals[1:]))
        page.table(section["title"], rows, section["when"], total=True)
    _notes_of_accounts(page, paper)
    page.body.append(f"<p>{page.words(_STATED[size] + _UNAUDITED, size)}</p>")
    if director := str(run.single("about").director):
        page.body.append(
            f"<p>Approved by the board and signed on its behalf by {page.words(director, 'director')}, director.</p>"
        )
    return page.made()


def _notes_of_accounts(page: Page, paper: Any) -> None:
    """Policies and fixed assets of a small company; of any company how many worked there."""
    if paper.is_keyed("employees"):
        page.body.append(f"<h2>Employees</h2><p>On average {page.words(str(paper.employees), 'employees')}.</p>")
    if paper.size != "small":
        return
    if policies := str(paper.policies):
        page.body.append(f"<h2>Accounting policies</h2><p>{page.words(policies, 'policies')}</p>")
    rows, said = list(paper.fixed), tagging().fixed_assets
    if rows:
        sums = [(label, sum((getattr(row, name) for row in rows), Decimal(0)), concept) for name, label, concept in said["lines"]]
        label, concept = said["total"]
        page.table(
            "Fixed assets",
            [*sums, (label, sum((row.cost_after - row.written_after for row in rows), Decimal(0)), concept)],
            total=True,
        )


_ALWAYS = ("turnover", "fixed", "capital")


def heading_sums(run: Any) -> dict[str, Decimal]:
    """Each heading of the trial balance, with the tax that is posted: what the company has and what came in above nothing,
    what it owes and costs below it. `period` is the profit or loss."""
    rows = [(str(row.heading), row.debit, row.credit) for row in run.single("accounts").rows]
    if run.single("accounts").posted:
        rows += [(heading, debit or Decimal(0), credit or Decimal(0)) for _, heading, debit, credit in journal(run)]
    return _summed(rows)


def sums_before(run: Any) -> list[dict[str, Decimal]]:
    """The same of the period before, where the practice has its trial balance; with the tax that was posted then."""
    before = run.last_year
    for paper in before.of_kind("accounts") if before is not None else ():
        rows = [
            (one.get("heading", ""), Decimal(one.get("debit") or 0), Decimal(one.get("credit") or 0))
            for one in paper.values.get("rows", [])
        ]
        if paper.values.get("posted") == "yes" and (tax := before.lines.get("uk.ct600:chargeable")):
            rows += [("tax", tax, Decimal(0)), ("creditors", Decimal(0), tax)]
        if any(debit or credit for _, debit, credit in rows):
            return [_summed(rows)]
    return []


def _summed(rows: list[tuple[str, Decimal, Decimal]]) -> dict[str, Decimal]:
    sums = {name: Decimal(0) for name in HEADINGS}
    for heading, debit, credit in rows:
        if heading in sums:
            sums[heading] += debit - credit if heading in NET_ASSETS else credit - debit
    sums["period"] = sum((sums[name] for name in (*PROFIT_AND_LOSS, "tax")), Decimal(0))
    return sums


def read_back(facts: list[tuple[str, str, str, str]], ends: str) -> list[tuple[str, str, str, str]]:
    """Rows of a trial balance from the facts of tagged accounts, as (concept, amount, last day, member): those of the period that
    ends on that day, or of the latest one. What a concept means stands in tagging.toml; any other is left out."""
    known = dict(tagging().read.items())
    mine = [one for one in facts if one[0] in known and not one[3]]
    days = {one[2] for one in mine}
    day = ends if ends in days else max(days, default="")
    rows, seen = [], set()
    for concept, amount, last, _ in mine:
        account, heading, is_debit = known[concept]
        if last != day or account in seen or not Decimal(amount):
            continue
        seen.add(account)
        debit = Decimal(amount) if is_debit else -Decimal(amount)
        rows.append((account, heading, f"{debit:.2f}" if debit > 0 else "", f"{-debit:.2f}" if debit < 0 else ""))
    return rows
