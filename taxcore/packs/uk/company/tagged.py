"""Computation and accounts as inline XBRL 1.1: one page for people whose figures a program can read.

What is tagged how stands in tagging.toml. Whole pounds, tax in pence; pools are told apart by a dimension.
"""

from dataclasses import dataclass, field
from datetime import date, timedelta
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape, quoteattr

from taxcore.engine.law import Law, read_law
from taxcore.packs.uk.company.base import months_after
from taxcore.packs.uk.company.journal import lines as journal
from taxcore.packs.uk.company.papers import HEADINGS, PROFIT_AND_LOSS

_SPACES = {
    "": "http://www.w3.org/1999/xhtml", "ix": "http://www.xbrl.org/2013/inlineXBRL", "xbrli": "http://www.xbrl.org/2003/instance",
    "ixt": "http://www.xbrl.org/inlineXBRL/transformation/2020-02-12", "link": "http://www.xbrl.org/2003/linkbase",
    "xlink": "http://www.w3.org/1999/xlink", "iso4217": "http://www.xbrl.org/2003/iso4217", "xbrldi": "http://xbrl.org/2006/xbrldi",
}  # fmt: skip
_STYLE = (
    "body{font:11pt sans-serif;max-width:46em;margin:2em auto}table{width:100%;border-collapse:collapse}td{padding:2pt 0}"
    "td.n{text-align:right;white-space:nowrap}tr.total td{border-top:1pt solid;font-weight:bold}"
    "h2{margin-top:1.5em;font-size:12pt}"
)
_MICRO = (
    "These accounts were prepared under the provisions for micro-entities of the Companies Act 2006 and FRS 105. The company was "
    "entitled to exemption from audit under section 477; the members have not required one under section 476. The directors "
    "acknowledge their responsibilities for records and accounts."
)
NET_ASSETS = ("fixed", "stock", "debtors", "cash", "creditors", "later", "provisions")


@cache
def tagging() -> Law:
    return read_law(Path(__file__).parent / "tagging.toml")


@dataclass
class Page:
    """A tagged page under way: its contexts, what it says, what is hidden. `entity` is (scheme, identifier)."""

    title: str
    entity: tuple[str, str]
    begins: date
    ends: date
    contexts: dict[tuple[str, str], str] = field(default_factory=dict)
    body: list[str] = field(default_factory=list)
    hidden: list[str] = field(default_factory=list)

    def context(self, when: str, member: str = "") -> str:
        """The id of what a fact is about: the period or its last day, those before ("before-"), and a member of the dimension."""
        key = (when, member)
        return self.contexts.setdefault(key, f"{when}{member}")

    def amount(self, value: Decimal, concept: str, when: str = "duration") -> str:
        """A tagged number: in words what is below nothing has a minus, in the fact a sign."""
        name, _, member = (part.strip() for part in concept.partition("|"))
        places = 0 if value == value.to_integral_value() else 2
        sign = ' sign="-"' if value < 0 else ""
        shown = f"{abs(value):,.{places}f}"
        fact = (
            f'<ix:nonFraction name={quoteattr(_named(name))} contextRef="{self.context(when, member)}" unitRef="GBP" '
            f'decimals="{places}" format="ixt:num-dot-decimal"{sign}>{shown}</ix:nonFraction>'
        )
        return f"({fact})" if value < 0 else fact

    def words(self, text: str, what: str) -> str:
        name = quoteattr(_named(tagging().words[what]))
        return f'<ix:nonNumeric name={name} contextRef="{self.context("duration")}">{escape(text)}</ix:nonNumeric>'

    def table(self, title: str, rows: list[tuple[Any, ...]], when: str = "duration", total: bool = False) -> None:
        """Rows of (label, amount, concept), the last one in the heavier face where it is the total; a fourth value is the amount
        of the period before."""
        made = []
        for place, (label, value, concept, *before) in enumerate(rows):
            heavy = ' class="total"' if total and place == len(rows) - 1 else ""
            amounts = [self.amount(value, concept, when), *(self.amount(one, concept, f"before-{when}") for one in before)]
            made.append(f"<tr{heavy}><td>{escape(label)}</td>{''.join(_CELL.format(one) for one in amounts)}</tr>")
        self.body.append(f"<h2>{escape(title)}</h2><table><tbody>{''.join(made)}</tbody></table>")

    def made(self) -> bytes:
        spaces = " ".join(f"xmlns{':' if name else ''}{name}={quoteattr(uri)}" for name, uri in _SPACES.items())
        own = tagging().taxonomy
        body = "".join(self.body)  # contexts are known once everything is drawn
        hidden = f"<ix:hidden>{''.join(self.hidden)}</ix:hidden>" if self.hidden else ""
        return (
            f'<?xml version="1.0" encoding="UTF-8"?>\n<html {spaces} xmlns:{own.prefix}={quoteattr(own.namespace)} xml:lang="en">'
            f'<head><title>{escape(self.title)}</title><style type="text/css">{_STYLE}</style></head>'
            f'<body><div style="display:none"><ix:header>{hidden}<ix:references><link:schemaRef xlink:type="simple" '
            f"xlink:href={quoteattr(own.schema)}/></ix:references><ix:resources>{self._contexts()}{_UNIT}</ix:resources>"
            "</ix:header></div>"
            f"<h1>{escape(self.title)}</h1>{body}</body></html>"
        ).encode()

    def _contexts(self) -> str:
        scheme, identifier = self.entity
        who = f"<xbrli:entity><xbrli:identifier scheme={quoteattr(scheme)}>{escape(identifier)}</xbrli:identifier>"
        return "".join(self._context(name, when, member, who) for (when, member), name in self.contexts.items())

    def _context(self, name: str, when: str, member: str, who: str) -> str:
        dimension = tagging().dimension.name
        explicit = f'<xbrldi:explicitMember dimension="{_named(dimension)}">{_named(member)}</xbrldi:explicitMember>'
        segment = f"<xbrli:segment>{explicit}</xbrli:segment>" if member else ""
        kind, begins, ends = when.removeprefix("before-"), self.begins, self.ends
        if kind != when:
            begins, ends = months_after(self.begins - _ONE, -12) + _ONE, self.begins - _ONE
        span = f"<xbrli:startDate>{begins}</xbrli:startDate><xbrli:endDate>{ends}</xbrli:endDate>"
        period = span if kind == "duration" else f"<xbrli:instant>{ends}</xbrli:instant>"
        return f'<xbrli:context id="{name}">{who}{segment}</xbrli:entity><xbrli:period>{period}</xbrli:period></xbrli:context>'


