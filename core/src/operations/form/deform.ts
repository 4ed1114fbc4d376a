import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { evenOffset } from '../../mesh/normals.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { bestFitPlane } from '../../numeric/best-fit.ts';
import { curveThrough, FramedCurve } from '../../numeric/curve.ts';
import { add, between, dot, length, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { emptySelection, isEmpty, islandOf, selectEdges, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { linesOf } from '../shared/chains.ts';
import { intoFrame, outOfFrame } from '../shared/frame.ts';
import { placeExists, pointedPlaces, positionOf, type PointedPlace } from '../shared/places.ts';

type Axis = 'longest' | 'own' | 'X' | 'Y' | 'Z';

/** Which stretch of the picked vertices' extent along an axis a deformation grows over. */
interface Stretch {
  axis: Axis;
  from: number;
  to: number;
  growth: 'even' | 'soft';
}

const needs = 'A cage; with nothing picked the whole part is meant.';
const checkVertices = (cage: Cage): Refusal | undefined =>
  cage.vertexCount === 0 ? { found: 'This part has no vertices.', instead: 'Begin with a start shape, or lay quads.' } : undefined;

const axisField = () =>
  Joi.string()
    .valid('longest', 'own', 'X', 'Y', 'Z')
    .default('longest')
    .label('Along')
    .meta({ labels: { longest: 'Its longest extent', own: 'Along its longest direction' } });

const percent = (label: string, initial: number) => Joi.number().min(0).max(100).default(initial).label(label).unit('%').meta({ step: 5 });
const degrees = (label: string, initial: number) => Joi.number().min(-3600).max(3600).default(initial).label(label).unit('°').meta({ step: 5 });
const stretchFields = {
  axis: axisField(),
  from: percent('Begins at', 0),
  to: percent('Ends at', 100),
  growth: Joi.string()
    .valid('even', 'soft')
    .default('even')
    .label('Ramp')
    .meta({ labels: { even: 'Evenly', soft: 'Eased' } })
};

/** What is picked, or everything. */
const meant = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.vertices()] : verticesOf(cage, selection));

interface Bounds {
  low: Triple;
  high: Triple;
  centre: Triple;
}

function boundsOfPoints(points: Triple[]): Bounds {
  const { min, max } = boundsOf(points.flat());
  return { low: min, high: max, centre: between(min, max, 0.5) };
}

/** The directions a deformation works in, which of them it runs along, and the extent of what is meant, in them. */
interface Along {
  k: number;
  bounds: Bounds;
  /** coordinates along the three directions */
  into(p: Triple): Triple;
  out(q: Triple): Triple;
}

function alongAxis(cage: Cage, vertices: number[], axis: Axis): Along {
  const points = vertices.map((v) => cage.position(v));
  if (axis === 'own') {
    const { u, v, normal } = bestFitPlane(points);
    const axes = { axes: [u, v, normal] as [Triple, Triple, Triple], pivot: [0, 0, 0] as Triple };
    const into = (p: Triple) => intoFrame(axes, p);
    return { k: 0, bounds: boundsOfPoints(points.map(into)), into, out: (q) => outOfFrame(axes, q) };
  }
  const bounds = boundsOfPoints(points);
  const extent = (i: number) => bounds.high[i] - bounds.low[i];
  const k = axis === 'longest' ? [0, 1, 2].reduce((a, b) => (extent(b) > extent(a) ? b : a)) : 'XYZ'.indexOf(axis);
  return { k, bounds, into: (p) => p, out: (q) => q };
}

/** Puts the meant vertices to new places. */
function deformed(cage: Cage, selection: Selection, change: (p: Triple, v: number) => Triple, notes: string[] = []): CageResult {
  const copy = cage.clone();
  for (const v of meant(cage, selection)) copy.positions.set(change(cage.position(v), v), 3 * v);
  return { cage: copy, selection, notes };
}

