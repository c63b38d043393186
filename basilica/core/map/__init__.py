"""The page map: its text as a document, the words of its language, and the site that it says."""
