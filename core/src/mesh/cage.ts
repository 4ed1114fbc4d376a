import { knownLayers, type AttributeLayer, type Domain, type KnownLayer } from './attributes.ts';
import { CageError, FREE, HalfEdges, NONE } from './half-edges.ts';
import { numberEdges } from './number-edges.ts';
import { type PolygonMesh } from './polygon-mesh.ts';

/** A cage as plain data; only `Cage.revived` knows what is in it. */
export type PlainCage = { readonly plainCage: unique symbol };

/** A polygon mesh: half-edges with values on vertices, edges, faces and corners, which follow them. */
export class Cage extends HalfEdges {
  layers = new Map<string, AttributeLayer>();
  /** names of the regions that the layer `region` counts */
  regionNames: string[] = [];

  /** The named layer, made with its default values if the cage has none yet. */
  layer(name: KnownLayer): AttributeLayer {
    const present = this.layers.get(name);
    if (present) return present;
    const made: AttributeLayer = { name, ...knownLayers[name], data: new Float64Array(0) };
    made.data = new Float64Array(this.slotsOf(made.domain) * made.size).fill(made.initial);
    this.layers.set(name, made);
    return made;
  }

  /** First number of a layer at an element, or the layer's default where the cage has no such layer. */
  value(name: KnownLayer, element: number): number {
    const layer = this.layers.get(name);
    return layer ? layer.data[element * layer.size] : knownLayers[name].initial;
  }

  /** Sets the first number of a layer at an element; the layer is made where it is missing and the value is not its default. */
  setValue(name: KnownLayer, element: number, value: number): void {
    if (!this.layers.has(name) && value === knownLayers[name].initial) return;
    const layer = this.layer(name);
    layer.data[element * layer.size] = value;
  }

  private slotsOf(domain: Domain): number {
    if (domain === 'vertex') return this.vertexEdge.length;
    if (domain === 'edge') return this.next.length >> 1;
    return domain === 'face' ? this.faceEdge.length : this.next.length;
  }

  /** A copy that shares nothing with this cage; ids and free slots are the same. */
  clone(): Cage {
    const copy = new Cage();
    copy.positions = this.positions.slice();
    copy.vertexEdge = this.vertexEdge.slice();
    copy.next = this.next.slice();
    copy.origin = this.origin.slice();
    copy.face = this.face.slice();
    copy.faceEdge = this.faceEdge.slice();
    copy.regionNames = this.regionNames.slice();
    for (const [name, layer] of this.layers) copy.layers.set(name, { ...layer, data: layer.data.slice() });
    copy.vertexSlots = this.vertexSlots;
    copy.edgeSlots = this.edgeSlots;
    copy.faceSlots = this.faceSlots;
    copy.freeVertices = this.freeVertices.slice();
    copy.freeEdges = this.freeEdges.slice();
    copy.freeFaces = this.freeFaces.slice();
    return copy;
  }

  /** All it holds as plain data that can be handed to another thread; shares its arrays. */
  plain(): PlainCage {
    return { ...this } as unknown as PlainCage;
  }
  /** The cage that `plain` told of. */
  static revived(plain: PlainCage): Cage {
    return Object.assign(new Cage(), plain);
  }

  /** Takes a free vertex slot, or makes one. */
  addVertex(x: number, y: number, z: number): number {
    let v = this.freeVertices.pop();
    if (v === undefined) {
      v = this.vertexSlots++;
      if (v >= this.vertexEdge.length) {
        this.vertexEdge = grown(this.vertexEdge, v + 1);
        this.positions = grown(this.positions, 3 * this.vertexEdge.length);
        this.growLayers('vertex');
      }
    }
    this.vertexEdge[v] = NONE;
    this.positions[3 * v] = x;
    this.positions[3 * v + 1] = y;
    this.positions[3 * v + 2] = z;
    this.resetLayers('vertex', v);
    return v;
  }

  /** Takes a free edge slot, or makes one, between a and b; the caller links it. @returns its half-edge from a to b */
  addEdgeSlot(a: number, b: number): number {
    let e = this.freeEdges.pop();
    if (e === undefined) {
      e = this.edgeSlots++;
      if (2 * e >= this.next.length) {
        this.next = grown(this.next, 2 * e + 2);
        this.origin = grown(this.origin, this.next.length);
        this.face = grown(this.face, this.next.length);
        this.growLayers('edge');
        this.growLayers('corner');
      }
    }
    const h = 2 * e;
    this.origin[h] = a;
    this.origin[h + 1] = b;
    this.face[h] = this.face[h + 1] = NONE;
    this.next[h] = h + 1;
    this.next[h + 1] = h;
    this.resetLayers('edge', e);
    this.resetLayers('corner', h);
    this.resetLayers('corner', h + 1);
    return h;
  }

  /** Takes a free face slot, or makes one; the caller links it. */
  addFaceSlot(h: number): number {
    let f = this.freeFaces.pop();
    if (f === undefined) {
      f = this.faceSlots++;
      if (f >= this.faceEdge.length) {
        this.faceEdge = grown(this.faceEdge, f + 1);
        this.growLayers('face');
      }
    }
    this.faceEdge[f] = h;
    this.resetLayers('face', f);
    return f;
  }