/** How far along its stretch a place lies: 0 before it, 1 behind it; and its way from the stretch's begin in mm. */
function alongStretch(s: Stretch, { k, bounds: { low, high } }: Along): { share(p: Triple): number; begin: number; end: number } {
  const extent = high[k] - low[k];
  const begin = low[k] + (extent * s.from) / 100;
  const end = low[k] + (extent * s.to) / 100;
  const share = (p: Triple) => {
    const t = end > begin ? Math.min(1, Math.max(0, (p[k] - begin) / (end - begin))) : Number(p[k] > begin);
    return s.growth === 'soft' ? t * t * (3 - 2 * t) : t;
  };
  return { share, begin, end };
}

function stretchCheck(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const { axis, from, to } = params as unknown as Stretch;
  if (from >= to) return { numbers: true, found: `The range begins at ${from} % and ends at ${to} %.`, instead: 'Lower the start.' };
  if (cage.vertexCount === 0) return checkVertices(cage);
  const {
    k,
    bounds: { low, high }
  } = alongAxis(cage, meant(cage, selection), axis);
  if (high[k] - low[k] < 1e-9)
    return {
      numbers: true,
      found: `What is picked has no extent along ${axis.length === 1 ? axis : 'any axis'}.`,
      where: selection,
      instead: 'Choose another axis, or pick more.'
    };
  return checkVertices(cage);
}

/** Turns a point about an axis through a centre. */
function turnedAbout(p: Triple, k: number, centre: Triple, angle: number): Triple {
  const [i, j] = [(k + 1) % 3, (k + 2) % 3];
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const [a, b] = [p[i] - centre[i], p[j] - centre[j]];
  const q: Triple = [...p];
  q[i] = centre[i] + c * a - s * b;
  q[j] = centre[j] + s * a + c * b;
  return q;
}

export const twist: CageOperation = {
  kind: 'cage',
  id: 'twist',
  bench: 3,
  group: 'Form',
  name: 'Twist',
  purpose: 'Turn the far end against the near one about an axis, growing along a stretch.',
  icon: 'Renew',
  needs,
  params: Joi.object({ angle: degrees('Angle', 45), ...stretchFields }),
  check: stretchCheck,
  run: (cage, selection, params) => {
    const along = alongAxis(cage, meant(cage, selection), params.axis as Axis);
    const { share } = alongStretch(params as unknown as Stretch, along);
    const angle = ((params.angle as number) * Math.PI) / 180;
    return deformed(cage, selection, (p) => {
      const q = along.into(p);
      return along.out(turnedAbout(q, along.k, along.bounds.centre, angle * share(q)));
    });
  }
};

export const taper: CageOperation = {
  kind: 'cage',
  id: 'taper',
  bench: 3,
  group: 'Form',
  name: 'Taper',
  purpose: 'Make the far end narrower or wider than the near one, growing along a stretch.',
  icon: 'SortAscending',
  needs,
  params: Joi.object({
    size: Joi.number().min(0).max(1000).default(50).label('Far end').unit('%').meta({ step: 5 }),
    ...stretchFields
  }),
  check: (cage, selection, params) =>
    params.size === 0
      ? { found: 'At 0 % the far end would become one point.', instead: 'Use 0.1 % or more, or Collapse to make one vertex of it.' }
      : stretchCheck(cage, selection, params),
  run: (cage, selection, params) => {
    const { k, bounds, into, out } = alongAxis(cage, meant(cage, selection), params.axis as Axis);
    const { share } = alongStretch(params as unknown as Stretch, { k, bounds, into, out });
    const size = (params.size as number) / 100;
    return deformed(cage, selection, (p) => {
      const q = into(p);
      const factor = 1 + (size - 1) * share(q);
      return out(q.map((x, i) => (i === k ? x : bounds.centre[i] + factor * (x - bounds.centre[i]))) as Triple);
    });
  }
};

