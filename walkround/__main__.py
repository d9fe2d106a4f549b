"""``python -m walkround``."""

from walkround.cli import cli

if __name__ == "__main__":
    cli()
