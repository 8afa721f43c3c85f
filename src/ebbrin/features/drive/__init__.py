"""Drives: a build over time, with whatever breaks on the way. No other feature looks in."""
