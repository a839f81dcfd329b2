"""I-Regexp (RFC 9485): reading a pattern, and the automaton that takes the texts it is about."""
