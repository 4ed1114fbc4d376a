import { strToU8, zipSync } from 'fflate';
import { uniformMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { GrowingArray } from '../numeric/growing.ts';
import { FormatError, type Format, type Progress, type ReadResult, type WriteOptions } from './format.ts';
import { unpackPart, ZipPartError, type ZipPart, zipParts } from './zip-parts.ts';
import { NO_DATE } from './zip-files.ts';

/* 3MF core specification 1.3 (3MF Consortium 2021): a zip with an XML model of triangles. */
const MODEL = '3D/3dmodel.model';
const MOST_BYTES = 2 ** 30;
/** mm a unit, by the names that the format has for them. */
const UNITS: Record<string, number> = { micron: 0.001, millimeter: 1, centimeter: 10, inch: 25.4, foot: 304.8, meter: 1000 };

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** The part of a zip that some names fit; nothing where there is none. */
export const zipPart = (bytes: Uint8Array, fits: (name: string) => boolean): ZipPart | undefined =>
  isZip(bytes) && bytes.length > 30 ? zipParts(bytes).parts.find(({ name }) => fits(name)) : undefined;

/** The text of a part of a zip. @throws FormatError */
export function zipText(bytes: Uint8Array, part: ZipPart, format: string): string {
  try {
    return new TextDecoder().decode(unpackPart(bytes, part, MOST_BYTES));
  } catch (error) {
    if (error instanceof ZipPartError) throw new FormatError(`${format}: "${part.name}" ${error.message}.`);
    throw error;
  }
}

function write(mesh: PolygonMesh, { upAxis, millimetresPerUnit, name }: WriteOptions): Uint8Array<ArrayBuffer> {
  const unit = Object.keys(UNITS).find((key) => UNITS[key] === millimetresPerUnit);
  const size = unit ? 1 : millimetresPerUnit;
  const p = mesh.positions;
  // the format has Z up
  const at = (i: number) => (upAxis === 'Z' ? [p[i], p[i + 1], p[i + 2]] : [p[i], -p[i + 2], p[i + 1]]).map((x) => size * x + 0);
  const lines: string[] = [];
  for (let i = 0; i < p.length; i += 3) {
    const [x, y, z] = at(i);
    lines.push(`<vertex x="${x}" y="${y}" z="${z}"/>`);
  }
  const { triangles } = triangulate(mesh);
  const faces: string[] = [];
  for (let t = 0; t < triangles.length; t += 3) faces.push(`<triangle v1="${triangles[t]}" v2="${triangles[t + 1]}" v3="${triangles[t + 2]}"/>`);
  const escaped = name.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="${unit ?? 'millimeter'}" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
<resources><object id="1" type="model" name="${escaped}"><mesh><vertices>
${lines.join('\n')}
</vertices><triangles>
${faces.join('\n')}
</triangles></mesh></object></resources>
<build><item objectid="1"/></build>
</model>
`;
  return zipSync(
    {
      '[Content_Types].xml': strToU8(
        '<?xml version="1.0" encoding="UTF-8"?>\n<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>'
      ),
      '_rels/.rels': strToU8(
        `<?xml version="1.0" encoding="UTF-8"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/${MODEL}" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`
      ),
      [MODEL]: strToU8(model)
    },
    { mtime: NO_DATE }
  ) as Uint8Array<ArrayBuffer>;
}

/** The attributes of an XML tag. */
function attributesOf(tag: string): Record<string, string> {
  const found: Record<string, string> = {};
  for (const [, name, double, single] of tag.matchAll(/([\w:]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) found[name] = double ?? single;
  return found;
}

function numberOf(text: string | undefined, what: string): number {
  const value = text === undefined || text.trim() === '' ? NaN : Number(text);
  if (!Number.isFinite(value))
    throw new FormatError(`3MF: ${what} is ${text === undefined ? 'missing' : `"${text.slice(0, 20)}"`}, which is no number.`);
  return value;
}

function read(bytes: Uint8Array, progress?: Progress): ReadResult {
  const part = zipPart(bytes, (name) => /\.model$/i.test(name));
  if (!part) throw new FormatError('3MF: the package holds no model.');
  const text = zipText(bytes, part, '3MF');
  progress?.(0.2);
  const unit = attributesOf(/<model\b[^>]*>/.exec(text)?.[0] ?? '').unit ?? 'millimeter';
  const positions = new GrowingArray(Float64Array, 1 << 12);
  const corners = new GrowingArray(Int32Array, 1 << 12);
  let [first, objects] = [0, 0];
  for (const [tag, kind] of text.matchAll(/<(vertices|vertex|triangle)\b[^>]*>/g)) {
    if (kind === 'vertices') {
      first = positions.length / 3;
      objects++;
      continue;
    }
    const own = attributesOf(tag);
    if (kind === 'vertex')
      for (const axis of 'xyz') positions.push(numberOf(own[axis], `coordinate ${axis} of vertex ${positions.length / 3 - first}`));
    else
      for (const corner of ['v1', 'v2', 'v3']) {
        const v = numberOf(own[corner], `corner ${corner} of triangle ${Math.floor(corners.length / 3)}`);
        if (!Number.isInteger(v) || v < 0 || first + v >= positions.length / 3)
          throw new FormatError(`3MF: triangle ${Math.floor(corners.length / 3)} uses vertex ${v} of ${positions.length / 3 - first}.`);
        corners.push(first + v);
      }
  }
  if (corners.length === 0) throw new FormatError('3MF: the model holds no triangles.');
  const notes = objects > 1 ? [`${objects} objects of the 3MF file were put together where each lies.`] : [];
  if (/<item\b[^>]*\btransform\s*=/.test(text) || /<component\b/.test(text)) notes.push('How objects are placed on the plate was not followed.');
  return { mesh: uniformMesh(positions.done(), corners.done(), 3), notes, millimetresPerUnit: UNITS[unit] ?? 1, upAxis: 'Z' };
}

/** 3MF: triangles in mm, for printing. */
export const threeMf: Format = {
  id: '3mf',
  name: '3MF',
  short: '3MF',
  extensions: ['3mf'],
  carries: { polygons: false, creases: false, regions: false, textureCoordinates: false, colours: false, units: true, exactNumbers: true },
  sniff: (bytes) => zipPart(bytes, (name) => /\.model$/i.test(name)) !== undefined,
  read,
  write
};
