import { imagesIn } from './symmetry.ts';
import { reflected, above, type Mirror } from '../base/mirror.ts';

/** Places of which some are mirror images of others, and stay so exactly while single ones move: those on the normals' side lead. */
export class MirroredPlaces {
  /** by mirror, of each place its image */
  private readonly images: Int32Array[];
  /** 1 by place that follows another one */
  private readonly follows: Uint8Array;

  /**
   * @param positions x, y, z each; changed by `settle`
   * @param within mm by which images may be off where they are looked for
   */
  constructor(
    private readonly mirrors: readonly Mirror[],
    private readonly positions: Float64Array,
    within: number
  ) {
    this.images = mirrors.map((mirror) => imagesIn(mirror, positions, within));
    this.follows = Uint8Array.from({ length: positions.length / 3 }, (_, v) =>
      mirrors.some((mirror, m) => {
        const image = this.images[m][v];
        return image >= 0 && image !== v && above(mirror, positions, v) < above(mirror, positions, image);
      })
        ? 1
        : 0
    );
  }

  /** Whether a place is where others put it. */
  isImage(v: number): boolean {
    return this.follows[v] === 1;
  }

  isOnMirror(v: number): boolean {
    return this.images.some((image) => image[v] === v);
  }

  /** Puts a place that has moved on the mirrors that it lies on, and its images to where they belong. @returns the place and its images */
  settle(v: number): number[] {
    const { mirrors, positions, images } = this;
    const all = [v];
    mirrors.forEach((mirror, m) => {
      for (let i = all.length - 1; i >= 0; i--) {
        const own = all[i];
        const image = images[m][own];
        if (image === own) {
          const height = above(mirror, positions, own);
          for (let k = 0; k < 3; k++) positions[3 * own + k] -= height * mirror.normal[k];
        } else if (image >= 0) {
          positions.set(reflected(mirror, positions, own), 3 * image);
          all.push(image);
        }
      }
    });
    return all;
  }

  settleAll(): void {
    this.follows.forEach((follows, v) => {
      if (!follows) this.settle(v);
    });
  }
}
