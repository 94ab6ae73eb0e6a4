"""For the bench: many small returns in the demo firm, four of them with papers, four of a family with sixty papers, and four
submissions of each of the first 5,000, the newest 200 of them rejected; and returns of the year before, to roll forward.

Prints {"small": [[return, W-2], ...], "heavy": ...} as JSON.
"""

import json
from datetime import date, timedelta

from django.core.management.base import BaseCommand
from django.db import connection, transaction

from practice.clients.models import Household
from practice.demo.plain import demo_returns, heavy_family
from practice.dispatch.models import State, Submission
from practice.firm.models import Firm
from practice.firm.packs import usual_pack
from practice.returns.entry import add_paper, save_field, stored
from practice.returns.models import Paper, Return, Snapshot, Stage
from practice.returns.opening import open_household, open_return

_WAGES = {
    "employer": "Kittiwake Boatworks LLC", "employer_number": "00-7140362", "employer_street": "4 Slipway",
    "employer_city": "Savanna", "employer_state": "IL", "employer_zip": "61074", "wages": "61480.00",
    "federal_withheld": "5812.00",
    "states": [{"state": "IL", "state_number": "0071-4036", "wages": "61480.00", "withheld": "3043.26"}],
}  # fmt: skip
_REJECTED = 200
_FILED = 5_000
_FAULT = {"rule": "US-W2-01", "path": "papers", "message": "The employer is not known.", "at": ""}
_STAGES = [Stage.GATHER, Stage.PREPARE, Stage.REVIEW, Stage.SIGN, Stage.FILE]


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("number", type=int)
        parser.add_argument(
            "--earlier", type=int, default=0, help="so many returns of 2024 with all their papers, to roll forward"
        )
        parser.add_argument("--clients", type=int, default=0, help="so many clients with an email address and a return of 2025")

    @transaction.atomic
    def handle(self, *args, **options):
        firm = Firm.objects.get()
        staff = list(firm.staff.order_by("pk"))
        numbers = range(options["number"])
        households = Household.objects.bulk_create(
            [Household(firm=firm, name=f"Crowd {n:05d}, Person", trade="ferryman", in_care_of=staff[n % 5]) for n in numbers]
        )
        returns = Return.objects.bulk_create(
            [self._return(firm, staff, home, n) for n, home in zip(numbers, households, strict=True)]
        )
        small = [paper for return_ in returns[:4] for paper in self._papers(firm, return_)]
        heavy = [paper for return_ in returns[4:8] for paper in self._family(firm, return_)]
        self._submissions(firm, staff[0], returns[8:_FILED])  # the eight before are saved into: filed returns would refuse it
        self._earlier(firm, staff, options["earlier"])
        self._clients(firm, options["clients"])
        with connection.cursor() as cursor:
            cursor.execute("analyze")  # so many rows at once: what the planner knew is no longer true
        self.stdout.write(json.dumps({"small": self._places(small), "heavy": self._places(heavy)}))

    def _earlier(self, firm, staff, number):
        """The demo's returns over and over, as of 2024."""
        kinds = [data for _, data in demo_returns()]
        homes = Household.objects.bulk_create(
            [Household(firm=firm, name=f"Years {n:05d}, Person", in_care_of=staff[n % 5], state="IL") for n in range(number)]
        )
        returns = [self._return(firm, staff, home, n) for n, home in enumerate(homes)]
        for one in returns:
            one.year, one.stage = 2024, Stage.DONE
        Return.objects.bulk_create(returns)
        pack = usual_pack()
        Paper.objects.bulk_create(
            [
                Paper(
                    firm=firm,
                    of=one,
                    key=paper.id,
                    kind=paper.kind,
                    position=place,
                    values=stored(pack.paper(paper.kind), paper.values),
                )
                for n, one in enumerate(returns)
                for place, paper in enumerate(kinds[n % len(kinds)].papers)
            ],
            batch_size=2000,
        )

    def _clients(self, firm, how_many):
        """Clients who can be asked, reminded and sent a package: a person each, and a return that can be locked."""
        signer = firm.staff.get(role="signer")
        for n in range(how_many):
            number = f"9{10 + n // 100:02d}-{10 + n % 30}-{n + 1:04d}"
            person = {"first_name": "Many", "last_name": f"Client {n:04d}", "number": number, "birth_date": date(1980, 1, 5),
                      "email": f"many{n}@clients.example"}  # fmt: skip
            home = open_household(
                signer, f"Many {n:04d}, Client", [person], street="6 Quarry Road", city="Galena", state="IL", zip="61036"
            )
            return_ = open_return(signer, home.pk, 2025, [(home.people.get().pk, "taxpayer")])
            for name, value in (("residence", "IL"), ("digital_assets", "no")):
                save_field(signer, return_.pk, return_.papers.get(kind="filing").pk, name, value, "")
            add_paper(signer, return_.pk, "w2", "taxpayer", _WAGES)

    def _submissions(self, firm, by, returns):
        """Each document as large as a family's; what it says is read by nobody here."""
        locked = Snapshot.objects.bulk_create(
            [Snapshot(firm=firm, of=one, hash=f"{one.pk:064d}", content=b"0" * 60_000, version=1, made_by=by) for one in returns],
            batch_size=1000,
        )
        codes = [authority.code for authority in usual_pack().authorities[:4]]
        rows = [
            Submission(firm=firm, of=one.of, snapshot=one, authority=code, state=State.ACCEPTED, receipt=f"{one.pk}-{code}",
                       document=b"0" * 20_000, by=by)
            for one in locked for code in codes
        ]  # fmt: skip
        for row in rows[-_REJECTED:]:
            row.state, row.refused_rules = State.REJECTED, [_FAULT]
        Submission.objects.bulk_create(rows, batch_size=1000)

    def _places(self, papers):
        """The first W-2 of each return."""
        first = {}
        for paper in Paper.objects.bulk_create(papers):
            if paper.kind == "w2":
                first.setdefault(paper.of_id, paper.pk)
        return list(first.items())

    def _family(self, firm, return_):
        for place, paper in enumerate(heavy_family().papers):
            values = dict(paper.values) | ({"federal_withheld": "5000.00"} if paper.kind == "w2" else {})
            yield Paper(firm=firm, of=return_, key=paper.id, kind=paper.kind, values=values, position=place)

    def _return(self, firm, staff, household, n):
        stage = _STAGES[n % 5]
        return Return(
            firm=firm, household=household, year=2025, stage=stage, state_note="data entry", preparer=staff[n % 5],
            due=date(2026, 2, 10) + timedelta(days=n % 90), stages={stage.value: "2026-02-01"}, authorities="US, IL", together=n,
            summary={"counts": {"stops": 0, "check": 0, "idea": 0}, "lines": [], "version": 1},
        )  # fmt: skip

    def _papers(self, firm, return_):
        person = {"role": "taxpayer", "first_name": "Crowd", "last_name": "Person", "birth_date": "1980-01-05"}
        filing = {"status": "single", "residence": "IL", "digital_assets": "no"}
        wages = {"owner": "taxpayer", "employer": "Tern Point", "wages": "61480.00", "federal_withheld": "5000.00",
                 "states": [{"id": "1", "state": "IL", "wages": "61480.00", "withheld": "3000.00"}]}  # fmt: skip
        for key, kind, values in (("taxpayer", "person", person), ("filing", "filing", filing), ("w1", "w2", wages)):
            yield Paper(firm=firm, of=return_, key=key, kind=kind, values=values)
