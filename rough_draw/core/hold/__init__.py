"""The hold test read: competing causes weighed, a verdict with odds, when it is firm, where to look."""
