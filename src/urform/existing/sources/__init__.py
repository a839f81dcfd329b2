"""Types in source code: how each language's tree is read into plain facts, and what the facts come to."""
