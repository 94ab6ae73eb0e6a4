"""Errors for the person at the terminal: what happened, and the command that mends it."""


class Trouble(Exception):
    """Stops the command with exit code 3 and two lines on standard error."""

    def __init__(self, happened: str, mend: str):
        super().__init__(happened)
        self.happened, self.mend = happened, mend
