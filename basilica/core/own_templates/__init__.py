"""Own templates in place of the built-in markup: what they may say, what they see, and how they are run."""

from basilica.core.own_templates.template_set import FOLDER, NAMES, TemplateSet, templates_of

__all__ = ["FOLDER", "NAMES", "TemplateSet", "templates_of"]
