/** What the picture is drawn with: its colours, lines, and the pen of the player's own line. */

export type Palette = {
  paper: string;
  ink: string;
  soft: string;
  rule: string;
  asked: string;
  instrument: string;
  instrumentSoft: string;
  player: string;
};

export function paletteOf(element: Element): Palette {
  const style = getComputedStyle(element);
  const get = (name: string) => style.getPropertyValue(name).trim();
  return {
    paper: get('--paper'),
    ink: get('--ink'),
    soft: get('--ink-soft'),
    rule: get('--rule'),
    asked: get('--asked'),
    instrument: get('--verdigris'),
    instrumentSoft: get('--verdigris-soft'),
    player: get('--brass'),
  };
}

/** A canvas on the page or a sheet kept beside it. */
export type Surface = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

export const SANS = "'Figtree Variable', sans-serif";

export function line(g: Surface, x1: number, y1: number, x2: number, y2: number): void {
  g.beginPath();
  g.moveTo(x1, y1);
  g.lineTo(x2, y2);
  g.stroke();
}

/** Draws one line whose width and texture change, in as few strokes as the changes allow. */
export class Pen {
  #path: { x: number; y: number }[] = [];
  #style = '';
  #width = 0;
  #tone = 0;

  constructor(
    private readonly g: Surface,
    private readonly colour: string,
    private readonly scale: number,
  ) {}

  to(x: number, y: number, level: number, tone: number): void {
    if (!Number.isFinite(y)) {
      this.lift();
      return;
    }
    const width = Math.max(1.25, Math.round(widthOf(level) * this.scale * 2) / 2);
    const loose = tone >= 15 ? 0 : Math.ceil((15 - tone) / 3);
    const style = `${width} ${loose}`;
    if (style !== this.#style) {
      const last = this.#path.at(-1);
      this.lift();
      if (last) this.#path.push(last);
      [this.#style, this.#width, this.#tone] = [style, width, loose];
    }
    this.#path.push({ x, y });
  }

  lift(): void {
    const { g } = this;
    g.strokeStyle = this.colour;
    g.lineCap = 'round';
    g.lineJoin = 'round';
    if (this.#path.length > 1) {
      if (this.#tone === 0) this.#stroke(this.#width, 0);
      // Frayed: the less tone, the further the threads come apart.
      else for (const side of [-1, 0, 1]) this.#stroke(Math.max(1, this.#width / 4), side * (0.8 + this.#tone * 0.7));
    }
    this.#path = [];
    this.#style = '';
  }

  #stroke(width: number, shift: number): void {
    const { g } = this;
    g.lineWidth = width;
    if (shift) g.setLineDash([5, 4]);
    g.beginPath();
    for (const [i, point] of this.#path.entries()) {
      if (i) g.lineTo(point.x, point.y + shift);
      else g.moveTo(point.x, point.y + shift);
    }
    g.stroke();
    g.setLineDash([]);
  }
}

function widthOf(level: number): number {
  return Math.min(9, Math.max(1.5, 2 + (level + 45) * 0.2));
}
