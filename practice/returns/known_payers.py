"""What the practice remembers of employers and payers: learned when entered, offered by number, never filled in unasked."""

from practice.returns.models import Party


def learn(actor, declared, paper):
    """Remember the sender of a paper once number and name are entered. Digits that do not fit the field are not learned."""
    number, name = (str(paper.values.get(declared.party.get(part, ""), "")) for part in ("number", "name"))
    field = declared.fields().get(declared.party.get("number", ""))
    if not number or not name or not field.fits(number):
        return
    details = {part: str(paper.values.get(field, "")) for part, field in declared.party.items() if part != "number"}
    Party.objects.for_firm(actor.firm).update_or_create(
        number=number, defaults={part: text for part, text in details.items() if text} | {"firm": actor.firm, "by": actor}
    )


def offer(firm, declared, paper):
    """The remembered sender whose number stands on the paper while its name or address is still empty; else None."""
    number = paper.values.get(declared.party.get("number", ""), "")
    if not number or not missing(declared, paper):
        return None
    found = Party.objects.for_firm(firm).filter(number=number).first()
    return found if found and any(getattr(found, part) for part in missing(declared, paper)) else None


def missing(declared, paper):
    """Parts of the sender that nobody has entered."""
    return [part for part, field in declared.party.items() if not paper.values.get(field)]
