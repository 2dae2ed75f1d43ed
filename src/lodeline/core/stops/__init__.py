"""Stops: the book of places, when they are open and how far, the plan of coming stops, the ticket."""
