"""The version, in a module that costs nothing to import."""

VERSION = "0.1.0"
