"""Puts the demo practice into an empty database. Does nothing where there is a firm already."""

import secrets

from django.conf import settings
from django.core.management.base import BaseCommand

from practice.demo import british, fees, gathering, partnership, s_corporation, scenario
from practice.demo.building import add_earlier_years, build_firm, build_household
from practice.demo.seat import lay_out
from practice.firm.models import Firm
from practice.firm.packs import usual_pack
from practice.returns.computing import in_one_go
from practice.track.keeping import make_missing


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args, **options):
        layout = _LAYOUTS.get(usual_pack().code)
        if layout is None or Firm.objects.exists():
            return
        path, password = settings.DATA / "demo-password", secrets.token_urlsafe(9)
        path.touch(mode=0o600)
        path.write_text(password)  # before there is anybody whose password it is: a start that is stopped midway begins anew
        with in_one_go():
            households = layout(password)
        make_missing()
        self.stdout.write(f"{households} households")


def _american(password):
    firm, _ = build_firm(password)
    for entry in scenario.HOUSEHOLDS:
        build_household(firm, entry)
    lay_out(firm)
    for entry in scenario.HOUSEHOLDS:
        if entry.get("earlier") and not entry.get("rolled"):
            add_earlier_years(firm, entry)
    gathering.lay_out(firm)
    fees.lay_out(firm)
    entities = {"us-1065": partnership, "us-1120s": s_corporation}
    return len(scenario.HOUSEHOLDS) + sum(one.lay_out(firm) for code, one in entities.items() if code in settings.PACKS)


_LAYOUTS = {"us": _american, "uk": british.lay_out}  # by what the practice makes most; of other countries there is no demo
