"""Small things that know nothing of sites."""
