"""For the bench: locks the returns of the many clients and has their authorities accept them, so that packages can be made."""

from django.core.management.base import BaseCommand

from practice.dispatch.models import State, Submission
from practice.firm.models import Firm
from practice.returns.models import Return, Stage
from practice.signing.locking import lock_figures


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args, **options):
        firm = Firm.objects.get()
        firm.lock_needs = []
        firm.save()
        signer = firm.staff.get(role="signer")
        for return_ in Return.objects.for_firm(firm).filter(household__name__startswith="Many "):
            snapshot = lock_figures(signer, return_.pk)
            for line in snapshot.bottom_lines:
                Submission.objects.create(
                    firm=firm, of=return_, snapshot=snapshot, authority=line["code"], document=b"x", state=State.ACCEPTED,
                    receipt=f"{return_.pk}-{line['code']}", by=signer,
                )  # fmt: skip
            Return.objects.for_firm(firm).filter(pk=return_.pk).update(stage=Stage.DELIVER, state_note="to deliver")
