"""Who works at a practice: invited, roles, leave, handing over; their own account; a practice that begins."""
