"""Finds stored values that are not as their fields want them: `python -m practice check_values`, with --fix to put them right."""

from django.core.management.base import BaseCommand

from practice.returns.computing import pack_of
from practice.returns.models import Paper
from practice.returns.stored import look_through, put_right


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("--fix", action="store_true", help="put right what can be")

    def handle(self, *args, **options):
        seen = wrong = left = 0
        papers = Paper.objects.across_firms("maintenance of the whole installation").select_related("of", "firm")
        for paper in papers.iterator(chunk_size=500):
            declared = pack_of(paper.of).paper(paper.kind)
            seen += 1
            for found in list(look_through(paper, declared)) if declared else ():
                wrong += 1
                mended = options["fix"] and found.becomes is not None
                left += not mended
                if mended:
                    put_right(found)
                done = (
                    "put right" if mended else "to be entered again" if found.becomes is None else "can be put right with --fix"
                )
                self.stdout.write(f"return {paper.of_id}, paper {paper.pk} ({paper.kind}), {found.path}: {found.says}; {done}")
        self.stdout.write(f"{seen} papers, {wrong} values not as they should be, {left} left")
