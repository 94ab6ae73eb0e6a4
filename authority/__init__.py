"""The simulated tax authorities: a process and a database of their own, reached over HTTP only. Knows nothing of the practice."""
