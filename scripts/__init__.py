"""What makes documents and records out of the code, and what installs and checks."""
