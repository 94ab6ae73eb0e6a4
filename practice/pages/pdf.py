"""PDFs from templates. Nothing is fetched: styles and fonts come from the application's own files."""

from pathlib import Path

from django.template.loader import render_to_string

_STATIC = Path(__file__).resolve().parent.parent / "web" / "static" / "web"


def pdf_of(template, context):
    """The PDF's bytes of a template."""
    return pdf_from(render_to_string(template, context))


def pdf_from(html):
    """The PDF's bytes of a page. The library is loaded here since only workers need it."""
    from weasyprint import HTML

    return HTML(string=html, base_url="file:///static/", url_fetcher=_fetcher()).write_pdf()


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
