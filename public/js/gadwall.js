// Small helps for the hand. Every page works without this file.

document.addEventListener("alpine:init", () => {
  // Dark or light, kept in a cookie so that the server draws it right at once.
  Alpine.data("theme", () => ({
    swap() {
      const root = document.documentElement;
      const dark = root.dataset.theme
        ? root.dataset.theme === "dark"
        : matchMedia("(prefers-color-scheme: dark)").matches;
      root.dataset.theme = dark ? "light" : "dark";
      document.cookie = `theme=${root.dataset.theme}; path=/; max-age=31536000; samesite=lax`;
    },
  }));

  // A wait that runs on: counts down from the seconds the server gave.
  Alpine.data("wait", () => ({
    left: 0,
    shown: "",
    init() {
      this.end = Date.now() + Number(this.$el.dataset.seconds) * 1000;
      this.tick();
      this.timer = setInterval(() => this.tick(), 500);
    },
    destroy() {
      clearInterval(this.timer);
    },
    tick() {
      this.left = Math.max(0, Math.ceil((this.end - Date.now()) / 1000));
      this.shown = `${Math.floor(this.left / 60)}:${String(this.left % 60).padStart(2, "0")}`;
    },
  }));

  // The proof drive: one leg at a time, where it was left when the page is loaded again.
  Alpine.data("drive", () => ({
    at: 0,
    init() {
      this.legs = [...this.$root.querySelectorAll("[data-leg]")];
      this.$root.classList.add("one-at-a-time");
      this.key = `drive ${this.$root.dataset.key}`;
      const kept = JSON.parse(sessionStorage.getItem(this.key) || "null");
      for (const box of this.$root.querySelectorAll("[name='failed[]']")) {
        if (kept?.failed.includes(box.value)) box.checked = true;
      }
      for (const go of this.$root.querySelectorAll(".drive-go")) go.hidden = false;
      this.at = Math.min(kept?.at || 0, this.legs.length - 1);
      this.show();
    },
    next() {
      this.go(1);
    },
    back() {
      this.go(-1);
    },
    go(step) {
      this.at += step;
      this.show();
      this.$root.scrollIntoView({ block: "start" });
    },
    show() {
      this.legs.forEach((leg, i) => {
        leg.hidden = i !== this.at;
      });
      const failed = [...this.$root.querySelectorAll("[name='failed[]']:checked")].map((box) => box.value);
      sessionStorage.setItem(this.key, JSON.stringify({ at: this.at, failed }));
    },
  }));

  // A lamp tapped along: down while it is lit. The server finds digits and pauses.
  Alpine.data("flashes", () => ({
    lit: false,
    times: [],
    flash_count: "0 flashes",
    // The hand's own time, not when a busy page came to hear of it.
    on(event) {
      if (!this.lit) {
        this.lit = true;
        this.start = event.timeStamp;
      }
    },
    off(event) {
      if (!this.lit) return;
      this.lit = false;
      this.times.push([Math.round(this.start), Math.round(event.timeStamp)]);
      this.flash_count = `${this.times.length} ${this.times.length === 1 ? "flash" : "flashes"}`;
    },
    clear() {
      this.times = [];
      this.flash_count = "0 flashes";
      this.$refs.read.replaceChildren();
    },
    async ask() {
      const form = this.$root.querySelector("form");
      const body = new URLSearchParams(new FormData(form));
      body.set("times", JSON.stringify(this.times));
      const answer = await fetch(this.$root.dataset.url, { method: "POST", body, headers: { "HX-Request": "true" } });
      this.$refs.read.innerHTML = await answer.text();
    },
  }));

  Alpine.data("printer", () => ({
    print() {
      window.print();
    },
  }));
  Alpine.data("trace", () => ({}));
});

// An Enter meant for what stood here before must not choose an outcome: the first moments after a change do not count.
const SETTLED_MS = 400;
let readyAt = 0;
let byDigit = false;
document.addEventListener(
  "click",
  (event) => {
    const early =
      event.detail === 0 &&
      !byDigit &&
      event.target.closest("[data-digit]") &&
      performance.now() - readyAt < SETTLED_MS;
    if (early) {
      event.preventDefault();
      event.stopImmediatePropagation();
    }
  },
  true,
);

// Digits choose an outcome, "r" goes to the reading, and the OL button types OL.
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target.matches("input, textarea, select")) return;
  const button = document.querySelector(`[data-digit="${CSS.escape(event.key)}"]`);
  if (button) {
    byDigit = true;
    button.click();
    byDigit = false;
    event.preventDefault();
  }
  if (event.key === "r") {
    document.querySelector("[data-focus]")?.focus();
    event.preventDefault();
  }
});

// Codes counted from the lamp go into the scan, one in each line.
document.addEventListener("click", (event) => {
  const counted = event.target.closest("[data-lines]");
  if (!counted) return;
  const field = document.querySelector("textarea[name=codes]");
  field.value = [field.value.trim(), counted.dataset.lines].filter(Boolean).join("\n");
  field.focus();
});

document.addEventListener("click", (event) => {
  const typing = event.target.closest("[data-type]");
  if (!typing) return;
  const input = typing.form.querySelector("[name=reading]");
  input.value = typing.dataset.type;
  input.focus();
});

// The hand is ready for the next reading, at once and after each one; the page does not move for it.
function ready() {
  readyAt = performance.now();
  const next = document.querySelector("#trace [aria-invalid]") || document.querySelector("#trace [data-focus]");
  next?.focus({ preventScroll: true });
  next?.select?.();
}
document.addEventListener("DOMContentLoaded", ready);
document.addEventListener("htmx:after:swap", ready);
