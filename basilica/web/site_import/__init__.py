"""New sites out of sites that exist."""
