"""Curves: what stands beside the fields of a station. No other feature looks in."""
