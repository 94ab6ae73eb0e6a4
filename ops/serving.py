"""Granian with an application that was loaded before its workers are copied from it: loaded once, in memory once, and a
worker that falls over is replaced at once. Takes what Granian takes, the application first."""

import importlib
import sys

from granian.cli import entrypoint

if __name__ == "__main__":
    importlib.import_module(sys.argv[1].partition(":")[0])
    entrypoint()
