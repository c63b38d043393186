"""The web application: one folder for each workspace, with its views, templates and forms together."""
