// Small helps for the hand. Every page works without this file.

document.addEventListener("alpine:init", () => {
  // Dark or light, kept in a cookie so that the server draws it right at once.
  Alpine.data("theme", () => ({
    swap() {
      const root = document.documentElement;
      const dark = root.dataset.theme ? root.dataset.theme === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
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
    destroy() { clearInterval(this.timer); },
    tick() {
      this.left = Math.max(0, Math.ceil((this.end - Date.now()) / 1000));
      this.shown = `${Math.floor(this.left / 60)}:${String(this.left % 60).padStart(2, "0")}`;
    },
  }));

  Alpine.data("printer", () => ({ print() { window.print(); } }));
  Alpine.data("trace", () => ({}));
});

// Digits choose an outcome, "r" goes to the reading, and the OL button types OL.
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target.matches("input, textarea, select")) return;
  const button = document.querySelector(`[data-digit="${CSS.escape(event.key)}"]`);
  if (button) { button.click(); event.preventDefault(); }
  if (event.key === "r") { document.querySelector("[data-focus]")?.focus(); event.preventDefault(); }
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
  const next = document.querySelector("#trace [aria-invalid]") || document.querySelector("#trace [data-focus]");
  next?.focus({ preventScroll: true });
  next?.select?.();
}
document.addEventListener("DOMContentLoaded", ready);
document.addEventListener("htmx:after:swap", ready);
