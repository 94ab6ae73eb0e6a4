"""What comes of a column, or of the best of choices: a return for planning, or values entered in the return."""

import uuid
from dataclasses import replace

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import require
from practice.firm.refusals import Cannot
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of, trials_of
from practice.returns.entry import next_position, note_change, note_paper, place_at, put_value
from practice.returns.models import Paper
from practice.returns.planning import plan_with
from practice.whatif.keeping import add, column_at, columns_of
from practice.whatif.working import results
from taxcore.engine import Rows
from taxcore.whatif.choosing import best_of
from taxcore.whatif.differences import ADDED, place_of_mark


@transaction.atomic
def make_return(actor, return_id, column_id):
    """A return for planning with everything that the column has. Cannot where it cannot be worked out, or is further than a year
    on."""
    return_, column = column_at(actor, return_id, column_id)
    outcome = results(return_, columns_of(return_))[column.key]
    if outcome.result is None:
        raise Cannot(outcome.says)
    made = plan_with(actor, return_, _without_made_up_numbers(outcome), outcome.remarks)
    record(actor, "what-if made a plan", return_, says=column.name)
    return made


def _without_made_up_numbers(outcome):
    """Everything the column has; who was added in it has no number yet."""
    data, people = outcome.result.run.everything, outcome.result.run.pack.people
    planned = {values["number"] for values in people.planned.values()}

    def plain(one):
        if one.kind != people.kind or one.values.get("number") not in planned:
            return one
        return replace(one, values={name: value for name, value in one.values.items() if name != "number"})

    return data.but(papers=tuple(map(plain, data.papers)))


@transaction.atomic
def take(actor, return_id, column_id, marks):
    """Enter these values of the column in the return, as one act that is undone as one. How many. Cannot for a column of another
    year."""
    _, column = column_at(actor, return_id, column_id)
    return_ = open_for_change(actor, return_id)
    require(actor, "key", return_)
    outcome = results(return_, columns_of(return_))[column.key]
    if outcome.result is None or outcome.result.year != return_.year:
        raise Cannot("Only values of a plan of the same year can be entered in the return.")
    wanted = sorted(_with_their_papers(column.differences, marks))
    if not wanted:
        raise Cannot("Choose which values to enter.")
    return _enter_all(actor, return_, column.name, {mark: column.differences[mark] for mark in wanted})


def best_of_choices(return_):
    """The best of what the law leaves open on a return as it stands (taxcore/whatif/choosing.py)."""
    result = result_of(return_)
    with trials_of(return_) as trials:
        return best_of(result, trials, result.run.pack.elections(result.run))


@transaction.atomic
def take_best(actor, return_id):
    """Enter the best of the choices in the return, as one act that is undone as one. How many values. Cannot without any."""
    return_ = open_for_change(actor, return_id)
    require(actor, "key", return_)
    found = best_of_choices(return_)
    if not found.differences:
        raise Cannot("The return as it stands is the best of these choices.")
    return _enter_all(actor, return_, "best of choices", found.differences)


@transaction.atomic
def column_of_best(actor, return_id):
    """A column with the best of the choices. Cannot where the return has it already."""
    column = add(actor, return_id, "Best of choices")
    found = best_of_choices(column.of)
    if not found.differences:
        raise Cannot("The return as it stands is the best of these choices.")
    column.differences = dict(found.differences)
    column.save(update_fields=["differences"])
    return column


def _enter_all(actor, return_, named, differences):
    """Values into an open return, as one act. How many."""
    before, batch = result_of(return_), uuid.uuid4().hex
    count = sum(_enter(actor, return_, place_of_mark(mark), value, batch) for mark, value in sorted(differences.items()))
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "taken from what-if", return_, says=f"{named}: {count} values")
    return count


def _with_their_papers(differences, marks):
    """Chosen fields, and the papers that only the column has, where one of their fields is chosen, with whose they are."""
    chosen = {mark for mark in marks if mark in differences}
    added = {paper for paper in (mark.rpartition("/")[0] + "/" for mark in chosen) if differences.get(paper) == ADDED}
    return chosen | added | {f"{paper}owner" for paper in added if f"{paper}owner" in differences}


def _enter(actor, return_, place, value, batch):
    """One value; a paper that is not there is added. 1 for a value, 0 for a paper."""
    declared = pack_of(return_).paper(place.kind) or pack_of(return_).people
    paper = Paper.objects.for_firm(return_.firm).filter(of=return_, kind=place.kind, key=place.paper, removed_at=None).first()
    if paper is None and declared is pack_of(return_).people:
        raise Cannot("Add whom you planned for under People first, with their number; then enter the rest.")
    if paper is None:
        if not (declared.single or value == ADDED):
            raise Cannot(f"The return has no {declared.name} of that kind any more.")
        owner = {"owner": "taxpayer"} if "owner" in declared.fields() else {}
        paper = Paper.objects.create(
            firm=return_.firm, of=return_, kind=place.kind, key=place.paper, position=next_position(return_), values=owner
        )
        note_paper(actor, return_, paper, "added", batch)
    if not place.path:
        return 0
    name, _, inner = place.path.partition(".")
    if isinstance(declared.fields()[name], Rows) and not any(
        row["id"] == inner.partition(".")[0] for row in paper.values.get(name, ())
    ):
        raise Cannot("A row that was planned for is not in the return any more.")
    there = place_at(pack_of(return_), paper, place.path)
    note_change(actor, return_, paper, there, value, "from what-if", batch)
    put_value(paper, there, value, actor, "")
    paper.save()
    return int(place.path != "owner")
