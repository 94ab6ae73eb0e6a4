"""Commands about clients."""
