import { type Triple } from '../../numeric/vectors.ts';
import { type TaskReport } from '../../task/steps.ts';
import { Remesher, vertexNormals } from '../base/remesh.ts';
import { smoothNormals, workingSizes } from '../base/sizing.ts';
import { StepKind } from '../base/step-store.ts';
import { onThisSide } from '../base/strokes.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { curvatureDirections, gradedFrames, type Frames, triangleFrames } from '../field/curvature.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { type GuideRing, layGuides } from '../field/guides.ts';
import { movePoles } from '../field/move-poles.ts';
import { openNarrowCorners } from '../field/narrow-corners.ts';
import { orientationField, type OrientationField, PULLED } from '../field/orientation-field.ts';
import { type Surface } from '../input/surface.ts';
import { SeamlessMap } from '../map/seamless-map.ts';

/** The crosses over a working mesh, and what is made of them alone. */
export interface Directions {
  mesh: WorkingMesh;
  frames: Frames;
  field: OrientationField;
  /** closed guides */
  rings: GuideRing[];
  notes: string[];
  /** where poles lay that were cancelled, in pairs */
  cancelled: Triple[];
  /** of quads that they were made for, mm */
  size: number;
  cut?: CutMesh;
  /** by how far beside themselves rings may come back */
  maps: Map<number, SeamlessMap>;
}

const DIRECTIONS = new StepKind<Directions>('directions');
const WORKING_MESH = new StepKind<WorkingMesh>('working mesh');

/** The steps before a map: a working mesh, and crosses over it; each is taken up from an earlier run where it would come out the same. */
export class DirectionSteps {
  constructor(
    private readonly surface: Surface,
    private readonly fineness: number,
    private readonly pull: number,
    /** poles that lie so many quads apart cancel */
    private readonly cancelWithin: number,
    private readonly report: TaskReport
  ) {}

  /** The working mesh, its field of crosses, and closed guides on it; those of an earlier run where they would come out the same. */
  directions(): Directions {
    const { surface, fineness, pull, cancelWithin } = this;
    const { from, dabs, guides, options, kept, size } = surface;
    // one of each way that is tried is kept
    const way = `${fineness} ${pull > 0} ${cancelWithin > 0}`;
    return kept.step(DIRECTIONS, way, [...from, dabs, guides, options.poleMoves, pull, cancelWithin], () => this.foundDirections(), size);
  }

  private foundDirections(): Directions {
    const { report, surface, cancelWithin } = this;
    const { size } = surface;
    const mesh = this.workingMesh();
    report.phase('Directions', 0.35);
    const notes: string[] = [];
    const frames = triangleFrames(mesh);
    const guided = surface.guides.length > 0 ? layGuides(mesh, frames, surface.guides, size) : undefined;
    for (const g of guided?.lost ?? [])
      if (!surface.guides[g].silent) notes.push(`Guide ${g + 1} lies off the surface, or is too short: it was left out.`);
    const curvature = curvatureDirections(mesh, frames, size);
    const shares = this.shares(mesh);
    const graded = shares ? gradedFrames(mesh, frames, shares) : frames;
    const field = orientationField(mesh, frames, curvature, this.pull, guided?.field.weight.some((w) => w > 0) ? guided.field : undefined, graded);
    const { poleMoves = [] } = surface.options;
    let cancelled: Triple[] = [];
    if (poleMoves.length > 0 || cancelWithin > 0) {
      const stays = curvature.weight.map((w, t) => PULLED * this.pull * w + (guided?.field.weight[t] ?? 0));
      const moves = poleMoves.map(({ from, to }) => ({ from: onThisSide(from, mesh.mirrors), to: onThisSide(to, mesh.mirrors) }));
      const moved = movePoles(mesh, graded, field, stays, { moves, cancelWithin: cancelWithin * size, quad: size, near: 1.5 * size });
      for (const m of moved.lost) notes.push(`Pole move ${m + 1} was left out: no pole is there, or a sharp edge or another pole is in its way.`);
      cancelled = moved.cancelled;
      if (cancelled.length > 0) notes.push(`Pairs of near poles that were cancelled: ${cancelled.length / 2}.`);
    }
    openNarrowCorners(mesh, frames, field);
    return { mesh, frames, field, rings: guided?.rings ?? [], notes, cancelled, size, maps: new Map() };
  }

  /** The surface with triangles as large as quads, or smaller where it bends; that of an earlier run where it would come out the same. */
  workingMesh(): WorkingMesh {
    const { from, dabs, size, kept } = this.surface;
    return kept.step(WORKING_MESH, String(this.fineness), [...from, dabs], () => this.remeshed(), size);
  }

  private remeshed(): WorkingMesh {
    this.report.phase('Working mesh', 0.05);
    const { dense, area, size, bvh, shareAt } = this.surface;
    const { corner: triangles } = dense;
    const meanEdge = Math.sqrt((area / dense.triangles) * 2.3);
    const smoothed = smoothNormals(vertexNormals(dense), dense, 0.35 * size, meanEdge);
    const sizes = workingSizes(dense, smoothed, size * this.fineness);
    const p = dense.positions;
    if (shareAt) for (let v = 0; v < sizes.length; v++) sizes[v] *= shareAt(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    const mesh = dense.copy();
    mesh.size.set(sizes);
    const bySurface = new Float64Array(triangles.length / 3);
    for (let t = 0; t < bySurface.length; t++)
      bySurface[t] = (sizes[triangles[3 * t]] + sizes[triangles[3 * t + 1]] + sizes[triangles[3 * t + 2]]) / 3;
    return new Remesher(mesh, bvh, bySurface).run(5);
  }

  /** By vertex, how large quads are to be against others; nothing where all are to be equal. */
  private shares(mesh: WorkingMesh): Float64Array | undefined {
    const { shareAt } = this.surface;
    return shareAt && Float64Array.from({ length: mesh.vertices }, (_, v) => shareAt(...mesh.point(v)));
  }
}
