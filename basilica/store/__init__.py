"""Where things are kept: folders on disk, and the application's database."""

DATABASE = "basilica.sqlite"
"""The file of a folder of data in which the database is."""
