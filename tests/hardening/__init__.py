"""What an attack found, and what keeps it out: hostile input, kills, folders that misbehave."""
