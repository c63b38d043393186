"""A small stand-in for a web host, on this machine alone: a folder that is sent to over SFTP and read over HTTP."""

from basilica.services.host.faults import Faults
from basilica.services.host.web_host import Host

__all__ = ["Faults", "Host"]
