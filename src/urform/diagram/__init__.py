"""The structure of a declaration as a picture: what there is, who makes it, what it holds."""
