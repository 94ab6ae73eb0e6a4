"""Locked figures and the signatures under them."""
