"""Sentences and reasons, built once as text with typed quantities, for page and command line alike."""
