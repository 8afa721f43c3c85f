"""The build as people write it, the answer as people read it, and the only unit conversions in Python."""
