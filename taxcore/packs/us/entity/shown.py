"""Schedule K-1 of each owner as a document, for whoever is not a client here too. IRC 6031(b), 6037(b)."""

from taxcore.engine.outgoing import Drawn, DrawnTable

# Parts of the schedule by how a line's number begins: title, heads
_PARTS = {
    "K": ("Item K, liabilities", ("", "Kind", "End of year")),
    "N": ("Item N, net unrecognized section 704(c) gain or (loss)", ("", "", "Amount")),
    "L": ("Item L, capital", ("", "Tax basis", "Amount")),
}


def statement(form, owner, called, shares, states=()):
    """One owner's schedule: shares, items with their numbers, and the parts it has besides. `called` is the entity's name,
    `states` are tables of what it means to each."""
    rows = {"": [], **{letter: [] for letter in _PARTS}}
    for cell in form.lines():
        letter = next((one for one in _PARTS if cell.number.startswith(one)), "")
        if cell.value or letter == "L":
            rows[letter].append((cell.number.removeprefix(letter), cell.label, cell.value))
    tables = [
        DrawnTable("Shares", ("", "Beginning", "End"), shares),
        DrawnTable("Items", ("Box", "Item", "Amount"), tuple(rows[""])),
    ]
    tables += [DrawnTable(*_PARTS[letter], tuple(rows[letter])) for letter in _PARTS]
    tables += states
    remarks = (f"Of {called}, {form.year}.", "Keep it with your records, and give it to whoever prepares your return.")
    named, filled = f"Schedule K-1, {owner.called}", tuple(one for one in tables if one.rows)
    return Drawn(f"k-1-{owner.key}", named, filled, remarks, number=str(owner.number or ""))


def name_of(run):
    filer = next(iter(run.people()), None)
    return str(filer.company) if filer is not None else ""
