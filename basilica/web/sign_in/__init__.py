"""Signing in, where others than the person at this machine can reach the application."""
