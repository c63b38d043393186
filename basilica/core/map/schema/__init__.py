"""The words of the map language, from which reading, completion, the reference and the JSON Schema are made."""
