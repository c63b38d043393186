"""The Parts workspace: what pages share, layouts and files."""
