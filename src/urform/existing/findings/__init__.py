"""What can be found in code that makes things: one module a finding, with its reason, its detector over facts, and an example."""
