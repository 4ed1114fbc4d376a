import Joi from 'joi';
import { checkCast } from '../logbook/job-file-entry.ts';
import { type Cage } from '../mesh/cage.ts';
import { cageOfFaces } from '../mesh/join-cages.ts';
import { boundsOf, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { borderLoops } from '../mesh/topology.ts';
import { areaVector, cross, dot, length, mean, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { type Footing } from './footings.ts';

/** A piece that is kept for use in any job: its foot at 0, standing along Y, mm. */
export interface Spare {
  format: 'ulvrin-spare';
  version: 1;
  name: string;
  tags: readonly string[];
  mesh: PolygonMesh;
}

/** Something that is no spare, or one of another version; the message is a sentence. */
export class SpareError extends Error {}

/**
 * Keeps faces of a cage as a spare, with their creases, corners, regions and colours. A piece that is open at one border stands on that; any other
 * on the middle of its lowest side.
 */
export function spareOf(cage: Cage, faces: readonly number[], name: string, tags: readonly string[]): Spare {
  if (faces.length === 0) throw new SpareError('There is nothing to keep: pick faces, or nothing for the whole part.');
  const piece = cageOfFaces(cage, [...faces]).cage;
  const mesh = piece.toPolygons();
  const { foot, up } = standOf(piece);
  const across = unit(Math.abs(up[0]) < 0.9 ? cross(up, [1, 0, 0]) : cross(up, [0, 0, 1]));
  // up along Y: what stood upright keeps its own sides
  const x: Triple = Math.abs(up[1]) > 0.999 && up[1] > 0 ? [1, 0, 0] : across;
  const z = cross(x, up);
  const positions = mesh.positions.slice();
  for (let i = 0; i < positions.length; i += 3) {
    const from = subtract(mesh.positions.slice(i, i + 3) as unknown as number[], foot);
    [positions[i], positions[i + 1], positions[i + 2]] = [dot(from, x), dot(from, up), dot(from, z)];
  }
  return { format: 'ulvrin-spare', version: 1, name, tags: [...tags], mesh: { ...mesh, positions } };
}

function standOf(piece: Cage): { foot: Triple; up: Triple } {
  const borders = borderLoops(piece);
  if (borders.length === 1) {
    const rim = borders[0].map((h) => piece.position(piece.origin[h]));
    // a border runs round the hole, seen from outside: the hole faces away from the piece
    const out = areaVector(rim);
    if (length(out) > 0) return { foot: mean(rim), up: scaled(unit(out), outward(piece, mean(rim), out)) };
  }
  const { min, max } = boundsOf(piece.toPolygons().positions);
  return { foot: [(min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2], up: [0, 1, 0] };
}

/** 1 where the piece lies on that side of its border, -1 where on the other. */
function outward(piece: Cage, foot: Triple, normal: Triple): number {
  let sum = 0;
  for (const v of piece.vertices()) sum += dot(subtract(piece.position(v), foot), normal);
  return sum >= 0 ? 1 : -1;
}

/** How a spare is put in place. */
export interface Placing {
  /** times its size */
  scale: number;
  /** degrees about the direction it stands in */
  turn: number;
  /** also on the other side of the plane X = 0 */
  mirrored: boolean;
}

/** A spare at each of some footings, as one mesh. */
export function placedSpare({ mesh }: Spare, footings: readonly Footing[], { scale, turn, mirrored }: Placing): PolygonMesh {
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const copies = footings.map(({ at, up, x }) => {
    const z = cross(x, up);
    const positions = new Float64Array(mesh.positions.length);
    for (let i = 0; i < positions.length; i += 3) {
      const [a, b, c] = [mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2]];
      const [u, w] = [scale * (cos * a + sin * c), scale * (cos * c - sin * a)];
      for (let k = 0; k < 3; k++) positions[i + k] = at[k] + u * x[k] + scale * b * up[k] + w * z[k];
    }
    return { ...mesh, positions };
  });
  return together(mirrored ? copies.flatMap((copy) => [copy, mirror(copy)]) : copies);
}

/** The other side of the plane X = 0; faces run round the other way, so that they face outward again. */
function mirror(mesh: PolygonMesh): PolygonMesh {
  const positions = mesh.positions.slice();
  for (let i = 0; i < positions.length; i += 3) positions[i] = -positions[i];
  const faceVertices = mesh.faceVertices.slice();
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1]).reverse();
  // corners run the other way, too: what lies on them would not fit
  return { ...mesh, positions, faceVertices, cornerUv: undefined };
}

