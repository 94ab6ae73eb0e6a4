"""What would be wrong with a company's return, what stops it by name, and what is worth a second look."""

CHECKS = ()
