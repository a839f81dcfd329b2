"""Names that meet no other: of what is declared, of what a test holds, and of modules that know one another."""
