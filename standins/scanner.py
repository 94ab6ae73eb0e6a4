"""A virus scanner with the interface of clamd: `zINSTREAM` with chunks, each behind its length in four bytes, an empty one at the
end; `zPING`. It knows one signature, that of the harmless test file of EICAR."""

import socketserver
import struct

_KNOWN = b"EICAR-STANDARD-" + b"ANTIVIRUS-TEST-FILE"
_LARGEST = 50_000_000  # bytes of one stream


class _Handler(socketserver.StreamRequestHandler):
    timeout = 60

    def handle(self):
        command = self._until_zero()
        if command == b"zPING":
            self.wfile.write(b"PONG\0")
        elif command == b"zINSTREAM":
            content = self._stream()
            if content is None:
                self.wfile.write(b"INSTREAM size limit exceeded. ERROR\0")
            else:
                found = _KNOWN in content
                self.wfile.write(b"stream: Eicar-Test-Signature FOUND\0" if found else b"stream: OK\0")
        else:
            self.wfile.write(b"UNKNOWN COMMAND\0")

    def _until_zero(self):
        read = b""
        while len(read) < 32 and (one := self.rfile.read(1)) not in (b"", b"\0"):
            read += one
        return read

    def _stream(self):
        """All chunks together; None where they are more than is taken."""
        content = bytearray()
        while True:
            (length,) = struct.unpack(">I", self.rfile.read(4))
            if length == 0:
                return bytes(content)
            if len(content) + length > _LARGEST:
                return None
            content += self.rfile.read(length)


class Scanner(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, port: int):
        super().__init__(("127.0.0.1", port), _Handler)
