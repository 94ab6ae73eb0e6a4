"""Values that somebody or some program may send where nobody expects them."""

VALUES = (
    "enc:", "enc:gAAAA", "enc:5", '{"sealed": "x"}', "sealed:", "\0", "a\0b", "²", "٣", "٣٤٥", "½", "Ⅻ", "\ud800", "a\udfffb", "\x1b[31m",
    "\u202e9", "\ufeff", "\u200b", "\ue000", "\U0010ffff", "line\nbreak", "tab\there", "'; drop table x; --", "<script>alert(1)</script>",
    "{{ 7 }}{% if %}", "%s%n", "../../etc/passwd", "=1+1", "-0", "NaN", "Infinity", "-Infinity", "1e400", "1E5", "0x10", "1_000", "--5",
    "((((((((((", "1/0", "0/0", "9" * 400, "1" * 5000, "x" * 10_000, "ß" * 200, "🙂" * 50, "100,00", "12.345", "31/31/2025",
    "2025-02-30", "0000-00-00", "9999-12-31", "null", "undefined", "[]", "{}", "true", "on", "yes", " ", "\t", "\r\n", "é", "O’Brien",
    "2147483648", "99999999999999999999", "-1",
)  # fmt: skip
