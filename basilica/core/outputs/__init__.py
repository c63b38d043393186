"""Plan and content → files. One module or package for each output format."""
