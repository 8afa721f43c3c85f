"""Fitting: parts, work plan, mix, first run and proofs, and the jobs in which they are kept. No other feature looks in."""
