"""The United Kingdom. Each kind of return is a pack of its own: `individual` so far, for the self assessment return.

Nothing outside of this folder reads it yet: the application takes the pack in when it can be filed, accepted and printed.
"""
