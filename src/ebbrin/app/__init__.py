"""Ebbrin put together: the web application, the command line, worker and keeper, starting and stopping."""
