"""What cannot be done as things stand, and says why."""


class Cannot(Exception):
    """Base of refusals: `says` tells the person why, and what to do instead. Where no view catches one, it becomes a 409 page."""

    def __init__(self, says):
        super().__init__(says)
        self.says = says
