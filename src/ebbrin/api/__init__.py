"""HTTP: parse, call one service, answer."""
