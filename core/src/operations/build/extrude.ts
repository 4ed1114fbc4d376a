import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { evenOffset, faceAreaVector, faceNormal } from '../../mesh/normals.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { add, cross, length, mean, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { facesOf, isEmpty, selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { averageNormal } from '../shared/frame.ts';
import { faceGroups, outlineOf, wallRound } from '../shared/extrude-walls.ts';

interface ExtrudeParams {
  distance: number;
  faces: 'together' | 'each';
  along: 'average' | 'normals';
  edges: 'on' | 'up';
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick faces, or edges on a border.' };
  if (pickedFaces(cage, selection).length > 0) return undefined;
  const inner = selection.edges.filter((e) => !cage.isBorderEdge(e));
  if (selection.edges.length === 0 && loneOnes(cage, selection).length === 0)
    return {
      found: 'Vertices alone have no face to draw out.',
      where: selection,
      instead: 'Pick the faces or border edges at them (grow the selection).'
    };
  if (inner.length > 0)
    return {
      found: `${inner.length} of the picked edges ${inner.length === 1 ? 'has' : 'have'} faces on both sides: a third face there could not be held.`,
      where: selectEdges(inner),
      instead: 'Pick border edges, or the faces beside.'
    };
  return undefined;
}

/** Picked vertices that no face has: one or two of them are the beginning of a quad. */
const loneOnes = (cage: Cage, { vertices }: Selection): number[] =>
  vertices.length <= 2 && vertices.every((v) => cage.vertexEdge[v] === NONE) ? vertices : [];

/** A square to the right and front of one vertex, or a quad that rises from between two. @returns its edge on the far side */
function beginQuad(cage: Cage, vertices: number[], { distance }: ExtrudeParams): number {
  const at = (v: number, x: number, y: number, z: number) => cage.addVertex(...add(cage.position(v), [x, y, z]));
  const [a] = vertices;
  const b = vertices[1] ?? at(a, distance, 0, 0);
  const [dx, dy, dz] = subtract(cage.position(b), cage.position(a));
  // two that stand above each other are drawn out sideways
  const upright = Math.abs(dy) > 0.7 * Math.hypot(dx, dy, dz);
  const way: Triple = vertices.length === 1 ? [0, 0, distance] : upright ? [distance, 0, 0] : [0, distance, 0];
  const [c, d] = [at(b, ...way), at(a, ...way)];
  replaceFaces(cage, { gone: [], added: [{ corners: vertices.length === 1 ? [a, d, c, b] : [a, b, c, d] }] });
  return cage.findHalfEdge(c, d) >> 1;
}

/** Picked faces, or those whose vertices all are; where edges are picked without faces, the edges are meant. */
const pickedFaces = (cage: Cage, selection: Selection): number[] =>
  selection.edges.length > 0 && selection.faces.length === 0 ? [] : facesOf(cage, selection);

/** Draws one group of faces out; its outline gets a wall of quads. @returns the drawn-out faces */
function drawOut(cage: Cage, group: number[], p: ExtrudeParams): number[] {
  const inside = new Set(group);
  const average = unit(group.reduce<Triple>((sum, f) => add(sum, faceAreaVector(cage, f)), [0, 0, 0]));
  return wallRound(cage, group, (v) =>
    add(cage.position(v), p.along === 'average' ? scaled(average, p.distance) : evenOffset(cage, v, inside, p.distance))
  );
}

/** Half-edges on the border, of edges there. */
const bordersOf = (cage: Cage, edges: number[]): number[] => edges.map((e) => (cage.face[2 * e] === NONE ? 2 * e : 2 * e + 1));

/** The way out from each border half-edge, a unit vector: on in the plane of its face, or up along its normal. */
function waysOut(cage: Cage, borders: number[], how: ExtrudeParams['edges']): Triple[] {
  return borders.map((h) => {
    const inner = h ^ 1;
    const n = faceNormal(cage, cage.face[inner]);
    return how === 'up' ? n : unit(cross(unit(subtract(cage.position(cage.target(inner)), cage.position(cage.origin[inner]))), n));
  });
}

