"""Ebbrin sizes the cooling system of a modified or swapped engine."""
