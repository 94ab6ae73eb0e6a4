"""The computation. Pure Python: no Django, no database, no clock, no network. See docs/architecture.md."""
