"""The finished package that the client gets."""
