// What a finger covers while it pulls, shown beside it: the piece of the drawing under it at twice its size, and what the handle says.

const WIDE = 132;
const HIGH = 96;
/** How far it keeps from the finger. */
const APART = 44;
const TIMES = 2;

let count = 0;

export class Lens {
  private readonly box = document.createElement("div");
  private readonly words = document.createElement("output");
  private readonly view: SVGSVGElement | undefined;
  private readonly drawing: SVGSVGElement | undefined;
  /** What the handle says follows what it does, a moment later. */
  private readonly heard = new MutationObserver(() => this.say());

  constructor(private readonly handle: Element) {
    this.box.dataset.lens = "";
    this.box.setAttribute("aria-hidden", "true");
    this.box.className =
      "pointer-events-none fixed z-50 overflow-hidden rounded-sm border border-oak bg-panel text-ink";
    this.drawing = handle instanceof SVGElement ? (handle.ownerSVGElement ?? undefined) : undefined;
    if (this.drawing) {
      this.drawing.id ||= `under-lens-${++count}`;
      this.view = document.createElementNS("http://www.w3.org/2000/svg", "svg");
      this.view.setAttribute("width", String(WIDE));
      this.view.setAttribute("height", String(HIGH));
      const use = document.createElementNS("http://www.w3.org/2000/svg", "use");
      use.setAttribute("href", `#${this.drawing.id}`);
      const { width, height } = this.drawing.getBoundingClientRect();
      use.setAttribute("width", String(width));
      use.setAttribute("height", String(height));
      this.view.append(use);
      this.box.append(this.view);
    }
    this.words.className = "block px-2 py-0.5 text-center font-display text-base font-semibold";
    this.box.append(this.words);
    document.body.append(this.box);
    this.heard.observe(this.slider(), {
      attributes: true,
      attributeFilter: ["aria-valuetext", "aria-label"],
    });
    this.say();
  }

  private slider(): Element {
    return this.handle.closest("[aria-valuetext]") ?? this.handle;
  }

  private say() {
    const slider = this.slider();
    this.words.textContent =
      slider.getAttribute("aria-valuetext") ?? slider.getAttribute("aria-label") ?? slider.textContent;
  }

  /** Follows the finger: above it, or below where there is no room. */
  follow({ clientX, clientY }: { clientX: number; clientY: number }) {
    const high = this.view ? HIGH + 26 : 28;
    const above = clientY - APART - high;
    const left = Math.min(Math.max(4, clientX - WIDE / 2), innerWidth - WIDE - 4);
    this.box.style.left = `${left}px`;
    this.box.style.top = `${above > 4 ? above : clientY + APART}px`;
    this.box.style.minWidth = `${WIDE}px`;
    if (!this.view || !this.drawing) return;
    const { left: x, top: y } = this.drawing.getBoundingClientRect();
    const [wide, high2] = [WIDE / TIMES, HIGH / TIMES];
    this.view.setAttribute(
      "viewBox",
      `${clientX - x - wide / 2} ${clientY - y - high2 / 2} ${wide} ${high2}`,
    );
  }

  close() {
    this.heard.disconnect();
    this.box.remove();
  }
}
