import { Cage } from '../mesh/cage.ts';
import { newellNormal, type PolygonMesh, withoutSharpness } from '../mesh/polygon-mesh.ts';
import { unit } from '../numeric/vectors.ts';
import { type Format } from '../formats/format.ts';
import { applyOperation } from '../operations/apply.ts';
import { bevel } from '../operations/build/bevel.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { selectEdges } from '../select/selection.ts';
import { deepestLevel } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { creasedEdge, sentBy } from './advice.ts';
import { type Destination } from './destination.ts';
import { differenceAt } from './difference.ts';
import { receive, type Sent } from './receive.ts';

/** How evenly the vertices lie that somebody sculpts with, for one way to keep edges sharp on the way there. */
export interface DensityRow {
  /** how edges are kept sharp */
  way: string;
  /** faces that are sent, and that there are once it is subdivided there */
  sent: number;
  faces: number;
  /** edge lengths there, mm: the mean, the shortest and longest but for a hundredth, and the standard deviation over the mean */
  spacing: { mean: number; finest: number; coarsest: number; spread: number };
  /** share of the edges by length over the mean, in steps of a tenth up to 3 times; the last one holds all longer ones */
  histogram: number[];
  /** faces that cross themselves where detail is raised or sunk by so many mm, and the share of those of which an edge shrinks to less than half */
  turned: number;
  pinched: number;
  /** mm that the smooth surface there lies off the one that was sent */
  difference?: number;
}

/** Faces that a part is subdivided to there, at most, and levels. */
const [MOST_FACES, MOST_LEVELS] = [40_000, 6];
/** Width of chamfers and support loops over the mean creased edge; levels that are divided before they are smoothed. */
const [NARROW, DIVIDED] = [0.12, 2];
/** Share of its length that an edge keeps at least where nothing is pinched. */
const PINCHED = 0.5;
/** Bars of the histogram, and how many make up the mean. */
const [BARS, A_MEAN] = [30, 10];

/** Ways to send a part so that its creased edges stay sharp where somebody sculpts on it. */
function waysOf(sent: Sent): { way: string; sent: Sent }[] {
  const { mesh, settings } = sent;
  const plain = { mesh: withoutSharpness(mesh), settings };
  if ((mesh.creaseSharpness?.length ?? 0) === 0) return [{ way: 'As it is', sent }, ...dividedFirst(sent)];
  const width = Number((NARROW * creasedEdge(mesh)).toPrecision(2));
  const loops = sentBy({ operation: 'creases-to-loops', params: { choose: 'typed', width } }, sent);
  const chamfers = chamfered(mesh, width);
  return [
    { way: 'Plain, without creases', sent: plain },
    { way: 'Creases', sent },
    ...(chamfers ? [{ way: `Chamfers of ${width} mm`, sent: { mesh: chamfers, settings } }] : []),
    ...(loops ? [{ way: `Support loops of ${width} mm`, sent: { mesh: withoutSharpness(loops.mesh), settings } }] : []),
    ...dividedFirst(sent)
  ];
}

/** Divided without smoothing, which is left for later: faces lie evenly, and edges are as sharp as those faces are small. */
function dividedFirst({ mesh, settings }: Sent): { way: string; sent: Sent }[] {
  if ((mesh.faceStart.length - 1) * 4 ** (DIVIDED + 1) > MOST_FACES) return [];
  const plan = { steps: new Array<'divide'>(DIVIDED).fill('divide') };
  const divided = new Subdivision(mesh, { ...settings, plan, levels: DIVIDED }).toPolygons(mesh);
  return [{ way: `Divided ${DIVIDED} times first`, sent: { mesh: withoutSharpness(divided), settings: { ...settings, plan: undefined } } }];
}

function chamfered(mesh: PolygonMesh, width: number): PolygonMesh | undefined {
  const cage = Cage.fromPolygons(mesh);
  const creased = [...cage.edges()].filter((e) => cage.value('crease', e) > 0 && !cage.isBorderEdge(e));
  const made = unlessRefused(() =>
    applyOperation(
      bevel,
      cage,
      selectEdges(creased),
      { width, segments: 1, tooWide: 'clamp' },
      { surface: { scheme: 'catmull-clark', borderCorners: 'sharp' } }
    )
  );
  return made && withoutSharpness(made.cage.toPolygons());
}

/**
 * How evenly vertices lie, and what detail does, at a place where somebody sculpts: for each way to keep edges sharp on the way there.
 * @param detail mm by which detail is raised and sunk
 * @param tell gets how far it is, 0 to 1
 */
