// A piece of work moved by keys or by dragging; the server plans the rest around it.
document.addEventListener("alpine:init", () => {
  Alpine.data("day", () => ({
    said: "",
    init() {
      this.figure = this.$root.querySelector(".day-figure");
      this.people = [...new Set([...this.$root.querySelectorAll("[data-uses]")].map((slot) => slot.dataset.uses))];
      this.$root.querySelectorAll("[data-step]").forEach((slot) => {
        slot.addEventListener("keydown", (event) => this.key(event, slot));
        slot.addEventListener("pointerdown", (event) => this.grab(event, slot));
      });
    },
    key(event, slot) {
      const by = { ArrowLeft: -15, ArrowRight: 15 }[event.key];
      const lane = { ArrowUp: -1, ArrowDown: 1 }[event.key];
      if (event.key === "Backspace") this.send(slot, { free: 1 });
      else if (by) this.send(slot, { from: Number(slot.dataset.from) + by });
      else if (lane) {
        const may = JSON.parse(slot.dataset.may);
        const able = this.people.filter((name) => may.includes(name));
        const next = able[able.indexOf(slot.dataset.uses) + lane];
        if (next) this.send(slot, { from: Number(slot.dataset.from), uses: next });
        else this.said = `Nobody ${lane < 0 ? "above" : "below"} may do this: ${may.join(", ")} may.`;
      } else return;
      event.preventDefault();
    },
    grab(event, slot) {
      const start = event.clientX;
      const ratio = this.figure.viewBox.baseVal.width / this.figure.getBoundingClientRect().width;
      const minutes = (x) => Math.round(((x - start) * ratio) / Number(this.figure.dataset.scale) / 5) * 5;
      slot.setPointerCapture(event.pointerId);
      const move = (moved) => slot.setAttribute("transform", `translate(${(moved.clientX - start) * ratio} 0)`);
      const drop = (ended) => {
        slot.removeEventListener("pointermove", move);
        slot.removeEventListener("pointerup", drop);
        slot.removeAttribute("transform");
        const by = minutes(ended.clientX);
        if (by) this.send(slot, { from: Number(slot.dataset.from) + by });
      };
      slot.addEventListener("pointermove", move);
      slot.addEventListener("pointerup", drop);
    },
    send(slot, change) {
      const values = { step: slot.dataset.step, job: slot.dataset.job, "uses[]": slot.dataset.uses, ...change };
      if (change.uses) values["uses[]"] = change.uses;
      delete values.uses;
      if (values.from !== undefined) values.from = Math.max(0, values.from);
      new FormData(document.getElementById("day-move")).forEach((value, name) => {
        values[name] = value;
      });
      const id = slot.id;
      htmx.ajax("POST", "/day/move", { target: "#day", swap: "outerHTML", values }).then(() => {
        const again = document.getElementById(id);
        if (again) again.focus();
      });
    },
  }));
});
