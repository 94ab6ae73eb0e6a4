"""Pages of Review, one module a subject."""
