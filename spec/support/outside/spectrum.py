# One channel of a CSV on standard input, by numpy and scipy: spectrum, peaks, lines of the mains. Prints JSON.
import json, sys
import numpy as np
from scipy import signal

t, v = np.loadtxt(sys.stdin, delimiter=",", skiprows=1, unpack=True)
step = (t[-1] - t[0]) / (len(t) - 1)
centred = v - v.mean()

spectrum = np.abs(np.fft.rfft(centred * np.hanning(len(v))))
hertz = np.fft.rfftfreq(len(v), step)
k = int(np.argmax(spectrum))
a, b, c = np.log(spectrum[k - 1:k + 2])                      # a parabola through the tip
top = hertz[k] + 0.5 * (a - c) / (a - 2 * b + c) * hertz[1]

swing = np.percentile(v, 95) - np.percentile(v, 5)
peaks, _ = signal.find_peaks(centred, prominence=0.4 * swing, distance=max(int(0.5 / top / step), 1))
lines = {str(f): float(2 * abs(np.mean(centred * np.exp(-2j * np.pi * f * t)))) for f in (50, 60)}
print(json.dumps({"top_hz": float(top), "bin_hz": float(hertz[1]), "peaks_s": t[peaks].tolist(), "lines": lines}))
