// How a capture looks on uPlot's canvas: axes, lines, marks by shape, cursors. Colours are the page's own.

const MOST_SHAPES = 60; // in view; from there on marks are ticks

// Finding => shape; whatever else is a flag with its name.
const SHAPES = {
  missing_teeth: "open",
  wide_gap: "open",
  damaged_tooth: "dot",
  dropouts: "cross",
  extra_edges: "cross",
  wheel_drops_out: "cross",
  wheel_starts_late: "open",
  voltage_dip: "dot",
  switch_drops_out: "cross",
  pump_runs: "up",
  pump_rests: "down",
};
const DASHES = [[], [10, 5], [3, 4], [12, 4, 3, 4]];

function colour(name) {
  return getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
}

function lineColours() {
  return [colour("ink"), colour("accent"), colour("sound"), colour("warn")];
}

// options: first, last: of the panels; width; draw: called with the plot when its lines stand.
export function plotOptions(panel, { first, last, width, draw }) {
  const axis = {
    stroke: colour("quiet"),
    grid: { stroke: colour("hair"), width: 1 },
    ticks: { stroke: colour("rule"), width: 1 },
    font: '14px "Reader", sans-serif',
  };
  const colours = lineColours();
  const paths = panel.steps ? uPlot.paths.stepped({ align: 1 }) : uPlot.paths.linear();
  return {
    width,
    height: (first ? 236 : 128) + (last ? 26 : 0),
    padding: [14, 8, 0, 0],
    cursor: { show: false },
    legend: { show: false },
    select: { show: false },
    scales: { x: { time: false }, y: { auto: false } },
    axes: [
      { ...axis, show: last, size: 34, values: (u, marks) => marks.map((mark) => `${Number(mark.toPrecision(7))} s`) },
      { ...axis, size: 62 },
    ],
    series: [
      {},
      ...panel.series.map((each, i) => ({
        label: each.name,
        stroke: colours[i % 4],
        dash: DASHES[i % 4],
        width: 1.6,
        points: { show: false },
        paths,
      })),
    ],
    hooks: { draw: [draw, (u) => nameLines(u, panel, colours)] },
  };
}

// Title and lines by name, in the panel's corner, each with its own stroke.
function nameLines(u, panel, colours) {
  const { ctx } = u,
    ratio = uPlot.pxRatio;
  ctx.save();
  ctx.font = `600 ${14 * ratio}px "Reader", sans-serif`;
  ctx.textBaseline = "top";
  ctx.textAlign = "left";
  const named = panel.series.length > 1;
  let x = u.bbox.left + 8 * ratio;
  const y = u.bbox.top + 3 * ratio;
  const write = (text, ink) => {
    ctx.lineWidth = 5 * ratio;
    ctx.strokeStyle = colour("sheet");
    ctx.strokeText(text, x, y);
    ctx.fillStyle = ink;
    ctx.fillText(text, x, y);
    x += ctx.measureText(text).width + 12 * ratio;
  };
  write(panel.unit && !panel.title.endsWith(panel.unit) ? `${panel.title}, ${panel.unit}` : panel.title, colour("ink"));
  if (named)
    panel.series.forEach((each, i) => {
      ctx.lineWidth = 2.5 * ratio;
      ctx.strokeStyle = colours[i % 4];
      ctx.setLineDash(DASHES[i % 4].map((part) => part * ratio));
      ctx.beginPath();
      ctx.moveTo(x, y + 9 * ratio);
      ctx.lineTo(x + 34 * ratio, y + 9 * ratio);
      ctx.stroke();
      ctx.setLineDash([]);
      x += 40 * ratio;
      write(each.name, colours[i % 4]);
    });
  ctx.restore();
}

export function drawCursor(u, at, name, active) {
  const { ctx, bbox } = u,
    ratio = uPlot.pxRatio;
  const x = u.valToPos(at, "x", true);
  if (x < bbox.left - 1 || x > bbox.left + bbox.width + 1) return;
  ctx.save();
  ctx.strokeStyle = colour("accent");
  ctx.lineWidth = (active ? 2.5 : 1.5) * ratio;
  ctx.setLineDash(name === "B" ? [7 * ratio, 4 * ratio] : []);
  ctx.beginPath();
  ctx.moveTo(x, bbox.top);
  ctx.lineTo(x, bbox.top + bbox.height);
  ctx.stroke();
  ctx.setLineDash([]);
  const side = name === "A" ? -1 : 1,
    size = 20 * ratio; // A's flag hangs to the left, B's to the right
  ctx.fillStyle = active ? colour("accent") : colour("sheet");
  const left = side < 0 ? x - size : x,
    top = bbox.top + bbox.height - size;
  ctx.fillRect(left, top, size, size);
  ctx.strokeRect(left, top, size, size);
  ctx.fillStyle = active ? colour("accent-ink") : colour("accent");
  ctx.font = `700 ${14 * ratio}px "Reader", sans-serif`;
  ctx.textAlign = "center";
  ctx.textBaseline = "middle";
  ctx.fillText(name, left + size / 2, top + size / 2);
  ctx.restore();
}

export function drawMarks(u, marks) {
  const { ctx, bbox } = u,
    ratio = uPlot.pxRatio;
  const crowded = marks.length > MOST_SHAPES;
  ctx.save();
  ctx.strokeStyle = ctx.fillStyle = colour("accent");
  for (const mark of marks) {
    const x = u.valToPos(mark.at, "x", true),
      top = bbox.top;
    ctx.lineWidth = 1 * ratio;
    ctx.setLineDash([2 * ratio, 4 * ratio]);
    ctx.beginPath();
    ctx.moveTo(x, top);
    ctx.lineTo(x, top + (crowded ? 10 * ratio : bbox.height));
    ctx.stroke();
    ctx.setLineDash([]);
    if (!crowded) shape(ctx, SHAPES[mark.kind], x, top - 6 * ratio, 6 * ratio, mark.kind);
  }
  ctx.restore();
}

function shape(ctx, kind, x, y, r, name) {
  ctx.lineWidth = r / 3;
  ctx.beginPath();
  if (kind === "open") {
    ctx.arc(x, y, r * 0.8, 0, 2 * Math.PI);
    ctx.stroke();
  } else if (kind === "dot") {
    ctx.arc(x, y, r * 0.7, 0, 2 * Math.PI);
    ctx.fill();
  } else if (kind === "cross") {
    ctx.moveTo(x - r, y - r);
    ctx.lineTo(x + r, y + r);
    ctx.moveTo(x + r, y - r);
    ctx.lineTo(x - r, y + r);
    ctx.stroke();
  } else if (kind === "up" || kind === "down") {
    const tip = kind === "up" ? -r : r;
    ctx.moveTo(x - r, y - tip / 2);
    ctx.lineTo(x + r, y - tip / 2);
    ctx.lineTo(x, y + tip);
    ctx.fill();
  } else {
    ctx.font = `600 ${r * 2.1}px "Reader", sans-serif`;
    ctx.textAlign = "left";
    ctx.textBaseline = "bottom";
    ctx.fillText(name.replaceAll("_", " "), x, y + r * 1.4);
  }
}
