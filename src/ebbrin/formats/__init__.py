"""Reading and writing open formats."""
