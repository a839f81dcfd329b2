"""Urform."""
