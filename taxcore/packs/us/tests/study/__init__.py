"""Twenty-five returns that are right, and sixty slips made in them one at a time: what do the diagnostics say?"""
