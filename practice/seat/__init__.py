"""The pages of one return where it is entered, looked into and exported; what other rooms put beside it comes together here."""
