"""What a change of a declaration does to those who use the code that was generated from it."""
