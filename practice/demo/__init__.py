"""The demo practice: Larkspur Row Tax in Galena, Illinois, with made-up people, employers and numbers that were never issued."""
