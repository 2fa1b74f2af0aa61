// The viewer of a capture: panels one above the other over the same times, two cursors, and marks where findings show.
// The drawing is uPlot's; this file moves the window and the cursors, by keys, buttons, mouse and touch.
import { parse } from "./trace_data.js";
import { drawCursor, drawMarks, plotOptions } from "./capture_drawing.js";
import { figure, si } from "./figures.js";

const LEAST_SAMPLES = 8; // in view
const NEAR_PX = 22; // of a cursor: it is taken in hand
const SLACK_PX = 4; // a press that moves less is a tap

class Viewer {
  constructor(root) {
    this.root = root;
    this.hands = root.querySelector("[data-plots]");
    this.marks = JSON.parse(root.dataset.marks)
      .flatMap((each) => each.at_s.map((at) => ({ kind: each.kind, at })))
      .sort((a, b) => a.at - b.at);
    this.pointers = new Map();
    this.active = "a";
    this.fit = false;
  }

  async open() {
    const answer = await fetch(this.root.dataset.trace);
    if (!answer.ok) throw new Error(`samples could not be loaded (${answer.status})`);
    this.panels = parse(await answer.arrayBuffer());
    this.teeth = this.panels.find((panel) => panel.title === "Speed of the wheel");
    this.whole = [
      Math.min(...this.panels.map((panel) => panel.time(0))),
      Math.max(...this.panels.map((panel) => panel.time(panel.size - 1))),
    ];
    [this.from, this.to] = this.whole;
    this.place();
    this.build();
    this.listen();
    this.root.dataset.ready = "yes";
  }

  // The cursors stand about the first mark, or about a tooth in the middle: the read-out says something at once.
  place() {
    const at = this.marks.length ? this.marks[0].at : (this.from + this.to) / 2;
    this.a = this.tooth(at, -1) ?? at;
    this.b = this.tooth(this.a + 1e-9, 1) ?? Math.min(at + (this.to - this.from) / 20, this.to);
    this.root.querySelectorAll("[data-do=tooth], [data-do=tooth-before]").forEach((button) => {
      button.hidden = !this.teeth;
    });
  }

  build() {
    this.hands.replaceChildren();
    this.plots = this.panels.map((panel, i) => {
      const box = document.createElement("div");
      box.className = "viewer-panel";
      this.hands.append(box);
      const plot = new uPlot(
        plotOptions(panel, {
          first: i === 0,
          last: i === this.panels.length - 1,
          width: this.width(),
          draw: (u) => this.draw(u),
        }),
        panel.window(...this.whole, this.width()),
        box,
      );
      this.touch(plot.over);
      return plot;
    });
    this.refresh();
  }

  width() {
    return Math.max(this.hands.clientWidth, 280);
  }

  draw(u) {
    drawMarks(
      u,
      this.marks.filter((mark) => mark.at >= this.from && mark.at <= this.to),
    );
    drawCursor(u, this.a, "A", this.active === "a");
    drawCursor(u, this.b, "B", this.active === "b");
  }

  refresh() {
    this.due ??= requestAnimationFrame(() => {
      this.due = null;
      this.panels.forEach((panel, i) => this.redraw(panel, this.plots[i]));
      this.tell();
    });
  }

  redraw(panel, plot) {
    const data = panel.window(this.from, this.to, Math.round(this.width()));
    plot.batch(() => {
      plot.setData(data, false);
      plot.setScale("x", { min: this.from, max: this.to });
      plot.setScale("y", this.fit ? spread(extentOf(data)) : (panel.room ??= spread(panel.extent())));
    });
  }

  // -- where to look

  look(from, to) {
    const least =
      (LEAST_SAMPLES * (this.panels[0].time(this.panels[0].size - 1) - this.panels[0].time(0))) / this.panels[0].size;
    const [first, last] = this.whole;
    const span = Math.min(Math.max(to - from, least), last - first);
    const middle = (from + to) / 2;
    this.from = Math.min(Math.max(middle - span / 2, first), last - span);
    this.to = this.from + span;
    this.refresh();
  }

  zoom(by, about = this.focus()) {
    this.look(about - (about - this.from) * by, about + (this.to - about) * by);
  }

  pan(share) {
    const way = (this.to - this.from) * share;
    const kept = Math.min(Math.max(way, this.whole[0] - this.from), this.whole[1] - this.to);
    this.look(this.from + kept, this.to + kept);
  }

  // The active cursor where it is in view, else the middle.
  focus() {
    const at = this[this.active];
    return at >= this.from && at <= this.to ? at : (this.from + this.to) / 2;
  }

  // To a mark, with a few teeth on either side, and the cursors about it.
  show(mark) {
    const before = this.tooth(mark.at, -1),
      after = this.tooth(mark.at, 1);
    const span =
      before && after ? (after - before) * 12 : Math.min((this.whole[1] - this.whole[0]) / 10, this.to - this.from);
    if (before && after) [this.a, this.b] = [before, after];
    else this.a = mark.at;
    this.here = mark;
    this.look(mark.at - span / 2, mark.at + span / 2);
  }

