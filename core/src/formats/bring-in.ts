import { Cage } from '../mesh/cage.ts';
import { FARTHEST, boundsOf, faceCount, vertexCount, type Bounds, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { describeRepair, type RepairReport } from '../mesh/repair-report.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { borderLoops, faceSizes, genus, islands } from '../mesh/topology.ts';
import { FormatError, type Progress } from './format.ts';
import { plainName, unpackGzip } from './gzip.ts';
import { readMesh } from './registry.ts';

/** How a file is read; what is left out is taken from the file, or else as most files have it. */
export interface BringInOptions {
  /** weld vertices at the same place */
  weld?: boolean;
  /** millimetres a unit of the file; the file's own word if it has one and this is left out */
  millimetresPerUnit?: number;
  upAxis?: 'Y' | 'Z';
}

/** What a brought-in mesh is, for the dialogue and `ulvrin info`. */
export interface MeshFacts {
  vertices: number;
  edges: number;
  faces: number;
  triangles: number;
  quads: number;
  ngons: number;
  borders: number;
  islands: number;
  /** handles of all islands together */
  genus: number;
  bounds: Bounds;
}

/** A file as polygons that a cage can hold, with what was found in it. */
export interface BroughtIn {
  mesh: PolygonMesh;
  facts: MeshFacts;
  /** what was found and done, a sentence each */
  notes: string[];
  report: RepairReport;
  /** how it is most likely meant */
  suggestion: 'reference' | 'cage';
  scheme: 'catmull-clark' | 'loop' | 'none';
  borderCorners: 'sharp' | 'rounded';
  formatName: string;
  /** what a unit of the file most likely is, where it does not say and its size is unlikely in mm */
  likelyUnit?: LikelyUnit;
}

/** A guess at the unit of a file. */
export interface LikelyUnit {
  name: 'metre';
  millimetres: number;
  /** the longest extent then, mm */
  extent: number;
}

export function factsOf(cage: Cage): MeshFacts {
  return {
    vertices: cage.vertexCount,
    edges: cage.edgeCount,
    faces: cage.faceCount,
    ...faceSizes(cage),
    borders: borderLoops(cage).length,
    islands: islands(cage).count,
    genus: genus(cage),
    bounds: boundsOf(cage.toPolygons().positions)
  };
}

/** From this many faces on, a mesh of triangles is taken for a sculpt, a scan or an export, not for a cage. */
const DENSE = 2000;

/**
 * Bytes of a file to polygons that a cage can hold, with everything that was found; one that is called .gz is unpacked first.
 * @throws FormatError, with a sentence
 */
export function bringIn(stored: Uint8Array, storedName: string, options: BringInOptions = {}, progress?: Progress): BroughtIn {
  const fileName = plainName(storedName);
  const bytes = fileName === storedName ? stored : unpackGzip(stored, storedName);
  const read = readMesh(bytes, fileName, (fraction) => progress?.(fraction * 0.6));
  progress?.(0.6);
  const { mesh, report } = repairPolygons(read.mesh, { weld: options.weld ?? true });
  if (faceCount(mesh) === 0)
    throw new FormatError(
      `${fileName}: all ${faceCount(read.mesh)} faces are degenerate (fewer than three different corners); nothing is left to bring in.`
    );
  if (report.zeroAreaFaces.count === faceCount(mesh))
    throw new FormatError(`${fileName}: all ${faceCount(mesh)} faces are without area; nothing can be made of them.`);
  progress?.(0.8);
  scale(mesh, options.millimetresPerUnit ?? read.millimetresPerUnit ?? 1);
  if ((options.upAxis ?? read.upAxis) === 'Z') turnUp(mesh);
  const far = mesh.positions.findIndex((x) => !(Math.abs(x) <= FARTHEST));
  if (far >= 0)
    throw new FormatError(
      `${fileName}: vertex ${Math.floor(far / 3)} lies at ${mesh.positions[far]} mm; up to ${FARTHEST.toLocaleString('en')} mm is read. Choose a smaller unit.`
    );
  const cage = Cage.fromPolygons(mesh);
  const facts = factsOf(cage);
  progress?.(1);
  const large = largestFace(mesh);
  const notes = [...read.notes, ...describeRepair(report)];
  if (large > 1000) notes.push(`The largest face has ${large.toLocaleString('en')} corners.`);
  if (mesh.cornerUv) notes.push('Texture coordinates are kept.');
  if (mesh.vertexColour) notes.push('Colours of vertices are kept.');
  return {
    mesh,
    facts,
    notes,
    report,
    suggestion: facts.triangles >= DENSE && facts.triangles > 0.9 * facts.faces ? 'reference' : 'cage',
    scheme: read.scheme ?? 'catmull-clark',
    borderCorners: read.borderCorners ?? 'sharp',
    formatName: read.format.name,
    ...(options.millimetresPerUnit === undefined && read.millimetresPerUnit === undefined && { likelyUnit: likelyUnit(facts.bounds) })
  };
}

/** Things this small are seldom meant, mm: scans and what is built for games come in metres. */
const UNLIKELY_SMALL = 3;

function likelyUnit({ min, max }: Bounds): LikelyUnit | undefined {
  const extent = Math.max(...max.map((x, k) => x - min[k]));
  return extent > 0 && extent < UNLIKELY_SMALL ? { name: 'metre', millimetres: 1000, extent: 1000 * extent } : undefined;
}

function scale(mesh: PolygonMesh, factor: number): void {
  if (factor !== 1) for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] *= factor;
}

/** Z up to Y up: a quarter turn about X. */
function turnUp(mesh: PolygonMesh): void {
  for (let v = 0; v < vertexCount(mesh); v++) {
    const y = mesh.positions[3 * v + 1];
    mesh.positions[3 * v + 1] = mesh.positions[3 * v + 2];
    mesh.positions[3 * v + 2] = -y;
  }
}

function largestFace(mesh: PolygonMesh): number {
  let most = 0;
  for (let f = 0; f < faceCount(mesh); f++) most = Math.max(most, mesh.faceStart[f + 1] - mesh.faceStart[f]);
  return most;
}