export function sculptDensity(
  sent: Sent,
  format: Format,
  to: Destination,
  detail: number,
  tell: (fraction: number) => void = () => undefined
): DensityRow[] {
  const ways = waysOf(sent);
  return ways.flatMap(({ way, sent: own }, i): DensityRow[] => {
    tell((i + 1) / (ways.length + 1));
    const received = receive(own, to, format);
    if (received.refused || !received.settings) return [];
    const levels = Math.max(1, deepestLevel(received.mesh.faceVertices.length / 4, MOST_FACES, MOST_LEVELS, 1));
    const fine = new Subdivision(received.mesh, { ...received.settings, levels, limit: true }).toPolygons(received.mesh);
    const { spacing, histogram } = spacingOf(fine);
    return [
      {
        way,
        sent: own.mesh.faceStart.length - 1,
        faces: fine.faceStart.length - 1,
        spacing,
        histogram,
        ...displaced(fine, detail),
        difference: differenceAt(sent, received)
      }
    ];
  });
}

function spacingOf({ positions: p, faceStart, faceVertices }: PolygonMesh): Pick<DensityRow, 'spacing' | 'histogram'> {
  const lengths: number[] = [];
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let i = faceStart[f]; i < faceStart[f + 1]; i++) {
      const [a, b] = [3 * faceVertices[i], 3 * faceVertices[i + 1 < faceStart[f + 1] ? i + 1 : faceStart[f]]];
      lengths.push(Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]));
    }
  lengths.sort((a, b) => a - b);
  const mean = lengths.reduce((sum, l) => sum + l, 0) / lengths.length;
  const spread = Math.sqrt(lengths.reduce((sum, l) => sum + (l - mean) ** 2, 0) / lengths.length) / mean;
  const histogram = new Array<number>(BARS).fill(0);
  for (const l of lengths) histogram[Math.min(BARS - 1, Math.floor((A_MEAN * l) / mean))] += 1 / lengths.length;
  const at = (share: number) => lengths[Math.floor(share * (lengths.length - 1))];
  return { spacing: { mean, finest: at(0.01), coarsest: at(0.99), spread }, histogram };
}

/** What becomes of faces where every vertex goes out or in by so many mm: those of the worse of the two. */
function displaced(mesh: PolygonMesh, detail: number): Pick<DensityRow, 'turned' | 'pinched'> {
  const normals = normalsOf(mesh);
  const [out, into] = [detail, -detail].map((by) =>
    shrunk(
      mesh,
      mesh.positions.map((x, i) => x + by * normals[i])
    )
  );
  return out.turned > into.turned || (out.turned === into.turned && out.pinched > into.pinched) ? out : into;
}

/** Faces of which an edge turns round, and the share of those of which one shrinks to less than half. @param moved where its vertices go */
function shrunk({ positions: p, faceStart, faceVertices }: PolygonMesh, moved: Float64Array): Pick<DensityRow, 'turned' | 'pinched'> {
  let [turned, pinched] = [0, 0];
  for (let f = 0; f + 1 < faceStart.length; f++) {
    let least = Infinity;
    for (let i = faceStart[f]; i < faceStart[f + 1]; i++) {
      const [a, b] = [3 * faceVertices[i], 3 * faceVertices[i + 1 < faceStart[f + 1] ? i + 1 : faceStart[f]]];
      let [way, long] = [0, 0];
      for (let k = 0; k < 3; k++) {
        const edge = p[b + k] - p[a + k];
        way += edge * (moved[b + k] - moved[a + k]);
        long += edge * edge;
      }
      if (long > 0) least = Math.min(least, way / long);
    }
    if (least <= 0) turned++;
    else if (least < PINCHED) pinched++;
  }
  return { turned, pinched: pinched / Math.max(1, faceStart.length - 1) };
}

/** Unit normals of vertices: means of their faces', by area. */
function normalsOf(mesh: PolygonMesh): Float64Array {
  const normals = new Float64Array(mesh.positions.length);
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) {
    const normal = newellNormal(mesh, f, mesh.positions);
    for (let i = mesh.faceStart[f]; i < mesh.faceStart[f + 1]; i++) for (let k = 0; k < 3; k++) normals[3 * mesh.faceVertices[i] + k] += normal[k];
  }
  for (let v = 0; v < normals.length; v += 3) normals.set(unit([normals[v], normals[v + 1], normals[v + 2]]), v);
  return normals;
}
