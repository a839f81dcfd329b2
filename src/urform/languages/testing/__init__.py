"""What the toolchains share: tests run to the end, and trials that take only what they need."""
