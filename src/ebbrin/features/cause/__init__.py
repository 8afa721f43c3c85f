"""Finding the cause: what was seen, what it may be, what to look at next, and the cases that are kept of it."""
