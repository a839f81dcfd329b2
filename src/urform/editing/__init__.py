"""What an editor asks of a declaration that is being typed: where things are, what may stand there, what they are called."""
