import { faceCount, vertexCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { GrowingArray } from '../numeric/growing.ts';
import { FormatError, type Format, type Progress, type ReadResult } from './format.ts';
import { TextScanner, TextWriter } from './text-scanner.ts';

const SLASH = 47;
const MINUS = 45;
const HASH = 35;

/** Everything collected while the lines go by. */
class ObjReader {
  private scan: TextScanner;
  private points = new GrowingArray(Float64Array, 1 << 14);
  private textures = new GrowingArray(Float64Array);
  /** red, green and blue by vertex, where a line had them; NaN where it had none */
  private colours = new GrowingArray(Float64Array);
  private starts = new GrowingArray(Int32Array, 1 << 14);
  private corners = new GrowingArray(Int32Array, 1 << 14);
  private cornerTexture = new GrowingArray(Int32Array);
  private regions = new GrowingArray(Int32Array);
  private regionNames: string[] = [];
  private regionOf = new Map<string, number>();
  private region = -1;
  private object = '';
  private group = '';
  private normals = 0;
  private anyTexture = false;
  private skipped = new Map<string, number>();

  constructor(bytes: Uint8Array) {
    this.scan = new TextScanner(bytes, 'OBJ');
  }

  read(progress?: Progress): ReadResult {
    const { scan } = this;
    let report = 1 << 20;
    this.starts.push(0);
    while (scan.skipToContent()) {
      this.statement();
      scan.nextLine();
      if (scan.at > report) {
        progress?.(scan.at / scan.bytes.length);
        report += 1 << 20;
      }
    }
    if (this.points.length === 0) throw new FormatError('OBJ: no vertex ("v") line was found in this file.');
    if (this.corners.length === 0) throw new FormatError(`OBJ: ${this.points.length / 3} vertices were found, but no face ("f") line.`);
    return this.result();
  }

  private statement(): void {
    const { scan } = this;
    const [c, d] = [scan.bytes[scan.at], scan.bytes[scan.at + 1]];
    if (c === 118 && d <= 32) {
      scan.at++;
      this.points.push(scan.number('the x coordinate'));
      this.points.push(scan.number('the y coordinate'));
      this.points.push(scan.number('the z coordinate'));
      if (scan.skipBlanks() && scan.bytes[scan.at] !== HASH) this.readColour();
    } else if (c === 102 && d <= 32) {
      scan.at++;
      this.readFace();
    } else if (c === 118 && d === 110) this.normals++;
    else this.rareStatement(scan.word());
  }

  /** Three more numbers after the coordinates are a colour, as many programs write it; a single one is a weight, which polygons have no use for. */
  private readColour(): void {
    const { scan, colours } = this;
    const more: number[] = [];
    while (scan.skipBlanks() && scan.bytes[scan.at] !== HASH && more.length < 4) more.push(scan.number('a number after the coordinates'));
    if (more.length < 3) return;
    while (colours.length < this.points.length - 3) colours.push(NaN);
    for (const x of more.slice(-3)) colours.push(x);
  }

  private rareStatement(keyword: string): void {
    const { scan } = this;
    if (keyword === 'vt') {
      this.textures.push(scan.number('the texture coordinate'));
      this.textures.push(scan.skipBlanks() ? scan.number('the second texture coordinate') : 0);
    } else if (keyword === 'o') {
      this.object = scan.rest();
      this.region = -1;
    } else if (keyword === 'g') {
      this.group = scan.rest();
      this.region = -1;
    } else if (!/^(s|usemtl|mtllib|vp)$/.test(keyword)) this.skipped.set(keyword, (this.skipped.get(keyword) ?? 0) + 1);
  }

  private readFace(): void {
    const { scan, corners } = this;
    const first = corners.length;
    while (scan.skipBlanks() && scan.bytes[scan.at] !== 35) {
      corners.push(this.index('vertex', this.points.length / 3));
      let texture = -1;
      if (scan.bytes[scan.at] === SLASH) {
        scan.at++;
        if (this.atDigit()) texture = this.index('texture coordinate', this.textures.length / 2);
        if (scan.bytes[scan.at] === SLASH) {
          scan.at++;
          if (this.atDigit()) scan.integer('the normal index');
        }
      }
      if (texture >= 0) this.anyTexture = true;
      this.cornerTexture.push(texture);
      if (scan.bytes[scan.at] > 32) scan.fail(`a face corner is not written as v, v/vt, v//vn or v/vt/vn.`);
    }
    const size = corners.length - first;
    if (size < 3) scan.fail(`this face has ${size} corner${size === 1 ? '' : 's'}; three are needed.`);
    this.starts.push(corners.length);
    this.regions.push(this.currentRegion());
  }

  private atDigit(): boolean {
    const c = this.scan.bytes[this.scan.at];
    return (c >= 48 && c <= 57) || c === MINUS;
  }

  /** An index counted from 1, or from the last one back when negative; answered from 0. */
  private index(what: string, count: number): number {
    const { scan } = this;
    const { bytes } = scan;
    let i = scan.at;
    let value = 0;
    // nearly every index is a short run of digits
    for (let c = bytes[i]; c >= 48 && c <= 57 && i - scan.at < 9; c = bytes[++i]) value = value * 10 + (c - 48);
    if (i > scan.at && (bytes[i] <= 32 || bytes[i] === SLASH || i === bytes.length)) scan.at = i;
    else value = scan.integer(`the ${what} index`);
    const index = value < 0 ? count + value : value - 1;
    if (index < 0 || index >= count) scan.fail(`${what} ${value} is used, but only ${count} ${count === 1 ? 'is' : 'are'} there so far.`);
    return index;
  }

  private currentRegion(): number {
    if (this.region < 0) {
      const name = [this.object, this.group].filter(Boolean).join(' / ') || 'all';
      let found = this.regionOf.get(name);
      if (found === undefined) {
        found = this.regionNames.length;
        this.regionOf.set(name, found);
        this.regionNames.push(name);
      }
      this.region = found;
    }
    return this.region;
  }

  /** Colours from 0 to 1 for all vertices; those that have none are grey. Files that count to 255 are scaled. */
  private allColours(): Float64Array {
    const { colours, points } = this;
    while (colours.length < points.length) colours.push(NaN);
    const all = colours.done();
    const most = all.reduce((m, x) => (x > m ? x : m), 0);
    return all.map((x) => (Number.isNaN(x) ? 0.5 : Math.max(0, most > 1 ? x / 255 : x)));
  }

  private result(): ReadResult {
    const mesh: PolygonMesh = { positions: this.points.done(), faceStart: this.starts.done(), faceVertices: this.corners.done() };
    if (this.colours.length > 0) mesh.vertexColour = this.allColours();
    if (this.regionNames.length > 1) {
      mesh.faceRegion = this.regions.done();
      mesh.regionNames = this.regionNames;
    }
    if (this.anyTexture) {
      mesh.cornerUv = new Float64Array(2 * this.corners.length).fill(NaN);
      for (let c = 0; c < this.corners.length; c++) {
        const t = this.cornerTexture.at(c);
        if (t < 0) continue;
        mesh.cornerUv[2 * c] = this.textures.at(2 * t);
        mesh.cornerUv[2 * c + 1] = this.textures.at(2 * t + 1);
      }
    }
    const notes: string[] = [];
    if (this.normals > 0) notes.push(`${this.normals.toLocaleString('en')} normals are not kept: Ulvrin computes its own.`);
    for (const [keyword, count] of this.skipped) notes.push(`${count} "${keyword.slice(0, 20)}" line${count === 1 ? ' is' : 's are'} not kept.`);
    return { mesh, notes };
  }
}

function write(mesh: PolygonMesh, name: string): Uint8Array<ArrayBuffer> {
  const out = new TextWriter();
  const p = mesh.positions;
  out.line(`o ${name}`);
  const colour = mesh.vertexColour;
  for (let v = 0; v < vertexCount(mesh); v++)
    out.line(`v ${p[3 * v]} ${p[3 * v + 1]} ${p[3 * v + 2]}${colour ? ` ${colour[3 * v]} ${colour[3 * v + 1]} ${colour[3 * v + 2]}` : ''}`);
  const uv = mesh.cornerUv;
  const uvLine = new Map<string, number>();
  const uvIndex = new Int32Array(uv ? mesh.faceVertices.length : 0);
  for (let c = 0; c < uvIndex.length; c++) {
    if (Number.isNaN(uv![2 * c])) continue;
    const text = `vt ${uv![2 * c]} ${uv![2 * c + 1]}`;
    let line = uvLine.get(text);
    if (line === undefined) {
      line = uvLine.size + 1;
      uvLine.set(text, line);
      out.line(text);
    }
    uvIndex[c] = line;
  }
  let region = -1;
  for (let f = 0; f < faceCount(mesh); f++) {
    if (mesh.faceRegion && mesh.faceRegion[f] !== region) {
      region = mesh.faceRegion[f];
      out.line(`g ${mesh.regionNames?.[region] ?? `region ${region}`}`);
    }
    let text = 'f';
    for (let c = mesh.faceStart[f]; c < mesh.faceStart[f + 1]; c++) text += ` ${mesh.faceVertices[c] + 1}${uv && uvIndex[c] ? `/${uvIndex[c]}` : ''}`;
    out.line(text);
  }
  return out.done();
}

/** Wavefront OBJ text: polygons, groups, texture coordinates, and colours behind the coordinates of vertices, as many programs write them. */
export const obj: Format = {
  id: 'obj',
  name: 'OBJ',
  short: 'OBJ',
  extensions: ['obj'],
  carries: { polygons: true, creases: false, regions: true, textureCoordinates: true, colours: true, units: false, exactNumbers: true },
  sniff: (bytes) => /^\s*(#|v |vn |vt |o |g |mtllib |usemtl |f |s )/m.test(new TextDecoder().decode(bytes.subarray(0, 400))),
  read: (bytes, progress) => new ObjReader(bytes).read(progress),
  write: (mesh, options) => write(mesh, options.name)
};
