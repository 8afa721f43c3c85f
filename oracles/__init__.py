"""What Ebbrin is held against, and what tests and benchmarks start from: independent solvers, checkers, made builds."""
