"""PDFs from templates. Nothing is fetched: styles and fonts come from the application's own files."""

import gc
from contextlib import contextmanager
from pathlib import Path

from django.template.loader import render_to_string

_STATIC = Path(__file__).resolve().parent.parent / "web" / "static" / "web"


def pdf_of(template, context):
    """The PDF's bytes of a template."""
    return pdf_from(render_to_string(template, context))


def pdf_from(html):
    """The PDF's bytes of a page. The library is loaded here since only workers need it."""
    from weasyprint import HTML

    with _collector_at_rest():
        return HTML(string=html, base_url="file:///static/", url_fetcher=_fetcher()).write_pdf()


@contextmanager
def _collector_at_rest():
    """A document is a tree of a hundred thousand boxes that all live until it is written: looking through them again and again
    for what could go took a third of the time, and found nothing. Two threads that rest it at once leave it at work."""
    was_at_work = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_at_work:
            gc.enable()


def _fetcher():
    from weasyprint.urls import FatalURLFetchingError, URLFetcher

    class OnlyOurs(URLFetcher):
        """Shipped files and data inside the page; anything else stops the document."""

        def fetch(self, url, headers=None):
            if url.startswith("file:///static/"):
                path = (_STATIC / url.removeprefix("file:///static/")).resolve()
                if path.is_relative_to(_STATIC):
                    return super().fetch(path.as_uri(), headers)
            if url.startswith("data:"):
                return super().fetch(url, headers)
            raise FatalURLFetchingError(f"not shipped with the application: {url}")

    return OnlyOurs(allowed_protocols=("file", "data"))
