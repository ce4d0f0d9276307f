"""Cablux lays out cabled knitting, computes how far the cables draw in, and sizes the cast-on."""

import os

# Before numpy is loaded: our dense systems are small, and threads of the linear algebra that spin while they wait for
# each other take ten times as long as none on a machine whose processors are busy with something else.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
