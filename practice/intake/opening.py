"""Opening what people bring, in a process of its own (forking.py makes it, confined.py asks for it).

A file may be made to hurt whoever opens it. The process holds no secret, no connection and no lock, limits its own memory and
time, and may die: the one that asked says so.
"""

import csv
import importlib
import io
import json
import re
import resource
import zipfile
from datetime import date, datetime
from decimal import Decimal
from pathlib import Path

MOST_ROWS = 20_000
MOST_COLUMNS = 60
MOST_CELLS = 1_300_000
MOST_UNPACKED = 150_000_000  # bytes of an XLSX once unpacked
MOST_DOCUMENTS = 3_000
MOST_PAGES = 200
MOST_PIXELS = 60_000_000  # of a picture that is brought
DRAWN_PIXELS = 5_000_000  # of a page as it is drawn
PICTURES = {"PNG": "png", "JPEG": "jpeg"}


class Refused(Exception):
    """The file is not taken; the sentence is for the person who brought it."""


def sheet(content, form, most=MOST_CELLS):
    """{"heads", "rows"} of a CSV or XLSX file as text, the first row being headings."""
    rows = []
    cells = 0
    for row in _of_workbook(content) if form == "xlsx" else _of_text(content):
        row = row[:MOST_COLUMNS]
        while row and not row[-1].strip():
            row.pop()
        cells += len(row)
        if cells > most:
            raise Refused(f"The file has more than {most:,} cells. Split it.")
        if any(cell.strip() for cell in row):
            rows.append(row)
        if len(rows) - 1 > MOST_ROWS:
            raise Refused(f"The file has more than {MOST_ROWS:,} rows, which is what can be read at once. Split it.")
    if len(rows) < 2:
        raise Refused("The file has no row below its headings.")
    width = max(len(row) for row in rows)
    even = [[*row, *[""] * width][:width] for row in rows]
    heads = [head.strip() or f"Column {place}" for place, head in enumerate(even[0], start=1)]
    return {"heads": heads, "rows": even[1:]}


def is_tagged(content):
    """Whether a file looks like a page with inline XBRL tags."""
    return (
        content[:1000].lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"<" and b"http://www.xbrl.org/2013/inlineXBRL" in content[:100_000]
    )


_INLINE = "{http://www.xbrl.org/2013/inlineXBRL}"
_INSTANCE = "{http://www.xbrl.org/2003/instance}"


def tagged(content, pack, ends):
    """{"heads", "rows"} of a page with inline XBRL tags, as the pack reads its facts for the period that ends on a day."""
    from taxcore.packs import pack_named

    page = _tagged_page(content)
    contexts = {one.get("id"): _context(one) for one in page.iter(f"{_INSTANCE}context")}
    facts = [_fact(one, contexts) for one in page.iter(f"{_INLINE}nonFraction")]
    read = pack_named(pack).reads_tagged
    rows = read([one for one in facts if one], ends) if read else []
    if not rows:
        raise Refused("The file has no tagged amounts that this return can take.")
    return {"heads": ["Account", "Heading", "Debit", "Credit"], "rows": [list(row) for row in rows]}


def _tagged_page(content):
    from lxml import etree

    try:
        return etree.fromstring(content, etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False))
    except etree.XMLSyntaxError:
        raise Refused("The file is no XHTML page with tags (inline XBRL).") from None


