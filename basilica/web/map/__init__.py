"""The Map workspace: write the page map and see it drawn."""
