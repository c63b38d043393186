"""The rules and the computation: text → document → site → plan → files → findings.

Nothing here reads a clock, a network, an environment or a file, and nothing here writes one: values come in,
values go out. ``basilica.core.compiled`` runs the arrows one after the other.
"""