  nextMark(way) {
    const from = this.here?.at ?? this.focus();
    const later =
      way > 0 ? this.marks.find((mark) => mark.at > from + 1e-9) : this.marks.findLast((mark) => mark.at < from - 1e-9);
    const mark = later ?? (way > 0 ? this.marks[0] : this.marks.at(-1));
    if (mark) this.show(mark);
  }

  // The tooth before or after a moment, in seconds; undefined where there is none.
  tooth(at, way) {
    if (!this.teeth) return undefined;
    const i = this.teeth.index(at) + (way > 0 ? (this.teeth.time(this.teeth.index(at)) <= at ? 1 : 0) : -1);
    return i >= 0 && i < this.teeth.size ? this.teeth.time(i) : undefined;
  }

  put(at) {
    this[this.active] = Math.min(Math.max(at, this.whole[0]), this.whole[1]);
    if (this[this.active] < this.from || this[this.active] > this.to)
      this.pan((this[this.active] - (this.from + this.to) / 2) / (this.to - this.from));
    this.refresh();
  }

  step(pixels) {
    this.put(this[this.active] + ((this.to - this.from) * pixels) / this.width());
  }

  toTooth(way) {
    const at = this.tooth(this[this.active] + way * 1e-9, way);
    if (at !== undefined) this.put(at);
  }

  // -- what is read

  tell() {
    const out = (name, text) => {
      this.root.querySelector(`[data-out=${name}]`).textContent = text;
    };
    const span = Math.abs(this.b - this.a);
    for (const name of ["a", "b"]) out(name, `${figure(this[name], 6)} s, ${this.values(this[name])}`);
    const [period, rate] = span ? [si(span, "s"), si(1 / span, "Hz")] : ["–", "–"];
    [
      ["most", this.teeth ? rate : period],
      ["also", this.teeth ? period : rate],
    ].forEach(([name, text]) => out(name, text));
    out("teeth", this.between() ?? "");
    this.root
      .querySelectorAll("[data-do=a], [data-do=b]")
      .forEach((button) => button.setAttribute("aria-pressed", button.dataset.do === this.active));
    this.table();
  }

  // Of every line of the first panel at a moment.
  values(at) {
    const { series, unit } = this.panels[0];
    const all = series.map((each) => this.panels[0].value(each, at));
    return all.length === 1 ? si(all[0], unit) : `${all.map((value) => figure(value, 3)).join(" / ")} ${unit}`;
  }

  // Teeth between the cursors, their mean frequency, and the speed.
  between() {
    if (!this.teeth) return null;
    const [from, to] = [Math.min(this.a, this.b), Math.max(this.a, this.b)];
    const first = this.teeth.index(from - 1e-9),
      last = this.teeth.index(to + 1e-9) - 1;
    if (last - first < 1) return `${Math.max(last - first + 1, 0)} teeth`;
    const hertz = (last - first) / (this.teeth.time(last) - this.teeth.time(first));
    const periods = last - first === 1 ? "period" : "periods";
    const speed = figure(this.teeth.value(this.teeth.series[1], (from + to) / 2), 3);
    return `${last - first} tooth ${periods}, ${si(hertz, "Hz")}, ${speed} ${this.teeth.unit}`;
  }

  // The same in figures, of what is in view.
  table() {
    clearTimeout(this.later);
    this.later = setTimeout(
      () =>
        this.root.querySelectorAll("[data-rows]").forEach((body, p) => {
          const panel = this.panels[p],
            rows = body.rows.length,
            step = (this.to - this.from) / rows;
          [...body.rows].forEach((row, k) => {
            const [from, to] = [this.from + k * step, this.from + (k + 1) * step];
            const [i, j] = [panel.index(from), panel.index(to)];
            const cells = panel.series.flatMap((each) =>
              j > i ? each.extent(i, j).map((value) => figure(value, 4)) : ["–", "–"],
            );
            [`${figure(from, 6)}`, `${figure(to, 6)}`, ...cells].forEach((text, c) => {
              row.cells[c].textContent = text;
            });
          });
        }),
      150,
    );
  }

  // -- hands

  act(name) {
    const acts = {
      a: () => {
        this.active = "a";
        this.refresh();
      },
      b: () => {
        this.active = "b";
        this.refresh();
      },
      in: () => this.zoom(0.5),
      out: () => this.zoom(2),
      whole: () => this.look(...this.whole),
      left: () => this.pan(-0.5),
      right: () => this.pan(0.5),
      next: () => this.nextMark(1),
      before: () => this.nextMark(-1),
      tooth: () => this.toTooth(1),
      "tooth-before": () => this.toTooth(-1),
      fit: () => {
        this.fit = !this.fit;
        this.refresh();
      },
    };
    acts[name]?.();
  }

