"""The History workspace: every version, what it changed, and the way back to it."""
