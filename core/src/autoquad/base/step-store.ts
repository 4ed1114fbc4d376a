import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';

/** What was made for quads of one size serves those that are so many times as fine, or as coarse. */
const [FINER, COARSER] = [1.25, 1.6];
/** Larger surfaces are not kept: of a million triangles it takes some 150 MB. */
const MOST_FACES = 1_500_000;

/** A step whose outcome is kept, and what that is; the step is told by this object, its name is for reading. */
export class StepKind<Made> {
  /** only says what is kept */
  declare readonly made: Made;

  constructor(readonly name: string) {}
}

interface Kept {
  dependsOn: string;
  size: number;
  made: unknown;
}

/**
 * Keeps what the steps of auto quads made, so that a later run over the same surface takes up what would come out the same:
 * where only the size changes, the working mesh, the directions, and the map's factor.
 */
export class StepStore {
  private surface = '';
  private readonly kept = new Map<StepKind<unknown>, Map<string, Kept>>();

  /** Begins a run: what belongs to another surface is forgotten. */
  begin(mesh: PolygonMesh): void {
    const surface = mesh.faceStart.length > MOST_FACES ? '' : digestOf(mesh);
    if (surface !== this.surface || surface === '') this.kept.clear();
    this.surface = surface;
  }

  /** Whether what is made is kept for later runs: surfaces may be too large for that. */
  get isKeeping(): boolean {
    return this.surface !== '';
  }

  /**
   * What a step made last where it depended on the same and on nearly the same size of quads; otherwise it is made anew. What is kept is
   * never written to.
   * @param way of several ways to do it, each of which is kept
   * @param dependsOn all that it is made from but the surface, as it would be written in JSON
   * @param size of quads, mm; left out where it has no part in it
   */
  step<Made>(kind: StepKind<Made>, way: string, dependsOn: readonly unknown[], make: () => Made, size = 1): Made {
    const asText = JSON.stringify(dependsOn);
    const ways = this.kept.get(kind) ?? new Map<string, Kept>();
    const last = ways.get(way);
    if (last && last.dependsOn === asText && size >= last.size / FINER && size <= last.size * COARSER) return last.made as Made;
    const made = make();
    if (this.isKeeping) this.kept.set(kind, ways.set(way, { dependsOn: asText, size, made }));
    return made;
  }
}

/** Two sums over all arrays of a mesh (Fowler, Noll, Vo: 1a, by words of 32 bits): equal ones are taken for the same mesh. */
function digestOf(mesh: PolygonMesh): string {
  let [a, b] = [0x811c9dc5, 0x2b5c1f37];
  for (const array of [mesh.positions, mesh.faceStart, mesh.faceVertices, mesh.creaseEdges, mesh.creaseSharpness, mesh.faceRegion]) {
    if (!array) continue;
    const words = new Uint32Array(array.buffer, array.byteOffset, array.byteLength >> 2);
    for (const word of words) {
      a = Math.imul(a ^ word, 0x01000193);
      b = Math.imul(b ^ (word >>> 7) ^ a, 0x85ebca6b);
    }
    a ^= words.length;
  }
  return `${mesh.positions.length} ${a >>> 0} ${b >>> 0}`;
}
