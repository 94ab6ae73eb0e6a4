"""The practice's price list, and what of a return each price counts."""

from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from django.db import transaction
from django.db.models import Case, IntegerField, When
from django.utils import timezone

from practice.fees.models import Per, Price
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.firm.typed_values import amount as read_amount
from practice.returns.computing import pack_of
from taxcore.engine import BadValue

MOST = 120
LARGEST = Decimal("99999.99")
_NAMED = (Per.FORM, Per.PAPER, Per.AUTHORITY)  # prices that can be for one thing of the pack


def cents(value):
    return value.quantize(Decimal("0.01"), ROUND_HALF_UP)


def listed(firm, pack):
    """The prices that hold, in the order of an invoice."""
    order = Case(*(When(per=per, then=place) for place, per in enumerate(Per.values)), output_field=IntegerField())
    return Price.objects.for_firm(firm).filter(pack=pack, ended_at=None).order_by(order, "name", "id")


def money(text, what, least=Decimal("0.01"), most=LARGEST):
    """An amount as somebody types it, to the cent. BadValue outside `least` to `most`."""
    if not text.strip():
        raise BadValue(f"{what}: enter an amount.", text)
    value, _ = read_amount(text.strip())
    value = cents(value)
    if not least <= value <= most:
        raise BadValue(f"{what} must be from {least:,} to {most:,}.", text)
    return value


def counted_things(pack):
    """What a price of each kind can name: {per: [(code, name)]}."""
    return {
        Per.FORM: [(form.code(), f"{form.number}: {form.name}") for form in pack.forms if not form.worksheet],
        Per.PAPER: [(paper.kind, paper.name) for paper in (pack.people, *pack.papers)],
        Per.AUTHORITY: [(one.code, one.name) for one in pack.authorities],
    }


@transaction.atomic
def add(actor, pack, per, name, amount, code="", included=0):
    """A price from now on; one of the same name and kind ends. BadValue where it says nothing, or counts what there is not."""
    require(actor, "administer", actor)
    if per not in Per.values:
        raise BadValue("Choose what is counted.", per)
    name = written(name, "The name", 80, "Name what it is for.")
    most = Decimal(100) if per == Per.DISCOUNT else LARGEST
    amount = money(amount, "The discount" if per == Per.DISCOUNT else "The price", most=most)
    known = dict(counted_things(pack).get(per, ()))
    if code and code not in known:
        raise BadValue("Choose one of the list.", code)
    if per in (Per.FORM, Per.PAPER) and not code:
        raise BadValue("Choose which one is counted.", code)
    if included is None or included > 99:
        raise BadValue("Enter how many are included, from 0 to 99.", included)
    there = listed(actor.firm, pack.code)
    there.filter(per=per, name__iexact=name).update(ended_at=timezone.now())
    if there.count() >= MOST:
        raise BadValue(f"There are {MOST} prices already. End one first.", name)
    made = Price.objects.create(
        firm=actor.firm, pack=pack.code, per=per, code=code if per in _NAMED else "", name=name, amount=amount,
        included=included, by=actor,
    )  # fmt: skip
    record(actor, "price set", firm=actor.firm, says=f"{name}: {amount:,}{'%' if per == Per.DISCOUNT else ''}")
    return made


@transaction.atomic
def end(actor, price_id):
    """No longer on new invoices; those that have it keep it."""
    row = fetch(Price.objects, actor, pk=price_id)
    require(actor, "administer", row)
    row.ended_at = timezone.now()
    row.save(update_fields=["ended_at"])
    record(actor, "price ended", firm=actor.firm, says=row.name)


@dataclass(frozen=True)
class Counted:
    """What a price comes to on one return: how many of it, at what price each."""

    price: Price
    quantity: Decimal

    @property
    def amount(self):
        return cents(self.quantity * self.price.amount)


def counted_on(return_, result):
    """The prices of the list that this return calls for, in the order of an invoice. Once it was invoiced, only hours that were
    worked since: what else is billed then, somebody writes."""
    pack, again = pack_of(return_), return_.invoices.filter(voided_at=None).exclude(number="").exists()
    numbers = {
        Per.RETURN: lambda price: 1,
        Per.AUTHORITY: lambda price: _authorities(result, price.code),
        Per.FORM: lambda price: sum(form.code() == price.code for form in result.forms),
        Per.PAPER: lambda price: sum(paper.kind == price.code for paper in return_.papers.all() if not paper.removed_at),
        Per.HOUR: lambda price: _hours(return_),
    }
    found, prices = [], list(listed(return_.firm, pack.code))
    for per, count in numbers.items():
        if again and per != Per.HOUR:
            continue
        for price in (one for one in prices if one.per == per):
            quantity = Decimal(count(price)) - price.included
            if quantity > 0:
                found.append(Counted(price, quantity))
    return found


def _authorities(result, code):
    """How many authorities beside the first one get something; those of a code only, where it names one."""
    further = [line.authority.code for line in result.bottom_lines[1:]]
    return sum(one == code for one in further) if code else len(further)


def _hours(return_):
    """Hours that no invoice has yet."""
    minutes = sum(row.minutes for row in return_.hours.filter(removed_at=None, invoice=None))
    return cents(Decimal(minutes) / 60)
