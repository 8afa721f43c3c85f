"""A package for each thing that a user asks for: its questions and answers, service, words, routes, commands and tables.

Features see each other only through their doors, the names that ``ebbrin.features.NAME`` exports.
"""
