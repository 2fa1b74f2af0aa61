// Figures as the server writes them: few digits, SI prefixes.

const PREFIXES = [
  [1e6, "M"],
  [1e3, "k"],
  [1, ""],
  [1e-3, "m"],
  [1e-6, "µ"],
];

// A number with so many digits that count, without an exponent.
export function figure(value, digits) {
  return value === 0 || !Number.isFinite(value) ? String(value) : String(Number(value.toPrecision(digits)));
}

// "14.46 ms", "345.9 Hz".
export function si(value, unit, digits = 4) {
  if (!["V", "A", "s", "Hz"].includes(unit)) return `${figure(value, digits)} ${unit}`.trim();
  const [scale, prefix] = PREFIXES.find(([each]) => Math.abs(value) >= each) ?? PREFIXES.at(-1);
  return value === 0 ? `0 ${unit}` : `${figure(value / scale, digits)} ${prefix}${unit}`;
}
