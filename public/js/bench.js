// The practice bench: leads that are put on test points, a dial, a wheel that is turned by hand, a trace that runs.
// The server solves the circuit; here is only what a hand does.
document.addEventListener("alpine:init", () => {
  Alpine.data("bench", () => ({
    lead: "red",
    init() {
      const root = this.$root;
      this.lead = root.dataset.red && !root.dataset.black ? "black" : "red";
      this.mark_lead();
      root.querySelectorAll(".point").forEach((point) => this.reach(point, () => this.put(point.dataset.node)));
      root.querySelectorAll(".meter-range").forEach((mark) => this.reach(mark, () => this.turn(mark.dataset.range)));
      root.querySelectorAll(".joint-touch").forEach((joint) => this.reach(joint, () => this.joint(joint)));
      this.settle();
      this.run();
      this.wheel();
    },
    // By touch, mouse or keyboard.
    reach(element, act) {
      element.addEventListener("click", act);
      element.addEventListener("keydown", (event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        act();
      });
    },
    take_lead(event) {
      this.lead = event.currentTarget.dataset.lead;
      this.mark_lead();
    },
    mark_lead() {
      this.$root
        .querySelectorAll(".lead")
        .forEach((each) => each.setAttribute("aria-pressed", String(each.dataset.lead === this.lead)));
    },
    put(node) {
      const data = this.$root.dataset;
      data[this.lead] = node;
      if (data.red && data.black && data.red !== data.black && data.range !== "off") {
        this.act({ kind: "meter" });
      } else {
        this.show();
      }
    },
    turn(range) {
      const data = this.$root.dataset;
      data.range = range;
      if (range !== "off" && data.red && data.black && data.red !== data.black) this.act({ kind: "meter" });
      else this.show();
    },
    joint(element) {
      this.act({ kind: element.dataset.apart === "true" ? "plug" : "unplug", joint: element.dataset.joint });
    },
    pick(event) {
      event.target.form.requestSubmit();
    },
    choice() {
      const data = this.$root.dataset;
      return { circuit: data.circuit, range: data.range, a: data.red || "", b: data.black || "" };
    },
    // What the server must know of, goes there as any form of this page does.
    act(values) {
      const guards = new FormData(this.$root.querySelector("#scope-form"));
      const body = { ...this.choice(), ...values };
      ["authenticity_token", "form_token", "seen"].forEach((name) => {
        if (guards.has(name)) body[name] = guards.get(name);
      });
      const focus = document.activeElement && document.activeElement.id;
      htmx
        .ajax("POST", `${this.$root.dataset.base}/bench`, { target: "#bench", swap: "outerHTML", values: body })
        .then(() => this.back_to(focus));
    },
    show() {
      const focus = document.activeElement && document.activeElement.id;
      const query = new URLSearchParams(this.choice());
      htmx
        .ajax("GET", `${this.$root.dataset.base}/bench?${query}`, { target: "#bench", swap: "outerHTML" })
        .then(() => this.back_to(focus));
    },
    back_to(id) {
      const element = id && document.getElementById(id);
      if (element) element.focus();
    },
    // A display takes a moment to settle.
    settle() {
      const text = this.$root.querySelector("#meter-text");
      const shown = text && text.textContent;
      const number = shown && shown.match(/^(-?\d+(?:\.\d+)?)(.*)$/);
      if (!number) return;
      const digits = (number[1].split(".")[1] || "").length;
      [0.62, 0.91, 0.985].forEach((share, i) =>
        setTimeout(() => (text.textContent = (number[1] * share).toFixed(digits) + number[2]), i * 90),
      );
      setTimeout(() => (text.textContent = shown), 270);
    },
    // The trace runs over the screen from left to right, again and again.
    run() {
      const canvas = this.$refs.scope;
      if (!canvas) return;
      const pen = canvas.getContext("2d");
      const style = getComputedStyle(canvas);
      const trace = canvas.dataset.trace ? JSON.parse(canvas.dataset.trace) : null;
      const wide = canvas.width;
      const high = canvas.height;
      const from = trace ? Math.min(...trace.values) : 0;
      const to = trace ? Math.max(...trace.values) : 1;
      const room = Math.max(to - from, 0.05) * 1.3;
      const middle = (from + to) / 2;
      const y = (value) => high / 2 - ((value - middle) / room) * high;
      let shift = 0;
      const still = matchMedia("(prefers-reduced-motion: reduce)").matches;
      const draw = () => {
        if (!canvas.isConnected) return;
        pen.clearRect(0, 0, wide, high);
        pen.strokeStyle = style.getPropertyValue("--rule");
        pen.lineWidth = 1;
        for (let i = 1; i < 8; i += 1) {
          pen.beginPath();
          pen.moveTo((wide * i) / 8, 0);
          pen.lineTo((wide * i) / 8, high);
          pen.stroke();
        }
        if (!trace) return;
        pen.fillStyle = style.getPropertyValue("--quiet");
        pen.font = "15px Figures, monospace";
        pen.fillText(`${to.toFixed(2)} ${trace.unit}`, 8, 18);
        pen.fillText(`${from.toFixed(2)} ${trace.unit}`, 8, high - 8);
        const span = (trace.seconds * Math.min(240, trace.values.length)) / trace.values.length;
        pen.fillText(`${(span * 1000).toFixed(0)} ms`, wide - 70, high - 8);
        pen.strokeStyle = style.getPropertyValue("--accent");
        pen.lineWidth = 1.8;
        pen.beginPath();
        const count = trace.values.length;
        const shown = Math.min(count, 240);
        for (let i = 0; i < shown; i += 1) {
          pen.lineTo((wide * i) / shown, y(trace.values[(i + Math.floor(shift)) % count]));
        }
        pen.stroke();
        shift += 1.5;
        if (!still) requestAnimationFrame(draw);
      };
      requestAnimationFrame(draw);
    },
    // A wheel turned by dragging, or by holding W: let go, and the scope shows what it gave.
    wheel() {
      const wheel = this.$root.querySelector("#spin");
      if (!wheel) return;
      const rim = wheel.querySelector(".spin-rim");
      let from = null;
      let turned = 0;
      let began = 0;
      let held = null;
      const angle = (event) => {
        const box = wheel.getBoundingClientRect();
        return Math.atan2(event.clientY - box.top - box.height / 2, event.clientX - box.left - box.width / 2);
      };
      const turn = (by) => {
        turned += by;
        rim.setAttribute("transform", `rotate(${(turned * 180) / Math.PI} 60 60)`);
      };
      const end = () => {
        const seconds = (performance.now() - began) / 1000;
        const speed = Math.min(3, Math.max(0.2, Math.abs(turned) / (2 * Math.PI) / Math.max(seconds, 0.2)));
        document.getElementById("rev-s").value = speed.toFixed(1);
        this.act({ kind: "scope", rev_s: speed.toFixed(2) });
      };
      wheel.addEventListener("pointerdown", (event) => {
        wheel.setPointerCapture(event.pointerId);
        from = angle(event);
        turned = 0;
        began = performance.now();
      });
      wheel.addEventListener("pointermove", (event) => {
        if (from === null) return;
        let by = angle(event) - from;
        if (by > Math.PI) by -= 2 * Math.PI;
        if (by < -Math.PI) by += 2 * Math.PI;
        turn(by);
        from = angle(event);
      });
      wheel.addEventListener("pointerup", () => {
        if (from === null) return;
        from = null;
        end();
      });
      wheel.addEventListener("keydown", (event) => {
        if (event.key.toLowerCase() !== "w" || held) return;
        turned = 0;
        began = performance.now();
        held = setInterval(() => turn(0.25), 40);
      });
      wheel.addEventListener("keyup", (event) => {
        if (event.key.toLowerCase() !== "w" || !held) return;
        clearInterval(held);
        held = null;
        end();
      });
    },
  }));
});
