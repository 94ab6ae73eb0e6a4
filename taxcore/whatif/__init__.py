"""Questions about a return that are answered by computing it again with something changed. Pure functions over returns."""
