"""The track: the steps of a client's return from the first request to delivery, and whose turn it is."""
