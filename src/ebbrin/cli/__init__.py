"""The command line: evaluate a file, and start and stop Ebbrin on this machine."""
