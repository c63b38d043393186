"""The generated pages, held against everything: `make judge`. Nothing of it ships, and no test waits for it."""
