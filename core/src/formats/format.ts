import { type PolygonMesh } from '../mesh/polygon-mesh.ts';

/** A file that cannot be read or written; the message is a sentence with the line or byte. */
export class FormatError extends Error {}

/** What a format can hold besides positions and triangles. */
export interface Carries {
  polygons: boolean;
  creases: boolean;
  regions: boolean;
  textureCoordinates: boolean;
  /** colours of vertices */
  colours: boolean;
  units: boolean;
  /** numbers read back bit for bit */
  exactNumbers: boolean;
}

export interface ReadResult {
  mesh: PolygonMesh;
  /** what was found and not kept, a sentence each */
  notes: string[];
  /** millimetres a unit of the file, where the file says so */
  millimetresPerUnit?: number;
  upAxis?: 'Y' | 'Z';
  /** the subdivision scheme the file asks for */
  scheme?: 'catmull-clark' | 'loop' | 'none';
  /** border corners stay sharp (OpenUSD `edgeAndCorner`) or round off (`edgeOnly`) */
  borderCorners?: 'sharp' | 'rounded';
}

/** What a file says of its mesh, in formats that say it. */
export interface WriteOptions {
  name: string;
  upAxis: 'Y' | 'Z';
  millimetresPerUnit: number;
  scheme: 'catmull-clark' | 'loop' | 'none';
  borderCorners: 'sharp' | 'rounded';
}

export type Progress = (fraction: number) => void;

/** A file format as data: the registry, the delivery card and the command line read it. */
export interface Format {
  id: string;
  name: string;
  /** as lists of formats name it */
  short: string;
  /** it is offered first where something is saved */
  usual?: boolean;
  /** its binary kind has no mark of its own: whatever bears its name may be one */
  unmarked?: boolean;
  /** without the dot, the usual one first */
  extensions: string[];
  carries: Carries;
  /** what others get of a file, where that is less than what is read back here; a sentence */
  othersSee?: string;
  /** whether the first bytes look like this format */
  sniff(bytes: Uint8Array): boolean;
  /** @throws FormatError */
  read(bytes: Uint8Array, progress?: Progress): ReadResult;
  write(mesh: PolygonMesh, options: WriteOptions): Uint8Array<ArrayBuffer>;
}

/** What a mesh has besides positions and triangles: by what formats carry it, its name, and how much there is. */
export function besides(mesh: PolygonMesh): { key: Exclude<keyof Carries, 'units' | 'exactNumbers'>; name: string; count: number }[] {
  let polygons = 0;
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) if (mesh.faceStart[f + 1] - mesh.faceStart[f] > 3) polygons++;
  const regions = mesh.regionNames?.length ?? 0;
  return [
    { key: 'polygons', name: 'quads and n-gons', count: polygons },
    { key: 'creases', name: 'creases and corners', count: (mesh.creaseSharpness?.length ?? 0) + (mesh.cornerSharpness?.length ?? 0) },
    { key: 'regions', name: 'regions', count: regions > 1 ? regions : 0 },
    { key: 'textureCoordinates', name: 'texture coordinates', count: mesh.cornerUv ? mesh.faceVertices.length : 0 },
    { key: 'colours', name: 'colours', count: mesh.vertexColour ? mesh.positions.length / 3 : 0 }
  ];
}

/** What of a mesh a format would leave out, a sentence each. */
export function losses(format: Format, mesh: PolygonMesh): string[] {
  const { name } = format;
  const creases = mesh.creaseSharpness?.length ?? 0;
  const corners = mesh.cornerSharpness?.length ?? 0;
  const said = {
    polygons: (count: number) => `${name} holds triangles only: ${count.toLocaleString('en')} quads and n-gons are cut.`,
    creases: () => `${name} holds no creases: ${creases} creased edges and ${corners} sharp corners are left out.`,
    regions: (count: number) => `${name} holds no regions: ${count} are left out.`,
    textureCoordinates: () => `${name} holds no texture coordinates: they are left out.`,
    colours: () => `${name} holds no colours: those of the vertices are left out.`
  };
  return [
    ...besides(mesh).flatMap(({ key, count }) => (count > 0 && !format.carries[key] ? [said[key](count)] : [])),
    ...(format.othersSee ? [format.othersSee] : []),
    ...(format.carries.exactNumbers ? [] : [`${name} rounds coordinates to 7 digits.`])
  ];
}
