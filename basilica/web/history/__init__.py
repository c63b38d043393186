"""The History workspace: every kept state, what it changed, and the way back to it."""
