"""Pages for tests."""


def text_pdf(words):
    """A page with words in it."""
    stream = b"BT /F1 12 Tf 50 700 Td (%s) Tj ET" % words.encode()
    parts = [
        b"<< /Type /Catalog /Pages 2 0 R >>", b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 612 792] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>",
        b"<< /Length %d >>\nstream\n%s\nendstream" % (len(stream), stream),
        b"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
    ]  # fmt: skip
    body, places = b"%PDF-1.4\n", []
    for number, part in enumerate(parts, 1):
        places.append(len(body))
        body += b"%d 0 obj\n%s\nendobj\n" % (number, part)
    table = b"".join(b"%010d 00000 n \n" % place for place in places)
    end = b"xref\n0 6\n0000000000 65535 f \n" + table + b"trailer << /Size 6 /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF" % len(body)
    return body + end
