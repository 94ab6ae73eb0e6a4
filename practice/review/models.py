"""This app keeps no rows of its own yet."""
