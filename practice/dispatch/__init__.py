"""What is sent to authorities and what is refunded."""