  freeVertex(v: number): void {
    this.vertexEdge[v] = FREE;
    this.freeVertices.push(v);
  }
  freeEdge(e: number): void {
    this.origin[2 * e] = this.origin[2 * e + 1] = FREE;
    this.freeEdges.push(e);
  }
  freeFace(f: number): void {
    this.faceEdge[f] = FREE;
    this.freeFaces.push(f);
  }

  /** Lets `vertexEdge[v]` be a border half-edge again where v is on a border. */
  settleVertex(v: number): void {
    const first = this.vertexEdge[v];
    if (first < 0) return;
    let h = first;
    do {
      if (this.face[h] === NONE) {
        this.vertexEdge[v] = h;
        return;
      }
      h = this.next[h ^ 1];
    } while (h !== first);
  }

  /** Copies all values of one element to another, in every layer of the domain. */
  copyValues(domain: Domain, from: number, to: number): void {
    for (const { domain: d, size, data } of this.layers.values())
      if (d === domain) for (let k = 0; k < size; k++) data[to * size + k] = data[from * size + k];
  }

  private growLayers(domain: Domain): void {
    for (const layer of this.layers.values()) {
      if (layer.domain !== domain) continue;
      const before = layer.data.length;
      const data = new Float64Array(this.slotsOf(domain) * layer.size);
      data.set(layer.data);
      layer.data = data.fill(layer.initial, before);
    }
  }

  private resetLayers(domain: Domain, element: number): void {
    for (const { domain: d, size, data, initial } of this.layers.values()) if (d === domain) data.fill(initial, element * size, (element + 1) * size);
  }

  /**
   * Builds the half-edges of polygons whose edges have at most two faces, turned consistently, without pinched vertices.
   * Ids equal the indices in `mesh`. Bring polygons of unknown origin through `repairPolygons` first.
   * @throws CageError naming the face that cannot be held
   * @example const cage = Cage.fromPolygons(box({ x: 40, y: 20, z: 10 }, { x: 4, y: 2, z: 1 }));
   */
  static fromPolygons(mesh: PolygonMesh): Cage {
    return buildCage(mesh);
  }

  /**
   * Plain polygons with packed indices, and where each came from: `vertexIds[i]` and `faceIds[i]` are ids in this cage.
   * Creases, corners, regions and texture coordinates are taken along.
   */
  toPolygons(): PolygonMesh & { vertexIds: Int32Array; faceIds: Int32Array } {
    return flattenCage(this);
  }

  /** The same cage without free slots; ids change. */
  packed(): Cage {
    const cage = Cage.fromPolygons(this.toPolygons());
    cage.regionNames = this.regionNames.slice();
    return cage;
  }
}

/** Half as large again; even, as half-edges come in pairs. */
function grown<T extends Int32Array | Float64Array>(array: T, needed: number): T {
  const bigger = new (array.constructor as new (length: number) => T)(Math.max(needed, 2 * Math.ceil(array.length * 0.75), 8));
  bigger.set(array as never);
  return bigger;
}

function buildCage(mesh: PolygonMesh): Cage {
  const { faceStart, faceVertices } = mesh;
  const vertices = mesh.positions.length / 3;
  const faces = faceStart.length - 1;
  const { cornerEdge, edges } = numberEdges(mesh);
  const cage = new Cage(vertices, edges, faces);
  cage.vertexSlots = vertices;
  cage.edgeSlots = edges;
  cage.faceSlots = faces;
  cage.positions.set(mesh.positions);
  cage.vertexEdge.fill(NONE);
  cage.face.fill(NONE);
  cage.next.fill(NONE);
  cage.origin.fill(FREE);
  const halfOfCorner = new Int32Array(faceVertices.length);
  for (let f = 0; f < faces; f++) {
    const start = faceStart[f];
    const end = faceStart[f + 1];
    for (let c = start; c < end; c++) {
      const a = faceVertices[c];
      const b = faceVertices[c + 1 < end ? c + 1 : start];
      let h = 2 * cornerEdge[c];
      if (cage.origin[h] === FREE) {
        cage.origin[h] = a;
        cage.origin[h + 1] = b;
      } else if (cage.origin[h] !== a) h++;
      if (cage.origin[h] !== a || a === b || cage.face[h] !== NONE)
        throw new CageError(`Face ${f}: the edge between vertices ${a} and ${b} has more than two faces, or faces turned against each other.`);
      cage.face[h] = f;
      halfOfCorner[c] = h;
    }
    cage.faceEdge[f] = halfOfCorner[start];
    for (let c = start; c < end; c++) cage.next[halfOfCorner[c]] = halfOfCorner[c + 1 < end ? c + 1 : start];
  }
  linkBorders(cage);
  attachValues(cage, mesh, halfOfCorner);
  return cage;
}