def paged(content):
    """The PDF of a tagged page. Nothing that it names is fetched but what is inside it."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    page = _tagged_page(content)
    for hidden in list(page.iter(f"{_INLINE}header")):
        hidden.getparent().remove(hidden)  # for programs

    class _Nothing(URLFetcher):
        def fetch(self, url, headers=None):
            if url.startswith("data:"):
                return super().fetch(url, headers)
            raise ValueError("not inside the page")

    from lxml import etree

    made = etree.tostring(page, method="html", encoding="unicode")
    return HTML(string=made, base_url=None, url_fetcher=_Nothing(allowed_protocols=("data",))).write_pdf()


def _context(element):
    """(last day, a member of a dimension or nothing)."""
    day = next((one.text for one in element.iter(f"{_INSTANCE}endDate", f"{_INSTANCE}instant")), "")
    member = next((one.text for one in element.iter("{http://xbrl.org/2006/xbrldi}explicitMember")), "")
    return (day or "").strip()[:10], (member or "").strip()


def _fact(element, contexts):
    """(concept without its prefix, amount, last day, member); nothing where it is no number."""
    text = re.sub(r"[\s,]", "", "".join(element.itertext()))
    amount = "0" if text in ("", "-", "–", "—") else text
    if not re.fullmatch(r"\d+(\.\d+)?", amount):
        return None
    value = Decimal(amount).scaleb(int(element.get("scale") or 0)) * (-1 if element.get("sign") == "-" else 1)
    return (element.get("name", "").rpartition(":")[2], f"{value:f}", *contexts.get(element.get("contextRef"), ("", "")))


def _of_text(content):
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = content.decode("cp1252", "replace")
    if "\0" in text:
        raise Refused("This is not a text file. Save it as CSV or XLSX first.")
    try:
        dialect = csv.Sniffer().sniff(text[:8000], delimiters=",;\t|")
    except csv.Error:
        dialect = csv.excel
    try:
        yield from csv.reader(io.StringIO(text), dialect)
    except csv.Error as error:
        raise Refused(f"The file cannot be read as CSV: {error}.") from None


def _of_workbook(content):
    from openpyxl import load_workbook

    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            unpacked = sum(entry.file_size for entry in packed.infolist())
            documents = any(b"<!DOCTYPE" in packed.open(entry).read(4000) for entry in packed.infolist()[:200])
        if unpacked > MOST_UNPACKED:
            raise Refused(f"The workbook unpacks to {unpacked / 1e6:,.0f} MB; {MOST_UNPACKED / 1e6:,.0f} can be read at once.")
        if documents:
            raise Refused("The workbook declares XML entities. Save it again.")
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        for row in book.worksheets[0].iter_rows(values_only=True, max_col=MOST_COLUMNS):
            yield [_cell_text(cell) for cell in row]
    except Refused:
        raise
    except Exception:  # the library raises many kinds for files that are not well made
        raise Refused("The file cannot be opened as a workbook (XLSX).") from None


def _cell_text(value):
    if isinstance(value, datetime | date):
        return value.strftime("%Y-%m-%d")
    if isinstance(value, float):
        return str(Decimal(str(value)))
    return "" if value is None else str(value)


def documents(content, form):
    """[[name, document]] of returns in the open format: one JSON file, or a ZIP of them. A document that is no JSON is None."""
    if form == "json":
        return [["", _parsed(content)]]
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            entries = [one for one in packed.infolist() if not one.is_dir() and one.filename.lower().endswith(".json")]
            if len(entries) > MOST_DOCUMENTS:
                raise Refused(f"The ZIP holds {len(entries):,} returns; {MOST_DOCUMENTS:,} can be read at once.")
            if sum(one.file_size for one in entries) > MOST_UNPACKED:
                raise Refused("The ZIP unpacks to more than can be read at once. Split it.")
            return [[one.filename.rsplit("/", 1)[-1][:80], _parsed(packed.read(one))] for one in entries]
    except (zipfile.BadZipFile, OSError, RuntimeError, NotImplementedError, ValueError):
        raise Refused("The file cannot be opened as a ZIP.") from None


def _parsed(content):
    try:
        return json.loads(content)
    except (ValueError, RecursionError):
        return None


def look_into(content):
    """[kind, pages] of a page file by what it contains."""
    if content[:5] == b"%PDF-":
        return ["pdf", _pages_of(content)]
    if is_tagged(content):
        if next(_tagged_page(content).iter(f"{_INLINE}nonFraction"), None) is None:
            raise Refused("The page has no tagged amounts.")
        return ["xbrl", 1]
    from PIL import Image, UnidentifiedImageError

    try:
        with Image.open(io.BytesIO(content), formats=list(PICTURES)) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise Refused("The picture is larger than any page that is scanned.")
            picture.load()
            return [PICTURES[picture.format], 1]
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        raise Refused("Attach a PDF, PNG or JPEG; this file is none of them, or is damaged.") from None


def _pages_of(content):
    import pypdfium2

    try:
        document = pypdfium2.PdfDocument(content)
        pages = len(document)
        document.close()
    except pypdfium2.PdfiumError:
        raise Refused("The PDF cannot be opened: it is damaged or asks for a password.") from None
    if not 0 < pages <= MOST_PAGES:
        raise Refused(f"The PDF has {pages} pages; up to {MOST_PAGES} can be attached at once.")
    return pages


def picture(content, kind, page, turn):
    """A page as PNG, upright as it was turned, about 1,400 pixels wide and never more than five million pixels."""
    drawn = _drawn_pdf(content, page) if kind == "pdf" else _drawn_picture(content)
    made = io.BytesIO()
    drawn.rotate(-turn, expand=True).save(made, "PNG")
    return made.getvalue()


def _drawn_pdf(content, page):
    import pypdfium2

    document = pypdfium2.PdfDocument(content)
    one = document[page - 1]
    width, height = max(one.get_width(), 1), max(one.get_height(), 1)
    return one.render(scale=min(1400 / width, 4, (DRAWN_PIXELS / (width * height)) ** 0.5)).to_pil()


def _drawn_picture(content):
    from PIL import Image, ImageOps

    drawn = ImageOps.exif_transpose(Image.open(io.BytesIO(content))).convert("RGB")
    drawn.thumbnail((1400, 2800))
    return drawn


def put_together(content, files, pages):
    """A PDF of chosen pages. `files` are [length, kind] of the files that lie behind each other in `content`; `pages` are [place
    of its file, number from 1, degrees that it is turned] in the order wanted."""
    from pypdf import PdfReader, PdfWriter
    from pypdf.errors import PyPdfError

    read, at, writer = [], 0, PdfWriter()
    try:
        for length, kind in files:
            read.append(PdfReader(io.BytesIO(_as_pdf(content[at : at + length], kind))))
            at += length
        for place, number, turn in pages:
            if not 1 <= number <= len(read[place].pages):
                raise Refused(f"There is no page {number}.")
            writer.add_page(read[place].pages[number - 1]).rotate(turn)
        made = io.BytesIO()
        writer.write(made)
    except (PyPdfError, OSError, ValueError, KeyError, TypeError, IndexError, RecursionError):
        raise Refused("One of these files cannot be taken apart: it is damaged or asks for a password.") from None
    return made.getvalue()


def _as_pdf(content, kind):
    if kind == "pdf":
        return content
    from PIL import Image, ImageOps

    made = io.BytesIO()
    with Image.open(io.BytesIO(content), formats=list(PICTURES)) as opened:
        ImageOps.exif_transpose(opened).convert("RGB").save(made, "PDF", resolution=150)
    return made.getvalue()


MOST_FILES = 20  # of one mail


def mail(content):
    """{"to", "sender", "subject", "files": [[name, base64]]} of a mail as it was received."""
    import base64
    import email
    import email.policy
    import email.utils

    parsed = email.message_from_bytes(content, policy=email.policy.default)
    files = []
    for part in parsed.walk():
        if part.is_multipart() or part.get_content_maintype() == "text":
            continue
        body = part.get_payload(decode=True) or b""
        files.append([(part.get_filename() or "attachment")[:160], base64.b64encode(body).decode()])
        if len(files) >= MOST_FILES:
            break
    to = [address for _, address in email.utils.getaddresses([str(one) for one in parsed.get_all("to", [])])]
    sender = email.utils.parseaddr(str(parsed.get("from", "")))[1]
    return {"to": to, "sender": sender[:254], "subject": str(parsed.get("subject", ""))[:200], "files": files}


def text_of(content):
    """The words of a PDF's first pages, as far as it has any: a scan has none."""
    import pypdfium2

    document = pypdfium2.PdfDocument(content)
    return "\n".join(document[at].get_textpage().get_text_range() for at in range(min(len(document), 20)))[:200_000]


