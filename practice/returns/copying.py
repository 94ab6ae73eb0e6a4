"""What lies beside papers comes along when a return is copied: who keeps something there is told."""

_WHEN_COPIED = []


def when_copied(function):
    """Who keeps something beside papers: called with the new return and {id of a paper: its copy}."""
    _WHEN_COPIED.append(function)


def tell_copied(return_, copies):
    for told in _WHEN_COPIED:
        told(return_, copies)
