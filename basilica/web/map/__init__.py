"""The Map workspace: write the page map, draw it, and know what a change will touch.

``views`` shows it, ``saving`` takes what is typed, ``acting`` does what is drawn, ``looking`` answers questions.
"""