def words_in(content):
    """The words of a page that is only a picture, as Debian's tesseract reads them."""
    import subprocess

    command = ["/usr/bin/tesseract", "stdin", "stdout", "--psm", "6", "-l", "eng"]
    done = subprocess.run(command, input=content, capture_output=True, check=False)  # noqa: S603 - a fixed command
    if done.returncode:
        raise Refused("The words of this page could not be read.")
    return done.stdout.decode("utf-8", "replace")[:200_000]


def ofx(content, pack):
    """[[kind, values]] of the tax statements in an OFX file that there is a paper for."""
    from taxcore.packs import pack_named

    statements = [one for answer in _ofx_tree(content).iter("TAX1099RS") for one in answer]
    read = pack_named(pack).ofx
    found = [made for made in map(read, statements) if made] if read else []
    if not found:
        raise Refused("The file has no tax form that can be imported. OFX bank or card transactions are not read.")
    return found


def _ofx_tree(content):
    """The elements of an OFX file. Version 2 is XML; in version 1 an element that holds text need not be closed: it is here."""
    from lxml import etree

    try:
        text = content.decode()
    except UnicodeDecodeError:
        text = content.decode("cp1252", "replace")
    _, begin, body = text.partition("<OFX>")
    body = _UNESCAPED.sub("&amp;", _UNCLOSED.sub(r"<\1>\2</\1>", body).replace("&nbsp;", " "))
    try:
        return etree.fromstring(begin + body, etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False))
    except etree.XMLSyntaxError as error:
        raise Refused(f"The file cannot be read as OFX: {error}"[:200]) from None


