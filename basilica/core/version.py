"""Which Basilica this is."""

VERSION = "0.2.0"
