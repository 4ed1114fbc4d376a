import type { CageDrawing } from './cage-drawing.ts';

/** Drawings kept, and triangles in all of them, at most. */
const [MOST_SPARES, MOST_SPARE_TRIANGLES] = [4, 1_000_000];

/** Drawings out of sight that may be wanted again: by undo, or when a preview is discarded. */
export class SpareDrawings {
  private readonly kept: CageDrawing[] = [];

  put(drawing: CageDrawing): void {
    drawing.group.removeFromParent();
    this.kept.push(drawing);
    while (this.kept.length > MOST_SPARES || (this.kept.length > 0 && this.kept.reduce((sum, d) => sum + d.size, 0) > MOST_SPARE_TRIANGLES))
      this.kept.shift()!.dispose();
  }

  /** The drawing of just that, which is a spare no more. */
  take(wanted: ConstructorParameters<typeof CageDrawing>): CageDrawing | undefined {
    const at = this.kept.findLastIndex((d) => d.part.id === wanted[0].id && d.shows(...wanted));
    return at < 0 ? undefined : this.kept.splice(at, 1)[0];
  }

  end(): void {
    for (const drawing of this.kept.splice(0)) drawing.dispose();
  }
}
