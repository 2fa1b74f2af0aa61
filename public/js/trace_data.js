// The samples of a capture as Gadwall::Signals::Waveform#to_bytes packs them, and what of them a drawing so many pixels
// wide needs.

const BLOCK = 32;

// One line of a panel. Least and most of 32 samples, of 32 such blocks and so on are kept, so that a million samples
// are drawn as quickly as a thousand.
export class Series {
  constructor(name, values) {
    this.name = name;
    this.values = values;
    this.levels = null;
  }

  // [least, most] of the samples from a up to, not with, b.
  extent(a, b) {
    this.levels ??= this.#built();
    const found = [Infinity, -Infinity];
    this.#over(0, a, b, found);
    return found;
  }

  #built() {
    const levels = [{ low: this.values, high: this.values }];
    while (levels.at(-1).low.length > BLOCK) {
      const { low, high } = levels.at(-1);
      const size = Math.ceil(low.length / BLOCK);
      const next = { low: new Float32Array(size).fill(Infinity), high: new Float32Array(size).fill(-Infinity) };
      for (let i = 0; i < low.length; i++) {
        const k = (i / BLOCK) | 0;
        if (low[i] < next.low[k]) next.low[k] = low[i];
        if (high[i] > next.high[k]) next.high[k] = high[i];
      }
      levels.push(next);
    }
    return levels;
  }

  // Ends at this level, whole blocks at the next.
  #over(level, a, b, found) {
    const first = Math.ceil(a / BLOCK) * BLOCK;
    const last = Math.floor(b / BLOCK) * BLOCK;
    if (level + 1 >= this.levels.length || last <= first) return this.#plain(level, a, b, found);
    this.#plain(level, a, first, found);
    this.#over(level + 1, first / BLOCK, last / BLOCK, found);
    this.#plain(level, last, b, found);
  }

  #plain(level, a, b, found) {
    const { low, high } = this.levels[level];
    for (let i = a; i < b; i++) {
      if (low[i] < found[0]) found[0] = low[i];
      if (high[i] > found[1]) found[1] = high[i];
    }
  }
}

// Series with the same times.
export class Panel {
  constructor(head, times, series) {
    this.title = head.title;
    this.unit = head.unit;
    this.steps = head.steps;
    this.size = head.samples;
    this.even = head.even;
    this.times = times;
    this.series = series;
  }

  time(i) {
    return this.times ? this.times[i] : this.even[0] + i * this.even[1];
  }

  // The first sample at or after a moment.
  index(time) {
    if (!this.times) return Math.min(Math.max(Math.ceil((time - this.even[0]) / this.even[1] - 1e-6), 0), this.size);
    let low = 0,
      high = this.size;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.times[middle] < time) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  // Value of a series at a moment, between two samples.
  value(series, time) {
    const i = Math.min(Math.max(this.index(time), 1), this.size - 1);
    const [a, b] = [series.values[i - 1], series.values[i]];
    if (this.steps) return this.time(i) > time ? a : b;
    const share = (time - this.time(i - 1)) / (this.time(i) - this.time(i - 1) || 1);
    return a + (b - a) * Math.min(Math.max(share, 0), 1);
  }

  // [times, values of each series] between two moments: every sample where there is room, else least and most by pixel.
  window(from, to, pixels) {
    const a = Math.max(this.index(from) - 1, 0);
    const b = Math.min(this.index(to) + 1, this.size);
    return b - a <= pixels * 3 ? this.#samples(a, b) : this.#thinned(a, b, pixels);
  }

  #samples(a, b) {
    const times = new Float64Array(b - a);
    for (let i = a; i < b; i++) times[i - a] = this.time(i);
    return [times, ...this.series.map((each) => each.values.subarray(a, b))];
  }

  #thinned(a, b, pixels) {
    const times = new Float64Array(pixels * 2);
    const lines = this.series.map(() => new Float32Array(pixels * 2));
    for (let k = 0; k < pixels; k++) {
      const i = a + Math.floor(((b - a) * k) / pixels);
      const j = Math.max(a + Math.floor(((b - a) * (k + 1)) / pixels), i + 1);
      times[2 * k] = this.time(i);
      times[2 * k + 1] = this.time((i + j) >> 1);
      this.series.forEach((each, s) => {
        [lines[s][2 * k], lines[s][2 * k + 1]] = each.extent(i, j);
      });
    }
    return [times, ...lines];
  }

  // [least, most] of everything in it.
  extent() {
    const all = this.series.map((each) => each.extent(0, this.size));
    return [Math.min(...all.map((each) => each[0])), Math.max(...all.map((each) => each[1]))];
  }
}

export function parse(buffer) {
  const end = new Uint8Array(buffer).indexOf(10);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 0, end)));
  let at = end + 1;
  const take = (Kind, size) => {
    const part = new Kind(buffer, at, size);
    at += Math.ceil(part.byteLength / 8) * 8;
    return part;
  };
  return head.panels.map((each) => {
    const times = each.even ? null : take(Float64Array, each.samples);
    return new Panel(
      each,
      times,
      each.series.map((name) => new Series(name, take(Float32Array, each.samples))),
    );
  });
}
