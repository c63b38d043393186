"""The Preview workspace: the generated pages, at several widths, to click through."""
