"""Copies of a process that end with it."""

from __future__ import annotations

import ctypes
import os
import signal

PR_SET_PDEATHSIG = 1

_prctl = ctypes.CDLL(None).prctl
_parent = 0


def _remember_parent() -> None:
    global _parent
    _parent = os.getpid()


os.register_at_fork(before=_remember_parent)


def end_with_parent() -> None:
    """End this copy when its parent ends, also if it has ended already."""
    _prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
    if os.getppid() != _parent:  # it ended before the line above: Linux will not report it
        os._exit(1)