export const bend: CageOperation = {
  kind: 'cage',
  id: 'bend',
  bench: 3,
  group: 'Form',
  name: 'Bend',
  purpose: 'Bend a stretch into an arc of an angle; what lies before it stays, what lies behind goes on straight.',
  icon: 'DirectionCurve',
  needs,
  params: Joi.object({
    angle: degrees('Angle', 45),
    towards: degrees('Turned about the axis by', 0),
    axis: stretchFields.axis,
    from: stretchFields.from,
    to: stretchFields.to
  }),
  check: stretchCheck,
  run: (cage, selection, params) => {
    const { k, bounds, into, out } = alongAxis(cage, meant(cage, selection), params.axis as Axis);
    const { begin, end } = alongStretch({ ...(params as unknown as Stretch), growth: 'even' }, { k, bounds, into, out });
    const angle = ((params.angle as number) * Math.PI) / 180;
    const turn = ((params.towards as number) * Math.PI) / 180;
    if (Math.abs(angle) < 1e-12) return deformed(cage, selection, (p) => p);
    const side = (k + 1) % 3;
    const radius = (end - begin) / angle;
    // the middle line becomes an arc of the stretch's length about a line `radius` to the side
    return deformed(cage, selection, (original) => {
      const p = turnedAbout(into(original), k, bounds.centre, -turn);
      const way = Math.min(end - begin, Math.max(0, p[k] - begin));
      const beyond = p[k] - begin - way;
      const a = way / radius;
      const off = radius - (p[side] - bounds.centre[side]);
      const q: Triple = [...p];
      q[k] = begin + off * Math.sin(a) + beyond * Math.cos(a);
      q[side] = bounds.centre[side] + radius - off * Math.cos(a) + beyond * Math.sin(a);
      return out(turnedAbout(q, k, bounds.centre, turn));
    });
  }
};

export const inflate: CageOperation = {
  kind: 'cage',
  id: 'inflate',
  bench: 3,
  group: 'Form',
  name: 'Inflate',
  purpose: 'Push what is picked out along its normals, and towards a ball.',
  icon: 'Maximize',
  needs,
  params: Joi.object({
    distance: Joi.number().min(-1e6).max(1e6).default(1).label('Distance').unit('mm').meta({ step: 0.5 }),
    ball: percent('Towards a ball', 0)
  }),
  check: checkVertices,
  run: (cage, selection, params) => {
    const vertices = meant(cage, selection);
    const { centre } = boundsOfPoints(vertices.map((v) => cage.position(v)));
    const radius = vertices.reduce((sum, v) => sum + length(subtract(cage.position(v), centre)), 0) / vertices.length;
    const all = new Set(cage.faces());
    return deformed(cage, selection, (p, v) => {
      const out = cage.vertexEdge[v] < 0 ? p : add(p, evenOffset(cage, v, all, params.distance as number));
      const onBall = add(centre, scaled(unit(subtract(out, centre)), radius + (params.distance as number)));
      return between(out, onBall, (params.ball as number) / 100);
    });
  }
};

interface AlongCurveParams {
  points: PointedPlace[];
  axis: Axis;
  fit: 'keep' | 'stretch';
  roll: number;
  turned: boolean;
}

/** The chain of picked edges that serves as the curve, where no curve was drawn. */
function curveChain(cage: Cage, selection: Selection): number[] | undefined {
  const lines = linesOf(cage, { ...emptySelection(), edges: selection.edges });
  return lines.length === 1 && !lines[0].closed ? lines[0].vertices : undefined;
}

/** Picked vertices and faces; with only the curve picked, all islands it does not lie in. */
function meantBesideCurve(cage: Cage, selection: Selection, drawn: boolean): number[] {
  if (drawn) return meant(cage, selection);
  const others = { ...selection, edges: [] };
  if (!isEmpty(others)) return verticesOf(cage, others);
  const [e] = selection.edges;
  const own = new Set(verticesOf(cage, { ...emptySelection(), faces: islandOf(cage, [Math.max(cage.face[2 * e], cage.face[2 * e + 1])]) }));
  return [...cage.vertices()].filter((v) => !own.has(v));
}

