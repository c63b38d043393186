"""The Map workspace: write the page map, draw it, and know what a change will touch."""
