"""What businesses and rentals own: assets with their depreciation over the years, rents, and losses that wait."""