function checkCurve(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const { points } = params as unknown as AlongCurveParams;
  const lost = points.findIndex((p) => !placeExists(cage, p));
  if (lost >= 0) return { found: `Point ${lost + 1} of the curve lies on an element that is not there any more.`, instead: 'Draw the curve again.' };
  if (points.length >= 2) return checkVertices(cage);
  if (selection.edges.length === 0)
    return {
      found: `The curve has ${points.length === 0 ? 'no points' : 'one point only'}.`,
      instead: 'Click points of it on the stand, or pick a chain of edges before.'
    };
  if (!curveChain(cage, selection))
    return { found: 'The picked edges are no single open chain.', where: selectEdges(selection.edges), instead: 'Pick one chain with two ends.' };
  if (meantBesideCurve(cage, selection, false).length === 0)
    return {
      found: 'The part has nothing but the island the chain lies in.',
      where: selection,
      instead: 'Pick the faces to be bent as well, or draw the curve.'
    };
  return undefined;
}

/** Lays what is picked along a drawn curve or a chain of edges. */
export const alongCurve: CageOperation = {
  kind: 'cage',
  id: 'along-curve',
  bench: 3,
  group: 'Form',
  name: 'Bend along a curve',
  purpose: 'Lay what is picked, or the whole part, along a curve drawn on the stand or a picked chain of edges.',
  icon: 'ChartLineSmooth',
  pointed: 'space',
  needs: 'A cage; a curve is drawn by clicking, or a chain of edges is picked before.',
  once: ['points'],
  params: Joi.object({
    points: pointedPlaces(true),
    axis: axisField(),
    fit: Joi.string()
      .valid('keep', 'stretch')
      .default('stretch')
      .label('Length')
      .meta({ labels: { keep: 'As it is', stretch: "The curve's" } }),
    roll: degrees('Roll', 0),
    turned: Joi.boolean().default(false).label('From the other end')
  }),
  check: checkCurve,
  run: (cage, selection, params) => {
    const p = params as unknown as AlongCurveParams;
    const drawn = p.points.length >= 2;
    const points = drawn ? p.points.map((q) => positionOf(cage, q)) : curveChain(cage, selection)!.map((v) => cage.position(v));
    if (points.every((q) => length(subtract(q, points[0])) < 1e-9))
      refuse('All points of the curve lie in one place.', selection, 'Draw a curve with some length, or pick a longer chain.');
    const vertices = meantBesideCurve(cage, selection, drawn);
    const { k, bounds, into, out } = alongAxis(cage, vertices, p.axis);
    const { low, high, centre } = bounds;
    const [i, j] = [(k + 1) % 3, (k + 2) % 3];
    const unitOf = (n: number) => out([Number(n === 0), Number(n === 1), Number(n === 2)]);
    // the end nearer the curve's beginning comes first; a part that is turned round keeps its flat side up
    const along = dot(subtract(points[points.length - 1], points[0]), unitOf(k)) < 0 ? -1 : 1;
    const onItsBack = p.turned && high[i] - low[i] > high[j] - low[j];
    const curve = new FramedCurve(curveThrough(p.turned ? [...points].reverse() : points), scaled(unitOf(i), onItsBack ? -along : along));
    const extent = high[k] - low[k];
    const copy = cage.clone();
    const [c, s] = [Math.cos((p.roll * Math.PI) / 180), Math.sin((p.roll * Math.PI) / 180)];
    for (const v of vertices) {
      const q = into(cage.position(v));
      const way = along > 0 ? q[k] - low[k] : high[k] - q[k];
      const frame = curve.at(p.fit === 'stretch' && extent > 0 ? (way / extent) * curve.length : way);
      const [a, b] = [along * (q[i] - centre[i]), q[j] - centre[j]];
      copy.positions.set(add(frame.point, add(scaled(frame.side, c * a - s * b), scaled(frame.up, s * a + c * b))), 3 * v);
    }
    const notes = [`The curve is ${curve.length.toFixed(1)} mm long; what lies along it was ${extent.toFixed(1)} mm.`];
    return { cage: copy, selection: drawn ? selection : { ...selection, edges: [] }, notes };
  }
};
