"""What must not stand in a log: a portal link opens a client's return, an invitation a practice."""

import logging
import re

_TOKEN = re.compile(r"(/portal/enter/|/join/|/set-up/|/calendar/)[^/\s?'\"]+")


class NoTokens(logging.Filter):
    """Takes tokens of links out of every message."""

    def filter(self, record):
        text = record.getMessage()
        plain = _TOKEN.sub(r"\1(token)", text)
        if plain != text:
            record.msg, record.args = plain, ()
        return True
