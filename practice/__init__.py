"""The application of a tax practice: Django on PostgreSQL around `taxcore`. See docs/architecture.md."""
