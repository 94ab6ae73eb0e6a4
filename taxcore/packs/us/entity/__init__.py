"""What American returns of entities share: their books by tax lines, balance sheet, cost of goods, rents, and division among owners."""
