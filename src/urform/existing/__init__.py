"""What exists already, read as products: schemas of records, and types in source code; and the declaration drafted from it.

Readers give what they found as plain data (`found.py`), whatever it was found in; `drafting.py` makes a draft of it, which
knows what could not be carried over and why; `writing.py` writes the declaration, and `reports.py` what became of each field.
"""
