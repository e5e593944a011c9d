"""residual.py MIX LAYER…: rms in dBFS, in the worst channel, of what a mix has and its layers have not. Stereo WAV of 24 bit."""
import sys

import numpy as np


def samples(name):
    with open(name, "rb") as file:
        data = file.read()
    at = 12
    while data[at:at + 4] != b"data":
        at += 8 + int.from_bytes(data[at + 4:at + 8], "little")
    size = int.from_bytes(data[at + 4:at + 8], "little")
    triples = np.frombuffer(data, np.uint8, size, at + 8).reshape(-1, 3).astype(np.int32)
    whole = (triples[:, 0] << 8 | triples[:, 1] << 16 | triples[:, 2] << 24) >> 8
    return whole.reshape(-1, 2) / 2**23


left = samples(sys.argv[1]) - sum(samples(name) for name in sys.argv[2:])
print(20 * np.log10(np.sqrt(np.mean(left**2, axis=0)).max()))
