"""A household's balances over years, from what stands for each: on the client's page, and beside a line that closes one."""

from dataclasses import dataclass
from typing import Any

from practice.returns.computing import pack_of, result_of
from practice.returns.models import Return
from practice.returns.standing import what_stands
from taxcore.engine.balances import Balance
from taxcore.whatif.accounts import accounts

_TALL, _WIDE = 30, 22  # of the bars, in units of the picture


@dataclass(frozen=True)
class AccountView:
    """One account as it is drawn. `rows` are (year, its return); `bars` the closing amounts, ready to draw."""

    title: str
    holder: str
    place: str
    expires: bool
    cites: str
    rows: list
    bars: list

    @property
    def wide(self):
        return len(self.bars) * _WIDE + 2


def accounts_of(household, pack, only: tuple[Balance, str] | None = None, key: str | None = None) -> list[AccountView]:
    """All of a household's accounts under a pack; or those of one balance and holder."""
    rows = what_stands(Return.objects.for_firm(household.firm_id).filter(household=household, pack=pack))
    by_year = {
        one.year: one for one in rows.select_related("firm", "household").order_by("year", "pk")
    }  # the last of a year stands
    found = accounts(result_of(one) for one in by_year.values())
    found = [one for one in found if only is None or ((one.balance, one.jurisdiction) == only and one.key == (key or ""))]
    return [_view(one, by_year) for one in found]


def account_at(return_, result, address: str) -> list[AccountView]:
    """The account that a line closes or a field opens; none for any other figure."""
    cell = result.get(address)
    node = getattr(cell, "node", None)
    balance = getattr(cell.spec, "closes", None) or getattr(cell.spec, "opens", None) if cell is not None else None
    if balance is None or not balance.kept_up:
        return []
    key = node.key if getattr(cell.spec, "closes", None) is not None else _holder(node)
    return accounts_of(return_.household, pack_of(return_).code, (balance, node.jurisdiction), key)


def _holder(paper: Any) -> str:
    if paper.single:
        return ""
    return str(getattr(paper, paper.whose, "") or "taxpayer") if paper.once_each else str(paper.key)


def _view(account, by_year):
    place = account.jurisdiction.partition("-")[2].upper()
    most = max((abs(one.closing) for one in account.years), default=0) or 1
    bars = []
    for number, one in enumerate(account.years):
        height = round(_TALL * abs(one.closing) / most)
        bars.append({"x": 2 + number * _WIDE, "y": _TALL - height, "height": height, "amount": one.closing})
        bars[-1]["named"] = by_year[one.year].tax_year
    return AccountView(
        account.balance.title, account.holder, place, account.balance.expires, account.balance.cites,
        [(one, by_year[one.year]) for one in account.years], bars,
    )  # fmt: skip
