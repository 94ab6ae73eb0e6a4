"""What a client is asked for, what comes of it, letters to sign, messages both ways."""
