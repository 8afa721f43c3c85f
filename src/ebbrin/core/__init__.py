"""The computation: NumPy, SI units, no input or output beyond its own packaged tables.

Everything broadcasts: a candidate axis and a case axis go through in one call.
"""
