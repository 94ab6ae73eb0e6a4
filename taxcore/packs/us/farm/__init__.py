"""Farms: Schedule F, what is theirs among assets and sales, and the optional methods of Schedule SE."""