_LEFT_OUT = ("disallowed", "donation", "interest", "property", "dividend", "other")
_CELL = '<td class="n">{}</td>'
_ONE = timedelta(days=1)
_UNIT = '<xbrli:unit id="GBP"><xbrli:measure>iso4217:GBP</xbrli:measure></xbrli:unit>'


def _named(concept: str) -> str:
    return f"{tagging().taxonomy.prefix}:{concept}"


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
    for section in tagging().computation:
        if run.is_idle(section["form"]):
            continue
        form = run.form(section["form"])
        rows = [(form.specs[name].label, Decimal(getattr(form, name)), concept) for name, concept in _concepts(section)]
        page.table(section["title"], rows)
        if section["form"] == "uk.trading-profit":
            _items(page, run)
    if notes := str(run.single("accounts").notes):
        page.body.append(f"<h2>Notes</h2><p>{page.words(notes, 'notes')}</p>")
    return page.made()


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
            f"<tr><td>{escape(what)}</td><td>{escape(about)}</td>{_CELL.format(f'{net:,.2f}')}</tr>" for what, about, net in rows
        ]
        page.body.append(f"<h2>Added and deducted, item by item</h2><table><tbody>{''.join(made)}</tbody></table>")


def _concepts(section: Any) -> list[tuple[str, str]]:
    return [(name, concept) for name, concept in section.items() if name not in ("form", "title")]


def accounts(run: Any) -> bytes:
    """Micro-entity accounts from the trial balance, with the statements that a director approves."""
    page = _begun(run, "Micro-entity accounts", "accounts")
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
    page.body.append(f"<p>{page.words(_MICRO, 'micro')}</p>")
    if director := str(run.single("about").director):
        page.body.append(
            f"<p>Approved by the board and signed on its behalf by {page.words(director, 'director')}, director.</p>"
        )
    return page.made()


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


def taxonomy() -> str:
    """The schema of the concepts that tagging.toml names, with a final newline."""
    said, own, quoted = tagging(), tagging().taxonomy, {name: quoteattr(uri) for name, uri in _SPACES.items()}
    instants = {line[2] for one in said.accounts if one["when"] == "instant" for line in one["lines"]}
    instants |= {one["total"][1] for one in said.accounts if one["when"] == "instant"}
    amounts = {concept.partition("|")[0].strip() for section in said.computation for _, concept in _concepts(section)}
    amounts |= {line[2] for one in said.accounts for line in one["lines"]} | {one["total"][1] for one in said.accounts}
    made = [_element(name, "xbrli:monetaryItemType", "instant" if name in instants else "duration") for name in sorted(amounts)]
    made += [_element(name, "xbrli:stringItemType", "duration") for _, name in said.words.items()]
    made.append(_element(said.dimension.name, "xbrli:stringItemType", "duration", "xbrldt:dimensionItem", abstract=True))
    made += [_element(name, "xbrli:stringItemType", "duration", abstract=True) for name in said.dimension.members]
    body = "\n".join(f"  {one}" for one in made)
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" '
        f'xmlns:xbrli={quoted["xbrli"]} xmlns:xbrldt="http://xbrl.org/2005/xbrldt"\n'
        f"  xmlns:{own.prefix}={quoteattr(own.namespace)}\n"
        f'  targetNamespace={quoteattr(own.namespace)} elementFormDefault="qualified">\n'
        f'  <xs:import namespace="{_SPACES["xbrli"]}" schemaLocation="http://www.xbrl.org/2003/xbrl-instance-2003-12-31.xsd"/>\n'
        '  <xs:import namespace="http://xbrl.org/2005/xbrldt" schemaLocation="http://www.xbrl.org/2005/xbrldt-2005.xsd"/>\n'
        f"{body}\n</xs:schema>\n"
    )


def _element(name: str, kind: str, when: str, group: str = "xbrli:item", *, abstract: bool = False) -> str:
    own = tagging().taxonomy
    return (
        f'<xs:element id="{own.prefix}_{name}" name="{name}" type="{kind}" substitutionGroup="{group}" xbrli:periodType="{when}" '
        f'nillable="true"{" abstract=" + chr(34) + "true" + chr(34) if abstract else ""}/>'
    )


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
