"""What a return says about itself, and what has been done about it."""
