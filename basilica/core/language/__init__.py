"""The map language: each of its words declared once, with how its value is read, written, checked and set."""
