"""Households and the people in them."""
