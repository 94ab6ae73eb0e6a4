"""Returns and their papers: provenance, history, computation, entry and forms."""
