"""The last stage: the real toolchains run the generated tests, and their results are read by claim."""
