"""What pages of all rooms share: lists and their files, days of a timeline, recent places, printing."""
