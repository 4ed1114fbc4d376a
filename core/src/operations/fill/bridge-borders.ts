import Joi from 'joi';
import { bridge, firstLink, type Rim, type Transition } from '../../fill/bridge.ts';
import { describeHole, holeThrough, outOfRound, type Hole } from '../../fill/hole.ts';
import { type Cage } from '../../mesh/cage.ts';
import { followFaces } from '../../mesh/followed-faces.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { islands } from '../../mesh/topology.ts';
import { add, dot, length, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { selectEdges, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { applyOperation } from '../apply.ts';
import { makeRound } from '../form/make-round.ts';
import { brace } from '../loops/brace.ts';
import { type CageOperation, type CageResult, type Grip, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { edgesIn, linesOf, type VertexLine } from '../shared/chains.ts';
import { faceGroups } from '../shared/extrude-walls.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { counted } from '../shared/words.ts';
import { bordersOf, chainsPicked, edgesOfHoles, pickedByBorder } from './borders-meant.ts';
import { pairUp, unequalPins, wantedCounts } from './pair-up.ts';

interface BridgeParams {
  rows: number;
  offset: number;
  curved: number;
  unequal: 'quads' | 'three' | 'four' | 'loops' | 'refuse';
  round: 'none' | 'rounder' | 'both';
  brace: number;
}

const TRANSITIONS: Partial<Record<BridgeParams['unequal'], Transition>> = { three: '3:1', four: '4:2' };

/** What is joined: whole borders, chains of their edges, or the outlines of face groups, which go. */
interface Meant {
  kind: 'borders' | 'chains' | 'faces';
  /** vertices of each, in order along its border */
  rims: VertexLine[];
}

/** The rims a selection means; with nothing picked all borders, where there are two. */
function rimsMeant(cage: Cage, selection: Selection): Meant {
  const groups = faceGroups(cage, selection.faces, true);
  if (selection.edges.length === 0 && groups.length > 1) return { kind: 'faces', rims: groups.map((group) => outerLine(cage, group)) };
  const chains = chainsPicked(cage, selection).filter((chain) => chain.length > 1);
  if (chains.length > 1) return { kind: 'chains', rims: chains.map((halves) => ({ vertices: ends(cage, halves), closed: false })) };
  const { holes } = bordersOf(cage);
  const meant = pickedByBorder(cage, selection, holes, (hole) => [hole]) ?? (holes.length === 2 ? holes : []);
  return { kind: 'borders', rims: meant.map(({ vertices }) => ({ vertices, closed: true })) };
}

const ends = (cage: Cage, halves: readonly number[]) => [...halves.map((h) => cage.origin[h]), cage.target(halves[halves.length - 1])];

/** The outline of a group of faces; of several the longest. */
const outerLine = (cage: Cage, group: number[]): VertexLine =>
  linesOf(cage, selectFaces(group)).reduce((a, b) => (b.vertices.length > a.vertices.length ? b : a));

/** In pairs: those first that belong to two pieces or whose open sides face each other, of these the nearest ones. */
function pairs<T extends { vertices: number[] }>(cage: Cage, rims: readonly T[]): [T, T][] {
  const left = new Set(rims);
  const middle = new Map(rims.map((rim) => [rim, mean(rim.vertices.map((v) => cage.position(v)))]));
  const { islandOf } = islands(cage);
  const pieceOf = ({ vertices }: T) => islandOf[cage.face[cage.spokes(vertices[0]).find((h) => cage.face[h] !== NONE)!]];
  const open = new Map(rims.map((rim) => [rim, openWay(cage, rim.vertices)]));
  const all = rims
    .flatMap((a, i) =>
      rims.slice(i + 1).map((b) => {
        const way = subtract(middle.get(b)!, middle.get(a)!);
        const facing = dot(open.get(a)!, way) > 0 && dot(open.get(b)!, way) < 0;
        return { a, b, far: length(way), isMeant: facing || pieceOf(a) !== pieceOf(b) };
      })
    )
    .sort((x, y) => Number(y.isMeant) - Number(x.isMeant) || x.far - y.far);
  const found: [T, T][] = [];
  for (const { a, b } of all)
    if (left.has(a) && left.has(b)) {
      found.push([a, b]);
      left.delete(a);
      left.delete(b);
    }
  return found;
}

/** The way that a border's open side lies: from the vertices beside it to its own. */
function openWay(cage: Cage, vertices: readonly number[]): Triple {
  const own = new Set(vertices);
  let sum: Triple = [0, 0, 0];
  for (const v of vertices)
    for (const h of cage.spokes(v)) if (!own.has(cage.target(h))) sum = add(sum, subtract(cage.position(v), cage.position(cage.target(h))));
  return sum;
}

function check(cage: Cage, selection: Selection, params: BridgeParams): Refusal | undefined {
  const { kind, rims } = rimsMeant(cage, selection);
  if (rims.length === 0 || rims.length % 2 !== 0) {
    const what = kind === 'chains' ? 'chains' : kind === 'faces' ? 'face groups' : 'borders';
    return {
      found: `${rims.length === 0 ? 'No border is' : rims.length === 1 ? 'One border is' : `${rims.length} ${what} are`} picked; a bridge joins two, or several pairs.`,
      where:
        kind === 'borders' && rims.length === 0 ? edgesOfHoles(...bordersOf(cage).holes) : selectVertices(rims.flatMap(({ vertices }) => vertices)),
      instead: 'Pick an edge of each border, two chains of border edges, or two groups of faces.'
    };
  }
  for (const [a, b] of pairs(cage, rims)) {
    const shared = a.vertices.filter((v) => b.vertices.includes(v));
    if (shared.length > 0)
      return {
        found: `The two ${kind === 'chains' ? 'chains' : 'borders'} share ${counted(shared.length, 'vertex', 'vertices')}.`,
        where: selectVertices(shared),
        instead: 'Open them there first.'
      };
    const [m, n] = [edgesIn(a), edgesIn(b)];
    if (m === n) continue;
    const where = selectVertices([...a.vertices, ...b.vertices]);
    if (params.unequal === 'refuse')
      return {
        found: `The borders have ${m} and ${n} edges.`,
        where,
        instead: `Add ${counted(Math.abs(m - n), 'loop')} on the side with fewer edges, or allow quads with three corners on one rim.`,
        numbers: true
      };
    const pins = params.unequal === 'loops' ? unequalPins(cage, a, b) : undefined;
    if (pins) return { ...pins, where, numbers: true };
  }
  return undefined;
}

function run(cage: Cage, selection: Selection, p: BridgeParams): CageResult {
  let copy = cage.clone();
  const { kind, rims } = rimsMeant(cage, selection);
  if (kind === 'faces') replaceFaces(copy, { gone: selection.faces, added: [] });
  const made: { faces: number[]; squarer: number[] }[] = [];
  const notes: string[] = [];
  for (const pair of pairs(cage, rims)) {
    const off = new Map(pair.map((rim) => [rim, outOfRound(rim.vertices.map((v) => cage.position(v)))]));
    const [rounder, squarer] = [...pair].sort((x, y) => off.get(x)! - off.get(y)!);
    const squarerAt = pair.indexOf(squarer);
    for (const rim of p.round === 'none' ? [] : p.round === 'rounder' ? [rounder] : pair) {
      const result = applyOperation(makeRound, copy, selectEdges(rimOf(copy, rim).halves.map((h) => h >> 1)), {});
      copy = result.cage;
      notes.push(...result.notes);
    }
    if (p.unequal === 'loops') {
      const [m, n] = wantedCounts(cage, pair[0], pair[1]);
      const paired = pair.map((rim, i) => {
        if (!rim.closed) return rim;
        const result = pairUp(copy, rim.vertices, i === 0 ? m : n);
        copy = result.cage;
        if (result.added > 0) notes.push(`${counted(result.added, 'loop')} added on the rim of ${edgesIn(rim)} edges.`);
        return { vertices: result.vertices, closed: true };
      });
      pair.splice(0, 2, ...paired);
    }
    const [a, b] = pair.map((rim) => rimOf(copy, rim));
    const faces = bridge(copy, a, b, { ...p, transition: TRANSITIONS[p.unequal] });
    const triangles = faces.filter((f) => copy.faceSize(f) === 3).length;
    const odd = triangles > 0 ? ` One triangle is left: the counts together are odd.` : '';
    notes.push(`${describeRim(cage, pair[0])}, joined to ${describeRim(cage, pair[1])}: ${counted(faces.length, 'face')}.${odd}`);
    made.push({ faces, squarer: pair[squarerAt].vertices });
  }
  const faces = made.flatMap((one) => one.faces);
  if (p.brace === 0) return { cage: copy, selection: selectFaces(faces), notes };
  const between = ({ squarer }: { squarer: number[] }) => squarer.map((v, i) => copy.findHalfEdge(v, squarer[(i + 1) % squarer.length]));
  const rimEdges = made.flatMap(between).flatMap((h) => (h === NONE ? [] : [h >> 1]));
  const braced = followFaces(copy, faces, (marked) => applyOperation(brace, marked, selectEdges(rimEdges), { width: p.brace }));
  return { cage: braced.cage, selection: selectFaces(braced.faces), notes: [...notes, ...braced.notes] };
}

/** The first link of the nearest pair of borders, whose end can be dragged along the second one. */
function grips(cage: Cage, selection: Selection, params: Params): Grip[] {
  const { kind, rims } = rimsMeant(cage, selection);
  if (kind !== 'borders' || rims.length < 2 || check(cage, selection, params as unknown as BridgeParams)) return [];
  const [a, b] = pairs(cage, rims)[0].map((rim) => rimOf(cage, rim));
  // loops are added first: their vertices are not there yet
  if (params.unequal === 'loops' && a.halves.length !== b.halves.length) return [];
  const { from, to } = firstLink(cage, a, b);
  const n = to.length;
  const offset = (((params.offset as number) % n) + n) % n;
  // the shorter way round
  const stops = to.map((v, k) => ({ at: cage.position(v), params: { offset: k > n / 2 ? k - n : k } }));
  return [{ label: 'End of the first link', from: cage.position(from), at: stops[offset].at, stops }];
}

/** Half-edges of a rim as it is now. */
function rimOf(cage: Cage, { vertices, closed }: VertexLine): Rim {
  const found = holeThrough(cage, vertices);
  if (!found) return refuse('The border is gone.', selectVertices(vertices), 'Pick the borders again.');
  if (closed) return { halves: found.halves, closed };
  return { halves: vertices.slice(1).map((w, i) => cage.findHalfEdge(vertices[i], w)), closed };
}

function describeRim(cage: Cage, rim: VertexLine): string {
  const hole: Hole | undefined = rim.closed ? holeThrough(cage, rim.vertices) : undefined;
  return hole && hole.vertices.length === rim.vertices.length ? describeHole(hole) : counted(edgesIn(rim), 'edge');
}

/** Joins borders, chains or face groups by rows of quads. */
export const bridgeOperation: CageOperation = {
  kind: 'cage',
  id: 'bridge',
  // every turn of one border against the other is looked at
  seconds: (cage) => 2.5e-7 * bordersOf(cage).holes.reduce((sum, { vertices }) => sum + vertices.length, 0) ** 2,
  bench: 5,
  key: 'X',
  group: 'Holes',
  name: 'Bridge',
  keepsSurface: 'beside',
  purpose:
    'Join two borders, chains or groups of faces, or several pairs, by rows of quads, straight or curved, also where their counts differ; square to round, with a brace at the square rim.',
  icon: 'Connect',
  needs: 'Two borders: pick an edge of each; or two chains of border edges, or two groups of faces.',
  params: Joi.object({
    rows: Joi.number().integer().min(1).max(200).default(1).label('Rows').meta({ step: 1 }),
    offset: Joi.number().integer().min(-2000).max(2000).default(0).label('Start offset').meta({ step: 1 }),
    curved: Joi.number()
      .min(0)
      .max(3)
      .default(0)
      .label('Tension')
      .meta({ step: 0.1, slider: true })
      .description('0 straight, more continues the faces at both rims'),
    unequal: Joi.string()
      .valid('quads', 'three', 'four', 'loops', 'refuse')
      .default('quads')
      .label('Unequal counts')
      .meta({
        labels: {
          quads: 'Quads that match the edge counts',
          three: 'Transitions of 3 to 1',
          four: 'Transitions of 4 to 2',
          loops: 'Pair up: add loops on the side with fewer edges',
          refuse: 'Stop'
        }
      }),
    round: Joi.string()
      .valid('none', 'rounder', 'both')
      .default('none')
      .label('Make round')
      .meta({ labels: { none: 'Neither rim', rounder: 'The rounder rim', both: 'Both rims' }, more: true }),
    brace: Joi.number().min(0).default(0).label('Brace the squarer rim').unit('mm').meta({ step: 0.5, more: true }),
    keepSurface: keepSurfaceField()
  }),
  check: (cage, selection, params) => check(cage, selection, params as unknown as BridgeParams),
  grips,
  run: (cage, selection, params) => run(cage, selection, params as unknown as BridgeParams)
};
