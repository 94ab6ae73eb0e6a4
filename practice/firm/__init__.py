"""The firm: people who work here, their roles, the event log, and the rule that every row belongs to a firm."""