/** Joins the half-edges without a face into loops, and gives every vertex an outgoing half-edge. */
function linkBorders(cage: Cage): void {
  const { origin, face, next, vertexEdge } = cage;
  const count = 2 * cage.edgeSlots;
  for (let h = 0; h < count; h++)
    if (face[h] === NONE) {
      const v = origin[h];
      if (vertexEdge[v] !== NONE) throw new CageError(`Vertex ${v} is pinched: more than one border runs through it.`);
      vertexEdge[v] = h;
    }
  for (let h = 0; h < count; h++) {
    if (face[h] === NONE) next[h] = vertexEdge[origin[h ^ 1]];
    else if (vertexEdge[origin[h]] === NONE) vertexEdge[origin[h]] = h;
  }
  const spokesSeen = new Int32Array(cage.vertexSlots);
  for (let h = 0; h < count; h++) spokesSeen[origin[h]]++;
  for (let v = 0; v < cage.vertexSlots; v++)
    if (spokesSeen[v] !== cage.valence(v)) throw new CageError(`Vertex ${v} is pinched: two fans of faces meet in it.`);
}

function attachValues(cage: Cage, mesh: PolygonMesh, halfOfCorner: Int32Array): void {
  if (mesh.faceRegion) {
    cage.layer('region').data.set(mesh.faceRegion);
    cage.regionNames = mesh.regionNames?.slice() ?? [];
  }
  if (mesh.vertexColour) cage.layer('colour').data.set(mesh.vertexColour);
  if (mesh.cornerUv) {
    const { data } = cage.layer('uv');
    for (let c = 0; c < halfOfCorner.length; c++) {
      data[2 * halfOfCorner[c]] = mesh.cornerUv[2 * c];
      data[2 * halfOfCorner[c] + 1] = mesh.cornerUv[2 * c + 1];
    }
  }
  if (mesh.creaseEdges && mesh.creaseSharpness) {
    const { data } = cage.layer('crease');
    for (let i = 0; i < mesh.creaseSharpness.length; i++) {
      const h = cage.findHalfEdge(mesh.creaseEdges[2 * i], mesh.creaseEdges[2 * i + 1]);
      if (h !== NONE) data[h >> 1] = mesh.creaseSharpness[i];
    }
  }
  if (mesh.cornerVertices && mesh.cornerSharpness) {
    const { data } = cage.layer('corner');
    mesh.cornerVertices.forEach((v, i) => (data[v] = mesh.cornerSharpness![i]));
  }
}

function flattenCage(cage: Cage): PolygonMesh & { vertexIds: Int32Array; faceIds: Int32Array } {
  const vertexIds = Int32Array.from(cage.vertices());
  const faceIds = Int32Array.from(cage.faces());
  const indexOf = new Int32Array(cage.vertexSlots);
  const positions = new Float64Array(3 * vertexIds.length);
  vertexIds.forEach((v, i) => {
    indexOf[v] = i;
    for (let k = 0; k < 3; k++) positions[3 * i + k] = cage.positions[3 * v + k];
  });
  const faceStart = new Int32Array(faceIds.length + 1);
  const corners: number[] = [];
  const halves: number[] = [];
  faceIds.forEach((f, i) => {
    const first = cage.faceEdge[f];
    let h = first;
    do {
      corners.push(indexOf[cage.origin[h]]);
      halves.push(h);
      h = cage.next[h];
    } while (h !== first);
    faceStart[i + 1] = corners.length;
  });
  const mesh: PolygonMesh & { vertexIds: Int32Array; faceIds: Int32Array } = {
    positions,
    faceStart,
    faceVertices: Int32Array.from(corners),
    vertexIds,
    faceIds
  };
  const region = cage.layers.get('region');
  if (region) {
    mesh.faceRegion = Int32Array.from(faceIds, (f) => region.data[f]);
    mesh.regionNames = cage.regionNames.slice();
  }
  const colour = cage.layers.get('colour');
  if (colour) {
    mesh.vertexColour = new Float64Array(positions.length);
    vertexIds.forEach((v, i) => mesh.vertexColour!.set(colour.data.subarray(3 * v, 3 * v + 3), 3 * i));
  }
  const uv = cage.layers.get('uv');
  if (uv) {
    mesh.cornerUv = new Float64Array(2 * halves.length);
    halves.forEach((h, c) => {
      mesh.cornerUv![2 * c] = uv.data[2 * h];
      mesh.cornerUv![2 * c + 1] = uv.data[2 * h + 1];
    });
  }
  const crease = cage.layers.get('crease');
  if (crease) {
    const creased = [...cage.edges()].filter((e) => crease.data[e] > 0);
    mesh.creaseEdges = Int32Array.from(creased.flatMap((e) => [indexOf[cage.origin[2 * e]], indexOf[cage.origin[2 * e + 1]]]));
    mesh.creaseSharpness = Float64Array.from(creased, (e) => crease.data[e]);
  }
  const corner = cage.layers.get('corner');
  if (corner) {
    const sharp = vertexIds.filter((v) => corner.data[v] > 0);
    mesh.cornerVertices = sharp.map((v) => indexOf[v]);
    mesh.cornerSharpness = Float64Array.from(sharp, (v) => corner.data[v]);
  }
  return mesh;
}
