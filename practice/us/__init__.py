"""What only American returns have: places and state returns, returns apart, extensions, due diligence, other businesses."""
