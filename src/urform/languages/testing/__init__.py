"""Shared by toolchains: tests run to the end, and trials that take only what they need."""
