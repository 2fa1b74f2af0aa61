# The steps of a wheel-speed capture with numpy and scipy: read, hum out, teeth by hysteresis, periods against a
# running median, laid round the ring turn after turn, gaps and amplitudes by place. Prints JSON.
import json, sys, time
began = time.perf_counter()
import numpy as np
from scipy import ndimage
loaded = time.perf_counter()

path, teeth = sys.argv[1], int(sys.argv[2])
table = np.loadtxt(path, delimiter=",", skiprows=1)
t, v = table[:, 0] * 1e-3, table[:, 1] * 1e-3
read = time.perf_counter()

for hertz in (50.0, 60.0):
    def line(f):
        return 2 * np.mean((v - v.mean()) * np.exp(-2j * np.pi * f * t))
    own, beside = abs(line(hertz)), max(abs(line(hertz - 3)), abs(line(hertz + 3)))
    power = v.var()
    if own ** 2 / 2 > 0.03 * power and own ** 2 / 2 < 0.6 * power and own ** 2 > 6 * beside ** 2:
        a = line(hertz)
        v = v - (a * np.exp(2j * np.pi * hertz * t)).real

noise = np.median(np.abs(np.diff(v, 2))) / (0.6745 * 6 ** 0.5)
envelope = np.percentile(v, 95) - np.percentile(v, 5)
limit = max(6 * noise, 0.35 * envelope / 2)
state = np.where(v > limit / 2, 1, np.where(v < -limit / 2, -1, 0))
known = np.flatnonzero(state)
signs = state[known]
turns = np.flatnonzero(np.diff(signs))
falling = turns[signs[turns] > 0]
a, b = known[falling], known[falling + 1]
crossings = np.array([i + np.argmax(v[i:j + 1] <= 0) for i, j in zip(a, b)])
k = crossings - 1
times = t[k] + v[k] / (v[k] - v[k + 1]) * (t[k + 1] - t[k])
periods = np.diff(times)
smooth = ndimage.median_filter(periods, 13, mode="nearest")
ratio = periods / smooth
steps = np.where(ratio < 1.75, 1, np.maximum(np.rint(ratio), 1)).astype(int)
position = np.concatenate([[0], np.cumsum(steps)])[:-1]
bounds = np.concatenate([crossings, [len(v)]])
swing = np.array([v[i:j].max() - v[i:j].min() for i, j in zip(bounds[:-2], bounds[1:-1])])
place = position % teeth
missing = [int((p + 1) % teeth) + 1 for p in range(teeth) if (place == p).sum() >= 2 and np.mean(ratio[place == p] >= 1.2) >= 0.6]
amplitude = [float(np.median(swing[place == p])) for p in range(teeth) if (place == p).any()]
done = time.perf_counter()
print(json.dumps({"missing": missing, "teeth": int(len(times)), "amplitudes": len(amplitude), "load_s": loaded - began, "read_s": read - loaded, "steps_s": done - read}))
