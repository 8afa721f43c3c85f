"""Sizing: what the cases ask for, and which parts would do. No other feature looks in."""
