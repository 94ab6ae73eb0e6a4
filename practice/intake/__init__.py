"""What comes in from outside: statements as files, read into papers; pages attached to papers."""
