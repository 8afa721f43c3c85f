"""What every feature shares: errors that render themselves, words with quantities, the database, lanes, files."""
