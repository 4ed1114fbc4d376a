import { faceCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { FormatError, type Format, type ReadResult, type WriteOptions } from './format.ts';
import { meshesAsRegions } from './meshes-as-regions.ts';
import { TextWriter } from './text-scanner.ts';

/** One `def` of the file: its type, name, metadata lines and attribute values. */
interface Prim {
  type: string;
  name: string;
  attributes: Map<string, Value>;
  interpolation: Map<string, string>;
  children: Prim[];
}
type Value = number | string | Value[];

/** Levels of prims and lists that are followed. */
const DEEPEST = 64;
/** From this sharpness on an edge stays sharp (OpenUSD mesh schema). */
const SHARPEST = 10;

/** Reads the part of OpenUSD's text syntax that scenes of meshes use; values it does not need are skipped by their brackets. */
class UsdaParser {
  private at = 0;
  private depth = 0;
  constructor(private readonly text: string) {}

  fail(what: string): never {
    const line = this.text.slice(0, this.at).split('\n').length;
    throw new FormatError(`usda, line ${line}: ${what}`);
  }

  parse(): { prims: Prim[]; metadata: Map<string, Value> } {
    if (!this.text.startsWith('#usda')) this.fail('the file does not start with "#usda".');
    const metadata = this.peek() === '(' ? this.metadata() : new Map<string, Value>();
    const prims: Prim[] = [];
    while (this.peek() !== '') prims.push(this.prim());
    return { prims, metadata };
  }

  /** Runs a step one level deeper: files whose brackets nest without end are refused, not followed. */
  private deeper<T>(step: () => T): T {
    if (++this.depth > DEEPEST) this.fail(`prims or lists are nested more than ${DEEPEST} deep.`);
    const result = step();
    this.depth--;
    return result;
  }

  private skip(): void {
    const gap = /(?:\s+|#[^\n]*|;)*/y;
    gap.lastIndex = this.at;
    gap.exec(this.text);
    this.at = gap.lastIndex;
  }

  private peek(): string {
    this.skip();
    return this.text.charAt(this.at);
  }

  private expect(character: string): void {
    if (this.peek() !== character)
      this.fail(this.atEnd() ? `the file ends where "${character}" was expected: it was cut off.` : `"${character}" was expected.`);
    this.at++;
  }

  private atEnd(): boolean {
    return this.at >= this.text.length;
  }

  private word(): string {
    this.skip();
    const pattern = /[^\s=()[\]{},"';]+/y;
    pattern.lastIndex = this.at;
    const found = pattern.exec(this.text);
    if (!found) this.fail(this.atEnd() ? 'the file ends early: it was cut off.' : 'a name was expected.');
    this.at = pattern.lastIndex;
    return found![0];
  }

  private prim(): Prim {
    const keyword = this.word();
    if (!/^(def|over|class)$/.test(keyword)) this.fail(`"${keyword.slice(0, 30)}" was not expected here.`);
    const type = this.peek() === '"' ? '' : this.word();
    const prim: Prim = { type, name: String(this.quoted()), attributes: new Map(), interpolation: new Map(), children: [] };
    if (this.peek() === '(') this.metadata();
    this.expect('{');
    while (this.peek() !== '}') {
      if (/^(def|over|class)\b/.test(this.text.slice(this.at, this.at + 6))) prim.children.push(this.deeper(() => this.prim()));
      else this.attribute(prim);
    }
    this.at++;
    return prim;
  }

  private attribute(prim: Prim): void {
    let name = this.word();
    if (name === 'variantSet') this.fail('variant sets are not read.');
    // "uniform token[] x", "prepend rel x": the last word before =, ( or the next line is the name
    while (!/[=({]/.test(this.peek()) && !this.lineEnds()) {
      if (this.peek() === '[') {
        this.at++;
        this.expect(']');
      } else name = this.word();
    }
    if (this.peek() === '=') {
      this.at++;
      const value = this.value();
      prim.attributes.set(name, value);
    }
    if (this.peek() === '(') {
      const interpolation = this.metadata().get('interpolation');
      if (typeof interpolation === 'string') prim.interpolation.set(name, interpolation);
    }
  }

  private lineEnds(): boolean {
    return /^[^\S\n]*(\n|$)/.test(this.text.slice(this.at, this.at + 200)) || this.peek() === '}' || this.atEnd();
  }

  private metadata(): Map<string, Value> {
    this.expect('(');
    const entries = new Map<string, Value>();
    while (this.peek() !== ')') {
      if (this.peek() === '"' || this.peek() === "'") {
        this.quoted();
        continue;
      }
      let name = this.word();
      while (this.peek() !== '=' && this.peek() !== ')' && !this.atEnd()) name = this.word();
      if (this.peek() !== '=') break;
      this.at++;
      entries.set(name, this.value());
    }
    this.expect(')');
    return entries;
  }

  private quoted(): string {
    this.skip();
    const pattern = /"""[\s\S]*?"""|'''[\s\S]*?'''|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'/y;
    pattern.lastIndex = this.at;
    const found = pattern.exec(this.text);
    if (!found) this.fail('a name in quotes was expected.');
    this.at = pattern.lastIndex;
    const quotes = /^("""|'''|"|')/.exec(found![0])![0].length;
    return found![0].slice(quotes, -quotes);
  }

  private value(): Value {
    const c = this.peek();
    if (c === '[' || c === '(') return this.deeper(() => this.list(c === '[' ? ']' : ')'));
    if (c === '{') return this.dictionary();
    if (c === '"' || c === "'") return this.quoted();
    if (c === '@' || c === '<') {
      const end = this.text.indexOf(c === '@' ? '@' : '>', this.at + 1);
      if (end < 0) this.fail('a path is not closed.');
      const path = this.text.slice(this.at, end + 1);
      this.at = end + 1;
      return path;
    }
    const word = this.word();
    const number = Number(word.replace(/^([+-]?)inf$/, '$1Infinity'));
    if (/^[+-]?(nan|inf)/.test(word) || Math.abs(number) === Infinity) this.fail(`a number is not finite ("${word.slice(0, 30)}").`);
    return Number.isNaN(number) ? word : number;
  }

  private list(close: string): Value[] {
    this.at++;
    const items: Value[] = [];
    for (let c = this.peek(); c !== close; c = this.peek()) {
      if (c === '') this.fail('a list is not closed: the file was cut off.');
      if (c === ',') this.at++;
      else items.push(this.value());
    }
    this.at++;
    return items;
  }

  private dictionary(): Value {
    let depth = 0;
    do {
      const c = this.peek();
      if (c === '"' || c === "'") {
        this.quoted();
        continue;
      }
      if (c === '{') depth++;
      else if (c === '}') depth--;
      else if (c === '') this.fail('a dictionary is not closed.');
      this.at++;
    } while (depth > 0);
    return '';
  }
}

function numbers(prim: Prim, name: string): number[] {
  const value = prim.attributes.get(name);
  if (!Array.isArray(value)) return [];
  const flat = value.flat() as number[];
  if (flat.some((x) => typeof x !== 'number')) throw new FormatError(`usda, mesh "${prim.name}": ${name} holds something that is no number.`);
  return flat;
}

function* meshesIn(prims: Prim[]): Generator<Prim> {
  for (const prim of prims) {
    if (prim.type === 'Mesh') yield prim;
    yield* meshesIn(prim.children);
  }
}

function read(bytes: Uint8Array): ReadResult {
  const { prims, metadata } = new UsdaParser(new TextDecoder().decode(bytes)).parse();
  const metres = metadata.get('metersPerUnit');
  if (metres !== undefined && !(typeof metres === 'number' && metres >= 1e-9 && metres <= 1e6))
    throw new FormatError(`usda: metersPerUnit is ${String(metres).slice(0, 30)}; a number from 0.000000001 to 1,000,000 is expected.`);
  const meshes = [...meshesIn(prims)];
  if (meshes.length === 0) throw new FormatError('usda: the file holds no Mesh.');
  const notes: string[] = [];
  const parts = meshes.map((prim) => meshOf(prim, notes));
  const mesh =
    parts.length === 1
      ? parts[0]
      : meshesAsRegions(
          parts,
          meshes.map((m) => m.name)
        );
  if (moved(prims)) notes.push('Transforms (xformOp) are not applied: points are read as they are in the mesh.');
  const scheme = meshes[0].attributes.get('subdivisionScheme');
  return {
    mesh,
    notes,
    millimetresPerUnit: typeof metres === 'number' ? metres * 1000 : 10,
    upAxis: metadata.get('upAxis') === 'Z' ? 'Z' : 'Y',
    scheme: scheme === 'loop' ? 'loop' : scheme === 'none' || scheme === 'bilinear' ? 'none' : 'catmull-clark',
    borderCorners: meshes[0].attributes.get('interpolateBoundary') === 'edgeOnly' ? 'rounded' : 'sharp'
  };
}

function moved(prims: Prim[]): boolean {
  return prims.some((prim) => [...prim.attributes.keys()].some((name) => name.startsWith('xformOp:')) || moved(prim.children));
}

function meshOf(prim: Prim, notes: string[]): PolygonMesh {
  const fail = (what: string): never => {
    throw new FormatError(`usda, mesh "${prim.name}": ${what}`);
  };
  const points = numbers(prim, 'points');
  const counts = numbers(prim, 'faceVertexCounts');
  const indices = numbers(prim, 'faceVertexIndices');
  if (points.length === 0 || points.length % 3 !== 0) fail('points are missing or not in threes.');
  if (counts.length === 0) fail('it has no faces.');
  const vertices = points.length / 3;
  const faceStart = new Int32Array(counts.length + 1);
  counts.forEach((n, f) => {
    if (!Number.isInteger(n) || n < 3) fail(`face ${f} has ${n} corners; three are needed.`);
    faceStart[f + 1] = faceStart[f] + n;
  });
  if (faceStart[counts.length] !== indices.length)
    fail(`faceVertexCounts add up to ${faceStart[counts.length]}, but there are ${indices.length} faceVertexIndices.`);
  for (const name of ['faceVertexIndices', 'creaseIndices', 'cornerIndices'])
    numbers(prim, name).forEach(
      (v, i) => (Number.isInteger(v) && v >= 0 && v < vertices) || fail(`${name}[${i}] is ${v}, but the points go from 0 to ${vertices - 1}.`)
    );
  const mesh: PolygonMesh = { positions: Float64Array.from(points), faceStart, faceVertices: Int32Array.from(indices) };
  if (prim.attributes.get('orientation') === 'leftHanded') turnAll(mesh);
  readSharpness(prim, mesh, fail);
  readColours(prim, mesh);
  readTextureCoordinates(prim, mesh, notes);
  const subsets = prim.children.filter((c) => c.type === 'GeomSubset');
  if (subsets.length > 0) {
    mesh.faceRegion = new Int32Array(counts.length);
    mesh.regionNames = ['rest', ...subsets.map((s) => s.name)];
    subsets.forEach((s, i) => numbers(s, 'indices').forEach((f) => f < counts.length && (mesh.faceRegion![f] = i + 1)));
  }
  if (numbers(prim, 'holeIndices').length > 0) notes.push(`${numbers(prim, 'holeIndices').length} faces marked as holes are kept as faces.`);
  return mesh;
}

function turnAll(mesh: PolygonMesh): void {
  for (let f = 0; f < faceCount(mesh); f++) mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1]).reverse();
}

/** Creases are chains of `creaseLengths` vertices, with a sharpness a chain or a sharpness an edge. */
function readSharpness(prim: Prim, mesh: PolygonMesh, fail: (what: string) => never): void {
  const indices = numbers(prim, 'creaseIndices');
  const lengths = numbers(prim, 'creaseLengths');
  const sharpness = numbers(prim, 'creaseSharpnesses');
  const edges: number[] = [];
  const values: number[] = [];
  const edgeCount = lengths.reduce((sum, n) => sum + n - 1, 0);
  if (lengths.length > 0 && sharpness.length !== lengths.length && sharpness.length !== edgeCount)
    fail(`${sharpness.length} creaseSharpnesses do not fit ${lengths.length} creases of ${edgeCount} edges.`);
  let at = 0;
  lengths.forEach((n, crease) => {
    for (let i = 0; i + 1 < n; i++) {
      edges.push(indices[at + i], indices[at + i + 1]);
      values.push(sharpness.length === lengths.length ? sharpness[crease] : sharpness[values.length]);
    }
    at += n;
  });
  if (at !== indices.length) fail(`creaseLengths add up to ${at}, but there are ${indices.length} creaseIndices.`);
  const corners = numbers(prim, 'cornerIndices');
  const cornerSharpness = numbers(prim, 'cornerSharpnesses');
  const bad = [...values, ...cornerSharpness].find((s) => s < 0);
  if (bad !== undefined) fail(`a crease or corner has the sharpness ${bad}; it must be 0 or more.`);
  if (edges.length > 0) {
    mesh.creaseEdges = Int32Array.from(edges);
    mesh.creaseSharpness = Float64Array.from(values, inRange);
  }
  if (corners.length !== cornerSharpness.length) fail(`${cornerSharpness.length} cornerSharpnesses do not fit ${corners.length} cornerIndices.`);
  if (corners.length > 0) {
    mesh.cornerVertices = Int32Array.from(corners);
    mesh.cornerSharpness = Float64Array.from(cornerSharpness, inRange);
  }
}

const inRange = (sharpness: number): number => Math.min(SHARPEST, sharpness);

/** Colours by vertex, or one for all. */
function readColours(prim: Prim, mesh: PolygonMesh): void {
  const values = numbers(prim, 'primvars:displayColor');
  if (values.length === mesh.positions.length) mesh.vertexColour = Float64Array.from(values);
  else if (values.length === 3) mesh.vertexColour = Float64Array.from({ length: mesh.positions.length }, (_, i) => values[i % 3]);
}

function readTextureCoordinates(prim: Prim, mesh: PolygonMesh, notes: string[]): void {
  const values = numbers(prim, 'primvars:st');
  if (values.length === 0) return;
  const indices = numbers(prim, 'primvars:st:indices');
  const corners = mesh.faceVertices.length;
  const perCorner = prim.interpolation.get('primvars:st') === 'faceVarying';
  mesh.cornerUv = new Float64Array(2 * corners).fill(NaN);
  for (let c = 0; c < corners; c++) {
    const place = perCorner ? c : mesh.faceVertices[c];
    const i = indices.length > 0 ? indices[place] : place;
    if (2 * i + 1 < values.length) mesh.cornerUv.set([values[2 * i], values[2 * i + 1]], 2 * c);
  }
  if (mesh.cornerUv.some(Number.isNaN)) notes.push(`Texture coordinates of mesh "${prim.name}" do not cover all corners.`);
}

const identifier = (name: string) => name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(?=\d|$)/, '_');

function write(mesh: PolygonMesh, options: WriteOptions): Uint8Array<ArrayBuffer> {
  const out = new TextWriter();
  const p = mesh.positions;
  const triples: string[] = [];
  for (let i = 0; i < p.length; i += 3) triples.push(`(${p[i]}, ${p[i + 1]}, ${p[i + 2]})`);
  const sizes = Array.from({ length: faceCount(mesh) }, (_, f) => mesh.faceStart[f + 1] - mesh.faceStart[f]);
  out.line('#usda 1.0');
  out.line(`(\n    defaultPrim = "${identifier(options.name)}"`);
  out.line(`    metersPerUnit = ${options.millimetresPerUnit / 1000}\n    upAxis = "${options.upAxis}"\n)\n`);
  out.line(`def Mesh "${identifier(options.name)}"\n{`);
  out.line(`    uniform token subdivisionScheme = "${options.scheme === 'catmull-clark' ? 'catmullClark' : options.scheme}"`);
  out.line(`    uniform token interpolateBoundary = "${options.borderCorners === 'sharp' ? 'edgeAndCorner' : 'edgeOnly'}"`);
  out.line(`    point3f[] points = [${triples.join(', ')}]`);
  out.line(`    int[] faceVertexCounts = [${sizes.join(', ')}]`);
  out.line(`    int[] faceVertexIndices = [${mesh.faceVertices.join(', ')}]`);
  if (mesh.creaseSharpness?.length) {
    out.line(`    int[] creaseIndices = [${mesh.creaseEdges!.join(', ')}]`);
    out.line(`    int[] creaseLengths = [${Array.from(mesh.creaseSharpness, () => 2).join(', ')}]`);
    out.line(`    float[] creaseSharpnesses = [${mesh.creaseSharpness.join(', ')}]`);
  }
  if (mesh.cornerSharpness?.length) {
    out.line(`    int[] cornerIndices = [${mesh.cornerVertices!.join(', ')}]`);
    out.line(`    float[] cornerSharpnesses = [${mesh.cornerSharpness.join(', ')}]`);
  }
  if (mesh.vertexColour) {
    const colours: string[] = [];
    for (let i = 0; i < p.length; i += 3) colours.push(`(${[...mesh.vertexColour.subarray(i, i + 3)].join(', ')})`);
    out.line(`    color3f[] primvars:displayColor = [${colours.join(', ')}] (\n        interpolation = "vertex"\n    )`);
  }
  if (mesh.cornerUv && !mesh.cornerUv.some(Number.isNaN)) {
    const pairs: string[] = [];
    for (let c = 0; c < mesh.faceVertices.length; c++) pairs.push(`(${mesh.cornerUv[2 * c]}, ${mesh.cornerUv[2 * c + 1]})`);
    out.line(`    texCoord2f[] primvars:st = [${pairs.join(', ')}] (\n        interpolation = "faceVarying"\n    )`);
  }
  if (mesh.faceRegion && mesh.regionNames)
    mesh.regionNames.forEach((name, r) => {
      const faces = [...mesh.faceRegion!.keys()].filter((f) => mesh.faceRegion![f] === r);
      if (faces.length === 0) return;
      out.line(`\n    def GeomSubset "${identifier(name)}"\n    {\n        uniform token elementType = "face"`);
      out.line(`        uniform token familyName = "region"\n        int[] indices = [${faces.join(', ')}]\n    }`);
    });
  out.line('}');
  return out.done();
}

/** OpenUSD text: polygons with subdivision scheme, creases, corners, subsets. */
export const usda: Format = {
  id: 'usda',
  name: 'usda (OpenUSD text)',
  short: 'usda',
  usual: true,
  extensions: ['usda'],
  carries: { polygons: true, creases: true, regions: true, textureCoordinates: true, colours: true, units: true, exactNumbers: true },
  sniff: (bytes) => new TextDecoder().decode(bytes.subarray(0, 8)).startsWith('#usda'),
  read,
  write
};
