"""``python -m basilica`` is the command ``basilica``."""

from basilica.cli import main

main(prog_name="basilica")