  listen() {
    const keys = {
      "+": "in",
      "=": "in",
      "-": "out",
      _: "out",
      0: "whole",
      Home: "whole",
      a: "a",
      b: "b",
      n: "next",
      p: "before",
      t: "tooth",
      T: "tooth-before",
      h: "fit",
      PageUp: "left",
      PageDown: "right",
    };
    this.hands.addEventListener("keydown", (event) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "ArrowLeft" || event.key === "ArrowRight")
        this.step((event.key === "ArrowLeft" ? -1 : 1) * (event.shiftKey ? 40 : 2));
      else if (keys[event.key]) this.act(keys[event.key]);
      else return;
      event.preventDefault();
      event.stopPropagation();
    });
    this.root
      .querySelectorAll("[data-do]")
      .forEach((button) => button.addEventListener("click", () => this.act(button.dataset.do)));
    document.querySelectorAll("[data-mark]").forEach((button) => {
      const mark = this.marks.find((each) => each.kind === button.dataset.mark);
      button.hidden = !mark;
      button.addEventListener("click", () => {
        this.show(mark);
        this.hands.focus({ preventScroll: true });
        this.root.scrollIntoView({ block: "nearest" });
      });
    });
    new ResizeObserver(() => {
      if (this.width() !== this.plots[0].width) {
        this.plots.forEach((plot) => plot.setSize({ width: this.width(), height: plot.height }));
        this.refresh();
      }
    }).observe(this.hands);
    new MutationObserver(() => this.build()).observe(document.documentElement, {
      attributes: true,
      attributeFilter: ["data-theme"],
    });
  }

  moment(event, over) {
    const box = over.getBoundingClientRect();
    return this.from + ((this.to - this.from) * (event.clientX - box.left)) / box.width;
  }

  // One finger or the mouse: a tap sets the cursor, a pull moves the window, or the cursor it began at. Two fingers:
  // closer or wider.
  touch(over) {
    over.addEventListener("pointerdown", (event) => {
      over.setPointerCapture(event.pointerId);
      this.pointers.set(event.pointerId, { x: event.clientX, began: event.clientX });
      const px = (at) => Math.abs(((at - this.moment(event, over)) / (this.to - this.from)) * over.clientWidth);
      this.held =
        this.pointers.size > 1
          ? null
          : ["a", "b"].filter((name) => px(this[name]) < NEAR_PX).sort((m, n) => px(this[m]) - px(this[n]))[0];
      if (this.held) this.active = this.held;
      this.moved = false;
    });
    over.addEventListener("pointermove", (event) => {
      const pointer = this.pointers.get(event.pointerId);
      if (!pointer) return;
      if (Math.abs(event.clientX - pointer.began) > SLACK_PX) this.moved = true;
      if (this.pointers.size === 2) this.pinch(event, over);
      else if (this.moved) this.pull(event, pointer, over);
      pointer.x = event.clientX;
    });
    const up = (event) => {
      if (event.type === "pointerup" && !this.moved && this.pointers.size === 1) this.put(this.moment(event, over));
      this.pointers.delete(event.pointerId);
      this.refresh();
    };
    over.addEventListener("pointerup", up);
    over.addEventListener("pointercancel", up);
    over.addEventListener(
      "wheel",
      (event) => {
        event.preventDefault();
        if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) this.pan(event.deltaX / over.clientWidth);
        else this.zoom(event.deltaY < 0 ? 0.8 : 1.25, this.moment(event, over));
      },
      { passive: false },
    );
  }

  pull(event, pointer, over) {
    if (this.held) this.put(this.moment(event, over));
    else this.pan((pointer.x - event.clientX) / over.clientWidth);
  }

  pinch(event, over) {
    const other = [...this.pointers].find(([id]) => id !== event.pointerId)[1];
    const before = Math.max(Math.abs(this.pointers.get(event.pointerId).x - other.x), 10),
      now = Math.max(Math.abs(event.clientX - other.x), 10);
    this.moved = true;
    this.zoom(before / now, this.moment({ clientX: (event.clientX + other.x) / 2 }, over));
  }
}

function extentOf([, ...lines]) {
  let low = Infinity,
    high = -Infinity;
  for (const line of lines)
    for (const value of line) {
      if (value < low) low = value;
      if (value > high) high = value;
    }
  return [low, high];
}

function spread([low, high]) {
  const height = high - low || Math.abs(high) || 1;
  return { min: low - height * 0.08, max: high + height * 0.24 }; // room for the name
}

document.querySelectorAll("[data-trace]").forEach((root) => {
  new Viewer(root).open().catch((error) => {
    root.querySelector("[data-out=teeth]").textContent = `Cannot be drawn: ${error.message}. The figures stand below.`;
  });
});
