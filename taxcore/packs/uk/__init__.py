"""The United Kingdom. Each kind of return is a pack of its own: `individual` so far, for the self assessment return.

What is not computed yet stops by its name, or is listed in docs/law-coverage.md.
"""
