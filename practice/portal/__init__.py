"""What the client sees: a summary, a signature, a download."""
