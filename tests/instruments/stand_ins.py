"""Small outside devices on this machine for tests: a device that prints lines over a socket."""

import contextlib
import socket
import threading
import time
from collections.abc import Iterable, Iterator

OPENS_S = 0.1
"""pyserial throws away what comes while a line opens, as a real one has nothing to say of before."""


@contextlib.contextmanager
def a_device(lines: Iterable[bytes], pause_s: float = 0.0, *, stays: bool = True) -> Iterator[str]:
    """Its address. It prints the lines to whom comes, then stays silent, or is unplugged."""
    server = socket.create_server(("127.0.0.1", 0))
    over = threading.Event()

    def serve() -> None:
        with contextlib.suppress(OSError):
            caller, _ = server.accept()
            with caller:
                time.sleep(OPENS_S)
                for line in lines:
                    if over.is_set():
                        return
                    caller.sendall(line)
                    time.sleep(pause_s)
                if stays:
                    over.wait(20)

    thread = threading.Thread(target=serve, daemon=True)
    thread.start()
    try:
        yield f"socket://127.0.0.1:{server.getsockname()[1]}"
    finally:
        over.set()
        server.close()
        thread.join(5)