_UNCLOSED = re.compile(r"<([A-Z0-9._]+)>([^<]*[^<\s][^<]*)(?:</\1>)?")
_UNESCAPED = re.compile(r"&(?!(?:amp|lt|gt|quot|apos|#\d+);)")

DOES = {
    "sheet": sheet,
    "look_into": look_into,
    "picture": picture,
    "paged": paged,
    "put_together": put_together,
    "mail": mail,
    "text_of": text_of,
    "words_in": words_in,
    "ofx": ofx,
    "tagged": tagged,
    "documents": documents,
}
_PICTURE = ["PIL.ImageOps", *(f"PIL.{name}ImagePlugin" for name in ("Png", "Jpeg", "Pdf"))]
_PDF = ["pypdfium2"]
_NEEDS = {
    "sheet": {"xlsx": ["openpyxl"]},
    "look_into": [*_PDF, *_PICTURE],
    "picture": {"pdf": [*_PDF, *_PICTURE], "png": _PICTURE, "jpeg": _PICTURE},
    "paged": ["weasyprint"],
    "put_together": ["pypdf", "pypdf.filters", *_PICTURE],
    "mail": ["email.parser", "email.policy", "email.utils"],
    "text_of": _PDF,
    "words_in": ["subprocess"],
    "ofx": ["lxml.etree"],
    "tagged": ["lxml.etree"],
}


def make_ready(do, form="", kind="", pack="", **_):
    """Import what `do` needs, which a copy of this process then has already."""
    from taxcore.packs import pack_named

    needs = _NEEDS.get(do, [])
    for name in needs if isinstance(needs, list) else needs.get(form or kind, []):
        importlib.import_module(name)
    if pack:
        pack_named(pack)


def _limit(megabytes, seconds):
    """`megabytes` on top of what is loaded: libraries that other files needed leave this one no less."""
    loaded = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (loaded + megabytes * 1_000_000,) * 2)
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def answered(file, do, megabytes, seconds, **arguments):
    """(0, bytes of a picture or a PDF, or JSON), or (3, a sentence in JSON) where the file is refused. From here on this process
    has its limits."""
    _limit(megabytes, seconds)
    try:
        answer = DOES[do](file.read(), **arguments)
    except Refused as refused:
        return 3, json.dumps(str(refused)).encode()
    return 0, answer if isinstance(answer, bytes) else json.dumps(answer).encode()
