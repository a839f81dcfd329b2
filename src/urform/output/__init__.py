"""The fourth stage: files to disk. What a person wrote or edited is never lost."""
