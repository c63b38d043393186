"""Serves an application of a host, with a content policy that allows no inline script and no inline style."""

import sys
from wsgiref.simple_server import WSGIRequestHandler, make_server

POLICY = "default-src 'self'; script-src 'self'; style-src 'self'; object-src 'none'; base-uri 'none'"


class Quiet(WSGIRequestHandler):
    """Says nothing of what it was asked."""

    def log_message(self, *_):
        """Nothing."""


def serve(application):
    """Serve it until this process ends; the port is the first line that is printed."""

    def with_policy(environ, start):
        return application(environ, lambda status, headers, *more: start(status, [*headers, HEADER], *more))

    server = make_server("127.0.0.1", 0, with_policy, handler_class=Quiet)
    print(server.server_port, flush=True)
    server.serve_forever()


HEADER = ("Content-Security-Policy", POLICY)
if __name__ == "__main__":
    sys.exit("It is imported by a host.")
