"""Where things are kept: folders on disk, and the application's database."""
