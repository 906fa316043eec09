"""Freeze the pictures that the stand-in applications use into `shell/pictures/`.

usage: pictures.py        (run it after giving a command a new picture)
"""

from pathlib import Path

from rimecrest.core.release.pictures import freeze
from rimecrest_standins.grid.grid import declarations as grid
from rimecrest_standins.letters.letters import declarations as letters
from rimecrest_standins.post.post import declarations as post

OUT = Path(__file__).parents[1] / "src/rimecrest/shell/pictures"
SURFACES = ("play-box-outline", "chevron-double-right", "chevron-double-down", "plus", "close", "magnify")


def main() -> None:
    commands = [command for app in (letters, grid, post) for command in app.catalogue().commands]
    names = {command.picture.removeprefix("set:") for command in commands}
    for name in sorted((names | set(SURFACES)) - {""}):
        content = freeze(name)
        if content is None:
            print(f"There is no picture “{name}”.")
        else:
            (OUT / f"{name}.svg").write_bytes(content)


if __name__ == "__main__":
    main()