/** New quads at border edges. @returns the edges now on the border */
function drawEdges(cage: Cage, edges: number[], p: ExtrudeParams): number[] {
  const borders = bordersOf(cage, edges);
  const directions = new Map<number, Triple[]>();
  waysOut(cage, borders, p.edges).forEach((way, i) => {
    for (const v of [cage.origin[borders[i]], cage.target(borders[i])]) directions.set(v, [...(directions.get(v) ?? []), way]);
  });
  const far = new Map<number, number>();
  for (const [v, ways] of directions) {
    const middle = unit(mean(ways));
    // as far from each edge as asked, also where two meet at an angle
    const share = Math.max(0.25, middle[0] * ways[0][0] + middle[1] * ways[0][1] + middle[2] * ways[0][2]);
    far.set(v, cage.addVertex(...add(cage.position(v), scaled(middle, p.distance / share))));
  }
  const added = borders.map((h): NewFace => {
    const [a, b] = [cage.origin[h], cage.target(h)];
    return { corners: [a, b, far.get(b)!, far.get(a)!], like: cage.face[h ^ 1] };
  });
  replaceFaces(cage, { gone: [], added });
  return added.map(({ corners }) => cage.findHalfEdge(corners[2], corners[3]) >> 1);
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const p = params as unknown as ExtrudeParams;
  const copy = cage.clone();
  const faces = pickedFaces(cage, selection);
  const lone = loneOnes(cage, selection);
  if (faces.length === 0 && selection.edges.length === 0 && lone.length > 0) {
    if (p.distance === 0) refuse('At 0 mm the quad would have no area.', selection, 'Type a distance.');
    return { cage: copy, selection: selectEdges([beginQuad(copy, lone, p)]), notes: ['A first quad; its far edge is picked, to draw on from.'] };
  }
  if (faces.length === 0) {
    const edges = drawEdges(copy, selection.edges, p);
    return { cage: copy, selection: selectEdges(edges), notes: [`${edges.length} new quad${edges.length === 1 ? '' : 's'} along the border.`] };
  }
  const groups = faceGroups(cage, faces, p.faces === 'together');
  const whole = groups.find((group) => outlineOf(cage, group).length === 0);
  if (whole)
    refuse(
      'These faces form a closed shell: there is no outline to draw out from.',
      selectFaces(whole),
      'Leave some faces unpicked, or move the shell.'
    );
  const drawn = groups.flatMap((group) => drawOut(copy, group, p));
  return {
    cage: copy,
    selection: selectFaces(drawn),
    notes: [`${drawn.length} face${drawn.length === 1 ? '' : 's'} drawn out, ${copy.faceCount - cage.faceCount} new ones round them.`]
  };
}

/** The way that picked faces or border edges are drawn out; nothing where they have no common one. */
function wayOut(cage: Cage, selection: Selection): Triple | undefined {
  const way =
    pickedFaces(cage, selection).length > 0 ? averageNormal(cage, selection) : unit(mean(waysOut(cage, bordersOf(cage, selection.edges), 'on')));
  return length(way) > 0.5 ? way : undefined;
}

/** Draws faces out with walls round them, or border edges on with new quads. */
export const extrude: CageOperation = {
  kind: 'cage',
  id: 'extrude',
  bench: 3,
  name: 'Extrude',
  purpose: 'Draw picked faces out or in with walls round them, border edges on with new quads, or a first quad from a single vertex.',
  icon: 'Upgrade',
  key: 'F',
  goesOn: true,
  needs: 'Pick faces, edges on a border, or a single vertex.',
  knob: { label: 'Draw out', number: 'distance', params: { faces: 'together', along: 'average', edges: 'on' }, along: wayOut },
  params: Joi.object({
    distance: Joi.number().min(-1e6).max(1e6).default(5).label('Distance').unit('mm').meta({ step: 0.5 }),
    faces: Joi.string()
      .valid('together', 'each')
      .default('together')
      .label('Faces')
      .meta({ labels: { together: 'As one', each: 'One by one' } }),
    along: Joi.string()
      .valid('average', 'normals')
      .default('average')
      .label('Along')
      .meta({ labels: { average: 'Their average', normals: 'Their normals' } }),
    edges: Joi.string()
      .valid('on', 'up')
      .default('on')
      .label('Border edges')
      .meta({ labels: { on: 'In the plane of their face', up: 'Upright on their face' } })
  }),
  check,
  run
};
