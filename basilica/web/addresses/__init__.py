"""The Addresses workspace: where every page is, and what the addresses of an old site answer."""
