"""What web, command line and watching do alike, over core and store."""
