"""The `wired-union` command. The window starts without the command line's libraries."""

import gc
import sys


def main() -> None:
    """Run the command; the plain window and the demo take the short way."""
    gc.disable()  # until the window stands: what a start makes, it keeps
    words = sys.argv[1:]
    if not words or words == ["demo"]:
        from wired_union.app.run import run

        sys.exit(run(demo="mudlark" if words else ""))
    gc.enable()
    from wired_union.cli import app

    app()


if __name__ == "__main__":
    main()
