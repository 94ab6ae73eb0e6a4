"""What is sent to authorities and what comes back."""