function together(meshes: readonly PolygonMesh[]): PolygonMesh {
  if (meshes.length === 1) return meshes[0];
  const [first] = meshes;
  const vertices = first.positions.length / 3;
  const corners = first.faceVertices.length;
  const wholes = (of: (mesh: PolygonMesh) => Int32Array | undefined, by: number) =>
    of(first) && Int32Array.from(meshes.flatMap((mesh, k) => [...of(mesh)!].map((id) => id + k * by)));
  const reals = (of: (mesh: PolygonMesh) => Float64Array | undefined) => of(first) && Float64Array.from(meshes.flatMap((mesh) => [...of(mesh)!]));
  return {
    positions: reals((m) => m.positions)!,
    faceStart: Int32Array.from([0, ...meshes.flatMap((m, k) => [...m.faceStart.subarray(1)].map((at) => at + k * corners))]),
    faceVertices: wholes((m) => m.faceVertices, vertices)!,
    faceRegion: wholes((m) => m.faceRegion, 0),
    regionNames: first.regionNames,
    vertexColour: reals((m) => m.vertexColour),
    creaseEdges: wholes((m) => m.creaseEdges, vertices),
    creaseSharpness: reals((m) => m.creaseSharpness),
    cornerVertices: wholes((m) => m.cornerVertices, vertices),
    cornerSharpness: reals((m) => m.cornerSharpness)
  };
}

const REALS = ['positions', 'vertexColour', 'creaseSharpness', 'cornerSharpness'] as const;
const WHOLES = ['faceStart', 'faceVertices', 'faceRegion', 'creaseEdges', 'cornerVertices'] as const;
const numbers = Joi.array().items(Joi.number());
const counts = Joi.array().items(Joi.number().integer());
const schema = Joi.object({
  format: Joi.string().valid('ulvrin-spare').required(),
  version: Joi.number().valid(1).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  tags: Joi.array().max(40).items(Joi.string().trim().min(1).max(40)).default([]),
  mesh: Joi.object({
    ...Object.fromEntries(REALS.map((key) => [key, numbers])),
    ...Object.fromEntries(WHOLES.map((key) => [key, counts])),
    regionNames: Joi.array().items(Joi.string().allow(''))
  }).required()
});

/** A spare as plain JSON. */
export const plainSpare = ({ mesh, ...spare }: Spare): object => ({
  ...spare,
  mesh: Object.fromEntries(
    [...REALS, ...WHOLES, 'regionNames' as const].flatMap((key) => (mesh[key] ? [[key, [...(mesh[key] as Iterable<unknown>)]]] : []))
  )
});

/** A spare from plain JSON. @throws SpareError in a sentence */
export function readSpare(data: unknown): Spare {
  const version = (data as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > 1)
    throw new SpareError(`This spare was written by a newer Ulvrin (version ${version}; this one reads 1). Update, then import it.`);
  const { value, error } = schema.validate(data);
  if (error) throw new SpareError(`This is no spare: ${error.details[0].message}.`);
  const { mesh: plain, ...spare } = value as Omit<Spare, 'mesh'> & { mesh: Record<string, number[] & string[]> };
  const mesh = Object.fromEntries(
    Object.entries(plain).map(([key, list]) => [
      key,
      (REALS as readonly string[]).includes(key) ? Float64Array.from(list) : key === 'regionNames' ? list : Int32Array.from(list)
    ])
  ) as unknown as PolygonMesh;
  if (!mesh.positions || !mesh.faceStart || !mesh.faceVertices) throw new SpareError('This is no spare: it has no mesh.');
  const wrong = checkCast(mesh);
  if (wrong) throw new SpareError(`The mesh of this spare ${wrong}.`);
  return { ...spare, mesh };
}
