"""Acts, held to conservation: what goes in comes out kept, changed as asked, or dropped by name."""
