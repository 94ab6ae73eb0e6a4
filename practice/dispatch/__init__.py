"""What is sent to authorities and what they answer."""
