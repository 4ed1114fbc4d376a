import {
  bake,
  dividedCage,
  sentBy,
  Subdivision,
  writeMesh,
  zipFiles,
  type DeliveryRecord,
  type Format,
  type Part,
  type PolygonMesh,
  type Way
} from '@ulvrin/core';
import { fileStem } from '$lib/platform/save-file.ts';
import { sentPart } from './sent.ts';

/** What of a part is sent, and what is said of it. */
export const sendable = {
  cage: 'The cage',
  divided: 'The cage, divided as the level plan begins',
  baked: 'Baked, for receivers that ignore creases',
  smooth: 'Subdivided',
  limit: 'Subdivided, on the limit surface',
  levels: 'The cage with lower levels of detail, in a zip'
} as const;
export type Sendable = keyof typeof sendable;

/** How a part is sent. */
export interface DeliverySettings {
  what: Sendable;
  format: Format;
  upAxis: 'Y' | 'Z';
  /** mm that what is baked may lie off */
  tolerance: number;
  /** that what is subdivided is of */
  level: number;
  /** what is done to the cage on its way; nothing: it goes as it is */
  way?: Way;
}

/** A file that is ready, with what a delivery sheet tells of it. */
export interface Delivery {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
  faces: number;
}

const turned = (result: PolygonMesh, upAxis: 'Y' | 'Z'): PolygonMesh => {
  if (upAxis === 'Y') return result;
  const positions = result.positions.slice();
  for (let i = 0; i < positions.length; i += 3) {
    positions[i + 1] = -result.positions[i + 2];
    positions[i + 2] = result.positions[i + 1];
  }
  return { ...result, positions };
};

function surfaceOf(part: Part, { what, tolerance, level }: DeliverySettings): PolygonMesh {
  const cage = part.cage!.toPolygons();
  if (what === 'divided') return dividedCage(cage, part).mesh;
  if (what === 'baked') return bake(cage, part, tolerance).mesh;
  if (what !== 'smooth' && what !== 'limit') return cage;
  const { scheme, borderCorners, plan } = part;
  return new Subdivision(cage, { scheme, borderCorners, plan, levels: level, limit: what === 'limit' }).toPolygons(cage);
}

const facesOf = (mesh: PolygonMesh): number => mesh.faceStart.length - 1;

/**
 * The file that a part is sent as.
 * @param levels cages of lower detail, where those are sent, too: all go into one zip
 * @throws SubdivisionError, FormatError
 */
export function makeDelivery(part: Part, settings: DeliverySettings, levels: readonly PolygonMesh[] = []): Delivery {
  const { what, format, upAxis, way } = settings;
  const stem = fileStem(part.name);
  const [extension] = format.extensions;
  const written = (mesh: PolygonMesh) =>
    writeMesh(turned(mesh, upAxis), format, {
      name: part.name,
      upAxis,
      scheme: what === 'limit' ? 'none' : part.scheme,
      borderCorners: part.borderCorners
    });
  if (what === 'levels') {
    const files = levels.map((mesh, i) => ({ name: `${stem}${i === 0 ? '' : `-level-${i}`}.${extension}`, bytes: written(mesh) }));
    return { name: `${stem}-levels.zip`, bytes: zipFiles(files), faces: levels.reduce((sum, mesh) => sum + facesOf(mesh), 0) };
  }
  const result = (way && sentBy(way, sentPart(part)))?.mesh ?? surfaceOf(part, settings);
  return { name: `${stem}.${extension}`, bytes: written(result), faces: facesOf(result) };
}

/**
 * Several parts, or one in several formats, as one zip; of one file alone that file.
 * @param levels of the one part, where lower levels of detail are sent, too
 */
export function makeParcel(
  parts: readonly Part[],
  settings: Omit<DeliverySettings, 'format'>,
  as: readonly Format[],
  levels: readonly PolygonMesh[] = []
): Delivery {
  const made = parts.flatMap((part) => as.map((format) => makeDelivery(part, { ...settings, format }, levels)));
  if (made.length === 1) return made[0];
  const stem = parts.length === 1 ? fileStem(parts[0].name) : 'parts';
  const names = new Map<string, number>();
  const files = made.map(({ name, bytes }) => {
    const before = names.get(name) ?? 0;
    names.set(name, before + 1);
    return { name: before === 0 ? name : name.replace(/(\.[^.]*)$/, `-${before + 1}$1`), bytes };
  });
  return { name: `${stem}.zip`, bytes: zipFiles(files), faces: made.reduce((sum, { faces }) => sum + faces, 0) };
}

/** What the delivery sheet keeps of a file that was sent. */
export async function recordOf(
  parts: readonly Part[],
  { what, way }: Omit<DeliverySettings, 'format'>,
  as: readonly Format[],
  { name, bytes, faces }: Delivery,
  told: Pick<DeliveryRecord, 'destination' | 'losses' | 'difference'>
): Promise<DeliveryRecord> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return {
    at: new Date().toISOString(),
    part: parts.map(({ name: own }) => own).join(', '),
    what: way && what !== 'levels' ? 'the cage, changed on its way as advised' : sendable[what].toLowerCase(),
    file: name,
    format: as.map(({ id }) => id).join(', '),
    faces,
    bytes: bytes.length,
    sha256: [...hash].map((b) => b.toString(16).padStart(2, '0')).join(''),
    ...told
  };
}
