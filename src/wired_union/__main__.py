"""The `wired-union` command. The window starts without the command line's libraries."""

import gc
import os
import sys


def main() -> None:
    """Run the command; the plain window and the demo take the short way.

    Exit status 2 and one line whatever goes wrong, never a traceback; WIRED_UNION_DETAILS=1 shows one.
    """
    gc.disable()  # until the window stands: what a start makes, it keeps
    words = sys.argv[1:]
    try:
        if not words or words == ["demo"]:
            from wired_union.app.run import run

            sys.exit(run(demo="mudlark" if words else ""))
        gc.enable()
        from wired_union.cli.main import app

        app()
    except KeyboardInterrupt:
        sys.exit(130)
    except BrokenPipeError:  # whoever read the output has left
        os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
        sys.exit(2)
    except Exception as error:
        if os.environ.get("WIRED_UNION_DETAILS"):
            raise
        from wired_union.errors import plain_text

        print(f"{plain_text(error)} ({type(error).__name__}; WIRED_UNION_DETAILS=1 shows where)", file=sys.stderr)
        sys.exit(2)


if __name__ == "__main__":
    main()
