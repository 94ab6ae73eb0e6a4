"""What American returns of entities share: books by tax lines, balance sheet, cost of goods, rents, division among owners."""
