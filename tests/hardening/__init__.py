"""What an attack found, and what keeps it out: hostile input, kills, folders that misbehave."""

import os

TIMES = int(os.environ.get("BASILICA_HARDEN", "1"))
"""How many times as long `make harden` tries."""
