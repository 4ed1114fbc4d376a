import { zipSync } from 'fflate';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { FormatError, type Format, type Progress, type ReadResult, type WriteOptions } from './format.ts';
import { zipPart, zipText } from './package-3mf.ts';
import { usda } from './usda.ts';
import { NO_DATE } from './zip-files.ts';

/* usdz (OpenUSD, "Usdz file format"): a zip that packs nothing, each file on a boundary of 64 bytes, the first one the scene. */
const NAME = 'part.usda';
const BOUNDARY = 64;
/** Bytes of a local header before its name, and of the head of an extra field. */
const [HEADER, EXTRA] = [30, 4];
/** An extra field of this number is filling. */
const FILLING = 0x1986;

function write(mesh: PolygonMesh, options: WriteOptions): Uint8Array<ArrayBuffer> {
  const scene = usda.write(mesh, options);
  const filling = (BOUNDARY - ((HEADER + NAME.length + EXTRA) % BOUNDARY)) % BOUNDARY;
  return zipSync({ [NAME]: [scene, { level: 0, extra: { [FILLING]: new Uint8Array(filling) } }] }, { mtime: NO_DATE }) as Uint8Array<ArrayBuffer>;
}

function read(bytes: Uint8Array, progress?: Progress): ReadResult {
  const part = zipPart(bytes, (name) => /\.usda$/i.test(name));
  if (!part) throw new FormatError('usdz: the package holds no scene as text (.usda); binary ones are not read. Save it as text.');
  return usda.read(new TextEncoder().encode(zipText(bytes, part, 'usdz')), progress);
}

/** A package with a scene as OpenUSD text in it. */
export const usdz: Format = {
  id: 'usdz',
  name: 'usdz (OpenUSD package)',
  short: 'usdz',
  extensions: ['usdz'],
  carries: { ...usda.carries },
  sniff: (bytes) => zipPart(bytes, (name) => /\.usd[acz]?$/i.test(name)) !== undefined,
  read,
  write
};
