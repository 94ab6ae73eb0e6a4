"""What an owner may deduct of a share's losses: basis (IRC 704(d), 1366(d)) and amounts at risk (IRC 465)."""
