// The ring of a capture: goes from tooth to tooth by keys or by a tap, and says each one's period and amplitude.

class Ring {
  constructor(box) {
    this.places = [...box.querySelectorAll("[data-tooth]")];
    this.out = box.querySelector("[data-ring-out]");
    this.at = -1;
    box.addEventListener("keydown", (event) => {
      const ways = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };
      if (ways[event.key]) this.show((this.at + ways[event.key] + this.places.length) % this.places.length);
      else if (event.key === "Home") this.show(0);
      else if (event.key === "n") this.nextBad();
      else return;
      event.preventDefault();
    });
    this.places.forEach((place, i) => place.addEventListener("pointerdown", () => this.show(i)));
  }

  nextBad() {
    const bad = this.places.map((place, i) => (place.dataset.kind ? i : -1)).filter((i) => i >= 0);
    if (bad.length) this.show(bad.find((i) => i > this.at) ?? bad[0]);
  }

  show(i) {
    this.places[this.at]?.classList.remove("shown");
    this.at = i;
    const { tooth, period, amplitude, kind } = this.places[i].dataset;
    this.places[i].classList.add("shown");
    const figures = [period && `period ${period}`, amplitude && `amplitude ${amplitude}`].filter(Boolean).join(", ");
    this.out.textContent = `Tooth ${tooth}: ${figures || "no signal"}${kind ? `. ${kind}` : ""}`;
  }
}

document.querySelectorAll("[data-ring]").forEach((box) => new Ring(box));
