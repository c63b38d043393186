"""The list of sites, new ones, and one site at a glance."""
