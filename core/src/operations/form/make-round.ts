import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { bestFitCircle, bestFitPlane, fromPlane, inPlane, type Plane } from '../../numeric/best-fit.ts';
import { between, type Triple } from '../../numeric/vectors.ts';
import { emptySelection, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { linesOf, type VertexLine } from '../shared/chains.ts';

interface MakeRoundParams {
  size: 'fit' | 'typed';
  radius: number;
  phase: number;
  roundness: number;
  spacing: 'even' | 'own';
  flat: boolean;
}

/** Loops and chains of the selection; picked vertices alone are one ring, in turn round their middle. */
function ringsOf(cage: Cage, selection: Selection): VertexLine[] {
  if (selection.edges.length + selection.faces.length > 0) return linesOf(cage, selection);
  if (selection.vertices.length < 3) return [];
  const plane = bestFitPlane(selection.vertices.map((v) => cage.position(v)));
  const angle = (v: number) => {
    const [x, y] = inPlane(plane, cage.position(v));
    return Math.atan2(y, x);
  };
  return [{ vertices: [...selection.vertices].sort((a, b) => angle(a) - angle(b)), closed: true }];
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  const rings = ringsOf(cage, selection);
  if (rings.length === 0) return { found: 'No loop is picked.', instead: 'Pick a loop, a chain of two edges or more, faces, or three vertices.' };
  const short = rings.find(({ vertices }) => vertices.length < 3);
  if (short)
    return { found: 'A single edge has no roundness.', where: selectVertices(short.vertices), instead: 'Pick the edges that follow it as well.' };
  return undefined;
}

/** Angles round the circle for every vertex of a line: evenly from one another, or those they have. */
function anglesOf(points: Triple[], closed: boolean, spacing: MakeRoundParams['spacing']): number[] {
  // unrolled, so that each follows the one before by less than half a turn
  const own = [Math.atan2(points[0][1], points[0][0])];
  for (let i = 1; i < points.length; i++) {
    const step = Math.atan2(points[i][1], points[i][0]) - own[i - 1];
    own.push(own[i - 1] + step - 2 * Math.PI * Math.round(step / (2 * Math.PI)));
  }
  if (spacing === 'own') return own;
  const n = points.length;
  if (!closed) return own.map((_, i) => own[0] + ((own[n - 1] - own[0]) * i) / (n - 1));
  const turn = own[n - 1] >= own[0] ? 2 * Math.PI : -2 * Math.PI;
  const start = own.reduce((sum, a, i) => sum + a - (turn * i) / n, 0) / n;
  return own.map((_, i) => start + (turn * i) / n);
}

function rounded(cage: Cage, { vertices, closed }: VertexLine, p: MakeRoundParams): { places: Triple[]; radius: number; off: number } {
  const at = vertices.map((v) => cage.position(v));
  const fitted: Plane = bestFitPlane(at);
  const flat = at.map((q) => inPlane(fitted, q));
  const circle = bestFitCircle(flat);
  if (!circle) refuse('These vertices lie on a line: no circle runs through them.', selectVertices(vertices), 'Pick a loop, or a chain that bends.');
  const radius = p.size === 'typed' ? p.radius : circle.radius;
  const round = flat.map(([x, y, z]): Triple => [x - circle.x, y - circle.y, z]);
  const angles = anglesOf(round, closed, p.spacing);
  const phase = (p.phase * Math.PI) / 180;
  const places = angles.map((a, i) => {
    const onCircle: Triple = [circle.x + radius * Math.cos(a + phase), circle.y + radius * Math.sin(a + phase), p.flat ? 0 : flat[i][2]];
    return between(at[i], fromPlane(fitted, onCircle), p.roundness / 100);
  });
  const off = Math.max(...round.map(([x, y, z]) => Math.hypot(Math.hypot(x, y) - circle.radius, z)));
  return { places, radius, off };
}

/** Spreads what the outline of picked faces was moved by over the vertices inside, as evenly as can be (harmonic). */
function spreadInside(before: Cage, after: Cage, inside: number[]): void {
  const free = new Set(inside);
  const shift = new Map<number, Triple>();
  const shiftOf = (v: number): Triple => {
    const known = shift.get(v);
    if (known) return known;
    const [p, q] = [before.position(v), after.position(v)];
    return [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
  };
  for (let pass = 0; pass < 100; pass++)
    for (const v of free) {
      const spokes = before.spokes(v);
      const sum: Triple = [0, 0, 0];
      for (const h of spokes) shiftOf(before.target(h)).forEach((s, k) => (sum[k] += s / spokes.length));
      shift.set(v, sum);
    }
  for (const [v, s] of shift)
    after.positions.set(
      before.position(v).map((p, k) => p + s[k]),
      3 * v
    );
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const p = params as unknown as MakeRoundParams;
  const copy = cage.clone();
  const rings = ringsOf(cage, selection);
  const onRing = new Set<number>();
  const notes: string[] = [];
  for (const ring of rings) {
    const { places, radius, off } = rounded(cage, ring, p);
    ring.vertices.forEach((v, i) => {
      onRing.add(v);
      copy.positions.set(places[i], 3 * v);
    });
    if (rings.length <= 4)
      notes.push(
        `${counted(ring.vertices.length, 'vertex', 'vertices')} on ${ring.closed ? 'a circle' : 'an arc'} of radius ${radius.toFixed(3)} mm; they were off it by up to ${off.toFixed(3)} mm.`
      );
  }
  if (rings.length > 4) notes.push(`${rings.length} circles.`);
  const inside = verticesOf(cage, { ...emptySelection(), faces: selection.edges.length > 0 ? [] : selection.faces }).filter((v) => !onRing.has(v));
  if (inside.length > 0) spreadInside(cage, copy, inside);
  return { cage: copy, selection, notes };
}

/** Puts loops on their best-fit circle, chains on their best-fit arc. */
export const makeRound: CageOperation = {
  kind: 'cage',
  id: 'make-round',
  bench: 3,
  group: 'Form',
  name: 'Make round',
  purpose: 'Put a loop, the outline of faces or a ring of vertices on its best-fit circle; a chain on an arc.',
  icon: 'CircleDash',
  needs: 'Pick a loop, a chain, faces, or three vertices.',
  params: Joi.object({
    size: Joi.string()
      .valid('fit', 'typed')
      .default('fit')
      .label('Size')
      .meta({ labels: { fit: 'Best fit', typed: 'Typed radius' } }),
    radius: Joi.number()
      .greater(0)
      .max(1e6)
      .default(10)
      .label('Radius')
      .unit('mm')
      .meta({ step: 0.5, when: { field: 'size', is: 'typed' } }),
    phase: Joi.number().min(-360).max(360).default(0).label('Turned by').unit('°').meta({ step: 5 }),
    roundness: Joi.number().min(0).max(100).default(100).label('Roundness').unit('%').meta({ step: 5 }),
    spacing: Joi.string()
      .valid('even', 'own')
      .default('even')
      .label('Spacing')
      .meta({ labels: { even: 'Even', own: 'As it is' } }),
    flat: Joi.boolean().default(true).label('Flatten as well')
  }),
  check,
  run
};
