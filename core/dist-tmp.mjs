// core/src/mesh/attributes.ts
var knownLayers = {
  crease: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  corner: { domain: 'vertex', size: 1, initial: 0, onSplit: 'drop', onJoin: 'copy' },
  region: { domain: 'face', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  uv: { domain: 'corner', size: 2, initial: NaN, onSplit: 'mix', onJoin: 'copy' },
  /** red, green and blue from 0 to 1; grey for vertices that come in beside coloured ones */
  colour: { domain: 'vertex', size: 3, initial: 0.5, onSplit: 'mix', onJoin: 'copy' },
  /** width in mm of the support loops along an edge; 0 without */
  braced: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  /** vertex of a braced edge that a vertex of a support loop belongs to; -2 for those that were there before, -1 for ones made since */
  braceAnchor: { domain: 'vertex', size: 1, initial: -1, onSplit: 'drop', onJoin: 'copy' },
  /** edges the border or loop an edge lies on is to have; 0 where that is left open */
  pinned: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' },
  /** 1 on edges that only end a support loop in a face pattern */
  braceSpoke: { domain: 'edge', size: 1, initial: 0, onSplit: 'copy', onJoin: 'copy' }
};

// core/src/mesh/polygon-mesh.ts
var vertexCount = (mesh) => mesh.positions.length / 3;
var faceCount = (mesh) => mesh.faceStart.length - 1;
function polygonMesh(points, faces) {
  const faceStart = new Int32Array(faces.length + 1);
  faces.forEach((face, f) => (faceStart[f + 1] = faceStart[f] + face.length));
  return { positions: Float64Array.from(points.flat()), faceStart, faceVertices: Int32Array.from(faces.flat()) };
}
function evenFaceStart(faces, corners) {
  return Int32Array.from({ length: faces + 1 }, (_, f) => f * corners);
}
function uniformMesh(positions, faceVertices, corners) {
  return { positions, faceVertices, faceStart: evenFaceStart(faceVertices.length / corners, corners) };
}
function usedVertices(indices, vertices) {
  const place = new Int32Array(vertices).fill(-1);
  const used = [];
  const renumbered2 = Int32Array.from(indices, (v) => {
    if (place[v] < 0) place[v] = used.push(v) - 1;
    return place[v];
  });
  return { used, indices: renumbered2 };
}
function pickedPoints(positions, vertices) {
  const picked = new Float64Array(3 * vertices.length);
  vertices.forEach((v, i) => {
    for (let k = 0; k < 3; k++) picked[3 * i + k] = positions[3 * v + k];
  });
  return picked;
}
function boundsOf(positions) {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const x = positions[i + k];
      if (x < min[k]) min[k] = x;
      if (x > max[k]) max[k] = x;
    }
  if (positions.length === 0) return { min: [0, 0, 0], max: [0, 0, 0], diagonal: 0 };
  return { min, max, diagonal: Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) };
}

// core/src/mesh/cage.ts
var FREE = -2;
var NONE = -1;
var CageError = class extends Error {};
var Cage = class _Cage {
  /** x, y, z by vertex id */
  positions;
  /** an outgoing half-edge by vertex id, a border one if there is one; NONE: on its own; FREE: no such vertex */
  vertexEdge;
  /** half-edge that follows in the face or border loop, by half-edge id */
  next;
  /** vertex a half-edge starts at; FREE: no such half-edge */
  origin;
  /** face of a half-edge, or NONE on a border */
  face;
  /** a half-edge by face id; FREE: no such face */
  faceEdge;
  layers = /* @__PURE__ */ new Map();
  /** names of the regions that the layer `region` counts */
  regionNames = [];
  /** number of slots in use or free */
  vertexSlots = 0;
  edgeSlots = 0;
  faceSlots = 0;
  freeVertices = [];
  freeEdges = [];
  freeFaces = [];
  constructor(vertices = 0, edges = 0, faces = 0) {
    this.positions = new Float64Array(3 * vertices);
    this.vertexEdge = new Int32Array(vertices);
    this.next = new Int32Array(2 * edges);
    this.origin = new Int32Array(2 * edges);
    this.face = new Int32Array(2 * edges);
    this.faceEdge = new Int32Array(faces);
  }
  get vertexCount() {
    return this.vertexSlots - this.freeVertices.length;
  }
  get edgeCount() {
    return this.edgeSlots - this.freeEdges.length;
  }
  get faceCount() {
    return this.faceSlots - this.freeFaces.length;
  }
  hasVertex(v) {
    return v >= 0 && v < this.vertexSlots && this.vertexEdge[v] !== FREE;
  }
  hasEdge(e) {
    return e >= 0 && e < this.edgeSlots && this.origin[2 * e] !== FREE;
  }
  hasFace(f) {
    return f >= 0 && f < this.faceSlots && this.faceEdge[f] !== FREE;
  }
  *vertices() {
    for (let v = 0; v < this.vertexSlots; v++) if (this.vertexEdge[v] !== FREE) yield v;
  }
  *edges() {
    for (let e = 0; e < this.edgeSlots; e++) if (this.origin[2 * e] !== FREE) yield e;
  }
  *faces() {
    for (let f = 0; f < this.faceSlots; f++) if (this.faceEdge[f] !== FREE) yield f;
  }
  /** vertex a half-edge ends at */
  target(h) {
    return this.origin[h ^ 1];
  }
  /** half-edge before h in its loop; walks round the start vertex, so it costs the valence */
  previous(h) {
    let p = h ^ 1;
    while (this.next[p] !== h) p = this.next[p] ^ 1;
    return p;
  }
  isBorderEdge(e) {
    return this.face[2 * e] === NONE || this.face[2 * e + 1] === NONE;
  }
  isBorderVertex(v) {
    const h = this.vertexEdge[v];
    return h >= 0 && this.face[h] === NONE;
  }
  /** outgoing half-edges of a vertex, in turn */
  spokes(v) {
    const first = this.vertexEdge[v];
    const list = [];
    if (first < 0) return list;
    let h = first;
    do {
      list.push(h);
      h = this.next[h ^ 1];
    } while (h !== first);
    return list;
  }
  valence(v) {
    const first = this.vertexEdge[v];
    if (first < 0) return 0;
    let count = 0;
    let h = first;
    do {
      count++;
      h = this.next[h ^ 1];
    } while (h !== first);
    return count;
  }
  /** half-edges of the loop that h lies in: a face's, or a border's */
  loopOf(h) {
    const list = [];
    let k = h;
    do {
      list.push(k);
      k = this.next[k];
    } while (k !== h);
    return list;
  }
  faceSize(f) {
    let count = 0;
    const first = this.faceEdge[f];
    let h = first;
    do {
      count++;
      h = this.next[h];
    } while (h !== first);
    return count;
  }
  faceVertices(f) {
    return this.loopOf(this.faceEdge[f]).map((h) => this.origin[h]);
  }
  /** half-edge from a to b, or NONE */
  findHalfEdge(a2, b) {
    for (const h of this.spokes(a2)) if (this.target(h) === b) return h;
    return NONE;
  }
  position(v) {
    return [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
  }
  edgeLength(e) {
    const a2 = 3 * this.origin[2 * e];
    const b = 3 * this.origin[2 * e + 1];
    const p = this.positions;
    return Math.hypot(p[a2] - p[b], p[a2 + 1] - p[b + 1], p[a2 + 2] - p[b + 2]);
  }
  /** The named layer, made with its default values if the cage has none yet. */
  layer(name) {
    const present = this.layers.get(name);
    if (present) return present;
    const made = { name, ...knownLayers[name], data: new Float64Array(0) };
    made.data = new Float64Array(this.slotsOf(made.domain) * made.size).fill(made.initial);
    this.layers.set(name, made);
    return made;
  }
  /** First number of a layer at an element, or the layer's default where the cage has no such layer. */
  value(name, element) {
    const layer = this.layers.get(name);
    return layer ? layer.data[element * layer.size] : knownLayers[name].initial;
  }
  /** Sets the first number of a layer at an element; the layer is made where it is missing and the value is not its default. */
  setValue(name, element, value) {
    if (!this.layers.has(name) && value === knownLayers[name].initial) return;
    const layer = this.layer(name);
    layer.data[element * layer.size] = value;
  }
  slotsOf(domain) {
    if (domain === 'vertex') return this.vertexEdge.length;
    if (domain === 'edge') return this.next.length >> 1;
    return domain === 'face' ? this.faceEdge.length : this.next.length;
  }
  /** A copy that shares nothing with this cage; ids and free slots are the same. */
  clone() {
    const copy = new _Cage();
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
  /** Takes a free vertex slot, or makes one. */
  addVertex(x, y, z) {
    let v = this.freeVertices.pop();
    if (v === void 0) {
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
  addEdgeSlot(a2, b) {
    let e = this.freeEdges.pop();
    if (e === void 0) {
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
    this.origin[h] = a2;
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
  addFaceSlot(h) {
    let f = this.freeFaces.pop();
    if (f === void 0) {
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
  freeVertex(v) {
    this.vertexEdge[v] = FREE;
    this.freeVertices.push(v);
  }
  freeEdge(e) {
    this.origin[2 * e] = this.origin[2 * e + 1] = FREE;
    this.freeEdges.push(e);
  }
  freeFace(f) {
    this.faceEdge[f] = FREE;
    this.freeFaces.push(f);
  }
  /** Lets `vertexEdge[v]` be a border half-edge again where v is on a border. */
  settleVertex(v) {
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
  copyValues(domain, from, to) {
    for (const { domain: d, size, data } of this.layers.values())
      if (d === domain) for (let k = 0; k < size; k++) data[to * size + k] = data[from * size + k];
  }
  growLayers(domain) {
    for (const layer of this.layers.values()) {
      if (layer.domain !== domain) continue;
      const before2 = layer.data.length;
      const data = new Float64Array(this.slotsOf(domain) * layer.size);
      data.set(layer.data);
      layer.data = data.fill(layer.initial, before2);
    }
  }
  resetLayers(domain, element) {
    for (const { domain: d, size, data, initial } of this.layers.values()) if (d === domain) data.fill(initial, element * size, (element + 1) * size);
  }
  /**
   * Builds the half-edges of polygons whose edges have at most two faces, turned consistently, without pinched vertices.
   * Ids equal the indices in `mesh`. Bring polygons of unknown origin through `repairPolygons` first.
   * @throws CageError naming the face that cannot be held
   */
  static fromPolygons(mesh) {
    return buildCage(mesh);
  }
  /**
   * Plain polygons with packed indices, and where each came from: `vertexIds[i]` and `faceIds[i]` are ids in this cage.
   * Creases, corners, regions and texture coordinates are taken along.
   */
  toPolygons() {
    return flattenCage(this);
  }
  /** The same cage without free slots; ids change. */
  packed() {
    const cage = _Cage.fromPolygons(this.toPolygons());
    cage.regionNames = this.regionNames.slice();
    return cage;
  }
};
function grown(array, needed) {
  const bigger = new array.constructor(Math.max(needed, 2 * Math.ceil(array.length * 0.75), 8));
  bigger.set(array);
  return bigger;
}
function numberEdges(mesh) {
  const { faceStart, faceVertices } = mesh;
  const corners = faceVertices.length;
  const vertices = mesh.positions.length / 3;
  const bucket = new Int32Array(vertices + 1);
  const low = new Int32Array(corners);
  const high = new Int32Array(corners);
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let c = faceStart[f], end = faceStart[f + 1]; c < end; c++) {
      const a2 = faceVertices[c];
      const b = faceVertices[c + 1 < end ? c + 1 : faceStart[f]];
      low[c] = a2 < b ? a2 : b;
      high[c] = a2 < b ? b : a2;
      bucket[low[c] + 1]++;
    }
  for (let v = 0; v < vertices; v++) bucket[v + 1] += bucket[v];
  const order = new Int32Array(corners);
  const cursor = bucket.slice();
  for (let c = 0; c < corners; c++) order[cursor[low[c]]++] = c;
  const cornerEdge = new Int32Array(corners);
  let edges = 0;
  for (let v = 0; v < vertices; v++)
    for (let i = bucket[v]; i < bucket[v + 1]; i++) {
      const c = order[i];
      let j = bucket[v];
      while (j < i && high[order[j]] !== high[c]) j++;
      cornerEdge[c] = j < i ? cornerEdge[order[j]] : edges++;
    }
  return { cornerEdge, edges };
}
function buildCage(mesh) {
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
      const a2 = faceVertices[c];
      const b = faceVertices[c + 1 < end ? c + 1 : start];
      let h = 2 * cornerEdge[c];
      if (cage.origin[h] === FREE) {
        cage.origin[h] = a2;
        cage.origin[h + 1] = b;
      } else if (cage.origin[h] !== a2) h++;
      if (cage.origin[h] !== a2 || a2 === b || cage.face[h] !== NONE)
        throw new CageError(`Face ${f}: the edge between vertices ${a2} and ${b} has more than two faces, or faces turned against each other.`);
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
function linkBorders(cage) {
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
function attachValues(cage, mesh, halfOfCorner) {
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
    mesh.cornerVertices.forEach((v, i) => (data[v] = mesh.cornerSharpness[i]));
  }
}
function flattenCage(cage) {
  const vertexIds = Int32Array.from(cage.vertices());
  const faceIds = Int32Array.from(cage.faces());
  const indexOf = new Int32Array(cage.vertexSlots);
  const positions = new Float64Array(3 * vertexIds.length);
  vertexIds.forEach((v, i) => {
    indexOf[v] = i;
    for (let k = 0; k < 3; k++) positions[3 * i + k] = cage.positions[3 * v + k];
  });
  const faceStart = new Int32Array(faceIds.length + 1);
  const corners = [];
  const halves = [];
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
  const mesh = {
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
    vertexIds.forEach((v, i) => mesh.vertexColour.set(colour.data.subarray(3 * v, 3 * v + 3), 3 * i));
  }
  const uv = cage.layers.get('uv');
  if (uv) {
    mesh.cornerUv = new Float64Array(2 * halves.length);
    halves.forEach((h, c) => {
      mesh.cornerUv[2 * c] = uv.data[2 * h];
      mesh.cornerUv[2 * c + 1] = uv.data[2 * h + 1];
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

// core/src/mesh/triangulate.ts
import earcut from 'earcut';
function triangulate(mesh) {
  const { positions: p, faceStart, faceVertices } = mesh;
  const faces = faceCount(mesh);
  const triangles = new Uint32Array(3 * Math.max(0, faceVertices.length - 2 * faces));
  const faceOf = new Uint32Array(triangles.length / 3);
  let t = 0;
  const add2 = (f, a2, b, c) => {
    triangles.set([a2, b, c], 3 * t);
    faceOf[t++] = f;
  };
  for (let f = 0; f < faces; f++) {
    const start = faceStart[f];
    const size = faceStart[f + 1] - start;
    const v = (i) => faceVertices[start + i];
    if (size === 3) {
      triangles[3 * t] = v(0);
      triangles[3 * t + 1] = v(1);
      triangles[3 * t + 2] = v(2);
      faceOf[t++] = f;
    } else if (size === 4) {
      const first = cutsWell(p, v(0), v(1), v(2), v(3));
      const second = cutsWell(p, v(1), v(2), v(3), v(0));
      const shorter = squared(p, v(0), v(2)) <= squared(p, v(1), v(3));
      const from = second && !(first && shorter) ? 1 : 0;
      add2(f, v(from), v(from + 1), v(from + 2));
      add2(f, v(from), v(from + 2), v((from + 3) % 4));
    } else if (size > 4) {
      const before2 = t;
      for (const [a2, b, c] of clipEars(p, faceVertices, start, size)) add2(f, v(a2), v(b), v(c));
      if (t - before2 !== size - 2) {
        t = before2;
        for (let i = 1; i < size - 1; i++) add2(f, v(0), v(i), v(i + 1));
      }
    }
  }
  return { triangles: triangles.subarray(0, 3 * t), faceOf: faceOf.subarray(0, t) };
}
function squared(p, a2, b) {
  return (p[3 * a2] - p[3 * b]) ** 2 + (p[3 * a2 + 1] - p[3 * b + 1]) ** 2 + (p[3 * a2 + 2] - p[3 * b + 2]) ** 2;
}
function cutsWell(p, a2, b, c, d) {
  const n = [0, 0, 0];
  const m = [0, 0, 0];
  crossInto(n, p, a2, b, c);
  crossInto(m, p, a2, c, d);
  return n[0] * m[0] + n[1] * m[1] + n[2] * m[2] > 0;
}
function crossInto(out, p, a2, b, c) {
  const ux = p[3 * b] - p[3 * a2];
  const uy = p[3 * b + 1] - p[3 * a2 + 1];
  const uz = p[3 * b + 2] - p[3 * a2 + 2];
  const vx = p[3 * c] - p[3 * a2];
  const vy = p[3 * c + 1] - p[3 * a2 + 1];
  const vz = p[3 * c + 2] - p[3 * a2 + 2];
  out[0] = uy * vz - uz * vy;
  out[1] = uz * vx - ux * vz;
  out[2] = ux * vy - uy * vx;
}
function clipEars(p, faceVertices, start, size) {
  const normal = [0, 0, 0];
  for (let i = 0; i < size; i++) {
    const a2 = 3 * faceVertices[start + i];
    const b = 3 * faceVertices[start + ((i + 1) % size)];
    normal[0] += (p[a2 + 1] - p[b + 1]) * (p[a2 + 2] + p[b + 2]);
    normal[1] += (p[a2 + 2] - p[b + 2]) * (p[a2] + p[b]);
    normal[2] += (p[a2] - p[b]) * (p[a2 + 1] + p[b + 1]);
  }
  const drop = [0, 1, 2].reduce((m, k) => (Math.abs(normal[k]) > Math.abs(normal[m]) ? k : m), 0);
  const x = (drop + 1) % 3;
  const y = (drop + 2) % 3;
  const flat = [];
  for (let i = 0; i < size; i++) flat.push(p[3 * faceVertices[start + i] + x], p[3 * faceVertices[start + i] + y]);
  const ears = earcut(flat);
  const turned2 = normal[drop] < 0;
  const triples = [];
  for (let i = 0; i < ears.length; i += 3) {
    const [a2, b, c] = [ears[i], ears[i + 1], ears[i + 2]];
    const area =
      (flat[2 * b] - flat[2 * a2]) * (flat[2 * c + 1] - flat[2 * a2 + 1]) - (flat[2 * b + 1] - flat[2 * a2 + 1]) * (flat[2 * c] - flat[2 * a2]);
    triples.push(area < 0 !== turned2 ? [a2, c, b] : [a2, b, c]);
  }
  return triples;
}

// core/src/numeric/vectors.ts
var add = (a2, b) => [a2[0] + b[0], a2[1] + b[1], a2[2] + b[2]];
var subtract = (a2, b) => [a2[0] - b[0], a2[1] - b[1], a2[2] - b[2]];
var scaled = (a2, s) => [a2[0] * s, a2[1] * s, a2[2] * s];
var dot = (a2, b) => a2[0] * b[0] + a2[1] * b[1] + a2[2] * b[2];
var cross = (a2, b) => [a2[1] * b[2] - a2[2] * b[1], a2[2] * b[0] - a2[0] * b[2], a2[0] * b[1] - a2[1] * b[0]];
var length = (a2) => Math.sqrt(a2[0] * a2[0] + a2[1] * a2[1] + a2[2] * a2[2]);
var unit = (a2) => {
  const long = length(a2);
  return long > 1e-150 ? scaled(a2, 1 / long) : [0, 0, 0];
};
var weightedSum = (parts) => parts.reduce((total, [w, p]) => add(total, scaled(p, w)), [0, 0, 0]);
function areaVector(corners) {
  let sum = [0, 0, 0];
  for (let i = 1; i + 1 < corners.length; i++) sum = add(sum, cross(subtract(corners[i], corners[0]), subtract(corners[i + 1], corners[0])));
  return sum;
}
function leastSine(corners, normal) {
  const n = corners.length;
  let least = 1;
  for (let i = 0; i < n; i++) {
    const ahead = unit(subtract(corners[(i + 1) % n], corners[i]));
    const back = unit(subtract(corners[(i + n - 1) % n], corners[i]));
    least = Math.min(least, dot(cross(ahead, back), normal));
  }
  return least;
}

// core/src/solids/engine.ts
import Module from 'manifold-3d/manifold.js';

// core/src/shapes/sample-surfaces.ts
function wedge(degrees) {
  const [length2, width] = [40, 20];
  const rise = length2 * Math.tan((degrees * Math.PI) / 180);
  const points = [0, width].flatMap((z) => [
    [0, 0, z],
    [length2, 0, z],
    [length2, rise, z]
  ]);
  return polygonMesh(points, [
    [0, 2, 1],
    [3, 4, 5],
    [0, 1, 4, 3],
    [1, 2, 5, 4],
    [2, 0, 3, 5]
  ]);
}

// core/src/mesh/topology.ts
function borderLoops(cage) {
  const seen = new Uint8Array(2 * cage.edgeSlots);
  const loops = [];
  for (const e of cage.edges())
    for (const h of [2 * e, 2 * e + 1]) {
      if (cage.face[h] !== NONE || seen[h]) continue;
      const loop = cage.loopOf(h);
      for (const k of loop) seen[k] = 1;
      loops.push(loop);
    }
  return loops;
}
function islands(cage) {
  const islandOf = new Int32Array(cage.faceSlots).fill(-1);
  let count = 0;
  for (const seed of cage.faces()) {
    if (islandOf[seed] >= 0) continue;
    const stack = [seed];
    islandOf[seed] = count;
    while (stack.length > 0) {
      const first = cage.faceEdge[stack.pop()];
      let h = first;
      do {
        const g = cage.face[h ^ 1];
        if (g !== NONE && islandOf[g] < 0) {
          islandOf[g] = count;
          stack.push(g);
        }
        h = cage.next[h];
      } while (h !== first);
    }
    count++;
  }
  return { islandOf, count };
}
function eulerCharacteristic(cage) {
  let used = 0;
  for (const v of cage.vertices()) if (cage.vertexEdge[v] !== NONE) used++;
  return used - cage.edgeCount + cage.faceCount;
}
function isPole(cage, v) {
  const valence = cage.valence(v);
  if (valence === 0) return false;
  return cage.isBorderVertex(v) ? valence > 3 : valence !== 4;
}
function faceSizes(cage) {
  let triangles = 0;
  let quads = 0;
  for (const f of cage.faces()) {
    const size = cage.faceSize(f);
    if (size === 3) triangles++;
    else if (size === 4) quads++;
  }
  return { triangles, quads, ngons: cage.faceCount - triangles - quads };
}

// core/src/reference/triangle-bvh.ts
var LEAF = 6;
var TriangleBvh = class {
  constructor(positions, triangles) {
    this.positions = positions;
    this.triangles = triangles;
    const total = triangles.length / 3;
    this.order = new Int32Array(total);
    this.centre = new Float64Array(3 * total);
    for (let t = 0; t < total; t++) {
      this.order[t] = t;
      for (let k = 0; k < 3; k++)
        this.centre[3 * t + k] =
          positions[3 * triangles[3 * t] + k] + positions[3 * triangles[3 * t + 1] + k] + positions[3 * triangles[3 * t + 2] + k];
    }
    const most = Math.max(1, 2 * Math.ceil((2 * total) / LEAF) + 8);
    this.box = new Float64Array(6 * most);
    this.right = new Int32Array(most);
    this.first = new Int32Array(most);
    this.count = new Int32Array(most);
    if (total > 0) this.build(0, total);
    this.centre = new Float64Array(0);
  }
  positions;
  triangles;
  order;
  box;
  right;
  first;
  count;
  nodes = 0;
  centre;
  stack = new Int32Array(128);
  stackDistance = new Float64Array(128);
  /** Distance of each point (x, y, z) to the triangles. */
  distances(points) {
    const found = surfacePoint();
    const out = new Float64Array(points.length / 3);
    for (let i = 0; i < out.length; i++) out[i] = Math.sqrt(this.closest(points[3 * i], points[3 * i + 1], points[3 * i + 2], found).distance2);
    return out;
  }
  build(from, to) {
    const node = this.nodes++;
    if (6 * node + 6 > this.box.length) this.grow();
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++) {
      const t = 3 * this.order[i];
      for (let k = 0; k < 3; k++) {
        const x = this.centre[t + k];
        if (x < low[k]) low[k] = x;
        if (x > high[k]) high[k] = x;
      }
    }
    if (to - from <= LEAF) {
      this.first[node] = from;
      this.count[node] = to - from;
      this.boundTriangles(node, from, to);
      return node;
    }
    let axis = 0;
    for (let k = 1; k < 3; k++) if (high[k] - low[k] > high[axis] - low[axis]) axis = k;
    const middle = this.partition(from, to, axis, (low[axis] + high[axis]) / 2);
    const left = this.build(from, middle);
    const right = this.build(middle, to);
    this.right[node] = right;
    this.count[node] = 0;
    for (let k = 0; k < 3; k++) {
      this.box[6 * node + k] = Math.min(this.box[6 * left + k], this.box[6 * right + k]);
      this.box[6 * node + 3 + k] = Math.max(this.box[6 * left + 3 + k], this.box[6 * right + 3 + k]);
    }
    return node;
  }
  grow() {
    const wider = (a2) => {
      const b = new a2.constructor(2 * a2.length);
      b.set(a2);
      return b;
    };
    this.box = wider(this.box);
    this.right = wider(this.right);
    this.first = wider(this.first);
    this.count = wider(this.count);
  }
  /** Splits at a coordinate, or at half the number where that leaves one side nearly empty. */
  partition(from, to, axis, at) {
    const { order, centre } = this;
    let i = from;
    for (let j = from; j < to; j++)
      if (centre[3 * order[j] + axis] < at) {
        const t = order[i];
        order[i++] = order[j];
        order[j] = t;
      }
    const few = (to - from) >> 4;
    if (i - from > few && to - i > few) return i;
    const half = order.slice(from, to).sort((s, t) => centre[3 * s + axis] - centre[3 * t + axis]);
    order.set(half, from);
    return (from + to) >> 1;
  }
  boundTriangles(node, from, to) {
    const { box: box2, positions, triangles, order } = this;
    for (let k = 0; k < 3; k++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++)
        for (let c = 0; c < 3; c++) {
          const x = positions[3 * triangles[3 * order[i] + c] + k];
          if (x < low) low = x;
          if (x > high) high = x;
        }
      box2[6 * node + k] = low;
      box2[6 * node + 3 + k] = high;
    }
  }
  boxDistance2(node, x, y, z) {
    const b = this.box;
    const i = 6 * node;
    const dx = x < b[i] ? b[i] - x : x > b[i + 3] ? x - b[i + 3] : 0;
    const dy = y < b[i + 1] ? b[i + 1] - y : y > b[i + 4] ? y - b[i + 4] : 0;
    const dz = z < b[i + 2] ? b[i + 2] - z : z > b[i + 5] ? z - b[i + 5] : 0;
    return dx * dx + dy * dy + dz * dz;
  }
  /**
   * The closest point on the triangles.
   * @param within2 squared distance beyond which nothing is looked for
   * @param accepts leaves out triangles (for those whose normal looks the wrong way)
   * @returns `into`, with triangle -1 where nothing was found
   */
  closest(x, y, z, into, within2 = Infinity, accepts) {
    const { stack, stackDistance } = this;
    into.triangle = -1;
    into.distance2 = within2;
    if (this.order.length === 0) return into;
    let top = 0;
    stack[0] = 0;
    stackDistance[0] = this.boxDistance2(0, x, y, z);
    while (top >= 0) {
      const node = stack[top];
      if (stackDistance[top--] >= into.distance2) continue;
      if (this.count[node] > 0) {
        for (let i = this.first[node], end = i + this.count[node]; i < end; i++) this.tryTriangle(this.order[i], x, y, z, into, accepts);
        continue;
      }
      const left = node + 1;
      const right = this.right[node];
      const dl = this.boxDistance2(left, x, y, z);
      const dr = this.boxDistance2(right, x, y, z);
      const [near, far, dn, df] = dl <= dr ? [left, right, dl, dr] : [right, left, dr, dl];
      if (df < into.distance2) {
        stack[++top] = far;
        stackDistance[top] = df;
      }
      if (dn < into.distance2) {
        stack[++top] = near;
        stackDistance[top] = dn;
      }
    }
    return into;
  }
  /** Ericson 2005: the closest point by Voronoi regions of the triangle. */
  tryTriangle(t, x, y, z, into, accepts) {
    const p = this.positions;
    const ia = 3 * this.triangles[3 * t];
    const ib = 3 * this.triangles[3 * t + 1];
    const ic = 3 * this.triangles[3 * t + 2];
    const ax = p[ia],
      ay = p[ia + 1],
      az = p[ia + 2];
    const abx = p[ib] - ax,
      aby = p[ib + 1] - ay,
      abz = p[ib + 2] - az;
    const acx = p[ic] - ax,
      acy = p[ic + 1] - ay,
      acz = p[ic + 2] - az;
    const apx = x - ax,
      apy = y - ay,
      apz = z - az;
    const d1 = abx * apx + aby * apy + abz * apz;
    const d2 = acx * apx + acy * apy + acz * apz;
    const d3 = d1 - (abx * abx + aby * aby + abz * abz);
    const d4 = d2 - (abx * acx + aby * acy + abz * acz);
    const d5 = d1 - (abx * acx + aby * acy + abz * acz);
    const d6 = d2 - (acx * acx + acy * acy + acz * acz);
    const va = d3 * d6 - d5 * d4;
    const vb = d5 * d2 - d1 * d6;
    const vc = d1 * d4 - d3 * d2;
    let b;
    let c;
    if (d1 <= 0 && d2 <= 0) {
      b = 0;
      c = 0;
    } else if (d3 >= 0 && d4 <= d3) {
      b = 1;
      c = 0;
    } else if (d6 >= 0 && d5 <= d6) {
      b = 0;
      c = 1;
    } else if (vc <= 0 && d1 >= 0 && d3 <= 0) {
      b = d1 / (d1 - d3);
      c = 0;
    } else if (vb <= 0 && d2 >= 0 && d6 <= 0) {
      b = 0;
      c = d2 / (d2 - d6);
    } else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      c = (d4 - d3) / (d4 - d3 + (d5 - d6));
      b = 1 - c;
    } else {
      const sum = va + vb + vc;
      b = sum === 0 ? 0 : vb / sum;
      c = sum === 0 ? 0 : vc / sum;
    }
    const qx = ax + b * abx + c * acx;
    const qy = ay + b * aby + c * acy;
    const qz = az + b * abz + c * acz;
    const d = (qx - x) ** 2 + (qy - y) ** 2 + (qz - z) ** 2;
    if (d < into.distance2 && (!accepts || accepts(t))) {
      into.distance2 = d;
      into.triangle = t;
      into.x = qx;
      into.y = qy;
      into.z = qz;
      into.b = b;
      into.c = c;
    }
  }
};
var surfacePoint = () => ({ triangle: -1, distance2: Infinity, x: 0, y: 0, z: 0, b: 0, c: 0 });

// core/src/reference/reference.ts
function triangleNormals(p, triangles) {
  const normals = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const a2 = 3 * triangles[t];
    const b = 3 * triangles[t + 1];
    const c = 3 * triangles[t + 2];
    const ux = p[b] - p[a2],
      uy = p[b + 1] - p[a2 + 1],
      uz = p[b + 2] - p[a2 + 2];
    const vx = p[c] - p[a2],
      vy = p[c + 1] - p[a2 + 1],
      vz = p[c + 2] - p[a2 + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const length2 = Math.sqrt(x * x + y * y + z * z) || 1;
    normals[t] = x / length2;
    normals[t + 1] = y / length2;
    normals[t + 2] = z / length2;
  }
  return normals;
}

// core/src/check/measures.ts
function measure(cage) {
  let least = Infinity;
  let most = 0;
  let off = 0;
  let corners = 0;
  for (const f of cage.faces()) {
    for (const angle of cornerAngles(cage, f)) {
      least = Math.min(least, angle);
      most = Math.max(most, angle);
      off += Math.abs(angle - 90);
      corners++;
    }
  }
  const poles = /* @__PURE__ */ new Map();
  for (const v of cage.vertices()) if (isPole(cage, v)) poles.set(cage.valence(v), (poles.get(cage.valence(v)) ?? 0) + 1);
  const lengths = edgeLengths(cage);
  const stats = lengthStatistics(lengths);
  return {
    vertices: cage.vertexCount,
    edges: cage.edgeCount,
    faces: cage.faceCount,
    ...faceSizes(cage),
    poles: [...poles].sort((a2, b) => a2[0] - b[0]).map(([valence, count]) => ({ valence, count })),
    borders: borderLoops(cage).length,
    islands: islands(cage).count,
    edgeLength: { mean: stats.mean, least: stats.least, most: stats.most },
    spacing: stats.spread,
    corners: { least: corners ? least : 0, most, meanOff90: corners ? off / corners : 0 }
  };
}
function edgeLengths(cage) {
  return Float64Array.from(cage.edges(), (e) => cage.edgeLength(e));
}
function lengthStatistics(lengths) {
  if (lengths.length === 0) return { mean: 0, spread: 0, least: 0, most: 0 };
  let sum = 0;
  let least = Infinity;
  let most = 0;
  for (const l of lengths) {
    sum += l;
    least = Math.min(least, l);
    most = Math.max(most, l);
  }
  const mean2 = sum / lengths.length;
  let square = 0;
  for (const l of lengths) square += (l - mean2) ** 2;
  return { mean: mean2, spread: mean2 > 0 ? Math.sqrt(square / lengths.length) / mean2 : 0, least, most };
}
function cornerAngles(cage, f) {
  const p = cage.positions;
  const v = cage.faceVertices(f);
  return v.map((b, i) => {
    const a2 = v[(i + v.length - 1) % v.length];
    const c = v[(i + 1) % v.length];
    let dot3 = 0;
    let aa = 0;
    let cc = 0;
    for (let k = 0; k < 3; k++) {
      const x = p[3 * a2 + k] - p[3 * b + k];
      const y = p[3 * c + k] - p[3 * b + k];
      dot3 += x * y;
      aa += x * x;
      cc += y * y;
    }
    const cosine = dot3 / Math.sqrt(aa * cc || 1);
    return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
  });
}
function deviation(reference, points) {
  const distance = reference.distances(points);
  let sum = 0;
  let most = 0;
  for (const d of distance) {
    sum += d;
    most = Math.max(most, d);
  }
  return { mean: distance.length ? sum / distance.length : 0, most, distance };
}

// core/src/subdivide/level-topology.ts
var STAYS_SHARP = 10;
var SubdivisionError = class extends Error {};
function cageLevel(mesh, borderCorners) {
  const { cornerEdge, edges } = numberEdges(mesh);
  const { faceStart, faceVertices } = mesh;
  const edgeVertices = new Int32Array(2 * edges);
  const edgeFaces = new Int32Array(2 * edges).fill(-1);
  const facesAt = new Int32Array(vertexCount(mesh));
  for (let f = 0; f < faceCount(mesh); f++)
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      const e = cornerEdge[c];
      facesAt[faceVertices[c]]++;
      if (edgeFaces[2 * e] < 0) {
        edgeFaces[2 * e] = f;
        edgeVertices[2 * e] = faceVertices[c];
        edgeVertices[2 * e + 1] = faceVertices[c + 1 < faceStart[f + 1] ? c + 1 : faceStart[f]];
      } else if (edgeFaces[2 * e + 1] < 0) edgeFaces[2 * e + 1] = f;
      else
        throw new SubdivisionError(
          `The edge between vertices ${edgeVertices[2 * e]} and ${edgeVertices[2 * e + 1]} has three faces: take one away, or bring the file in, which separates them.`
        );
    }
  const level = {
    vertices: vertexCount(mesh),
    edges,
    faceStart,
    faceVertices,
    faceEdges: cornerEdge,
    edgeVertices,
    edgeFaces,
    edgeSharpness: new Float64Array(edges),
    vertexSharpness: new Float64Array(vertexCount(mesh))
  };
  if (mesh.creaseEdges && mesh.creaseSharpness) setCreases(level, mesh.creaseEdges, mesh.creaseSharpness);
  mesh.cornerVertices?.forEach((v, i) => (level.vertexSharpness[v] = mesh.cornerSharpness[i]));
  if (borderCorners === 'sharp') {
    for (let e = 0; e < edges; e++)
      if (edgeFaces[2 * e + 1] < 0) {
        for (const v of [edgeVertices[2 * e], edgeVertices[2 * e + 1]]) if (facesAt[v] === 1) level.vertexSharpness[v] = STAYS_SHARP;
      }
  }
  return level;
}
function setCreases(level, pairs, sharpness) {
  const key = (a2, b) => Math.min(a2, b) * level.vertices + Math.max(a2, b);
  const wanted = /* @__PURE__ */ new Map();
  for (let i = 0; i < sharpness.length; i++) wanted.set(key(pairs[2 * i], pairs[2 * i + 1]), sharpness[i]);
  for (let e = 0; e < level.edges; e++) {
    const s = wanted.get(key(level.edgeVertices[2 * e], level.edgeVertices[2 * e + 1]));
    if (s !== void 0) level.edgeSharpness[e] = s;
  }
}
var softened = (s) => (s >= STAYS_SHARP ? s : Math.max(0, s - 1));
function refineQuads(level, softens = true) {
  const { vertices: V, edges: E, faceStart, faceVertices, faceEdges, edgeVertices, edgeFaces } = level;
  const F = faceStart.length - 1;
  const corners = faceVertices.length;
  const childFaces = new Int32Array(4 * corners);
  const childEdges = new Int32Array(4 * corners);
  const childEdgeVertices = new Int32Array(2 * (2 * E + corners));
  const childEdgeFaces = new Int32Array(2 * (2 * E + corners)).fill(-1);
  for (let e = 0; e < E; e++)
    for (let side = 0; side < 2; side++) {
      childEdgeVertices[4 * e + 2 * side] = edgeVertices[2 * e + side];
      childEdgeVertices[4 * e + 2 * side + 1] = V + e;
    }
  for (let f = 0; f < F; f++) {
    const start = faceStart[f];
    const end = faceStart[f + 1];
    let before2 = end - 1;
    for (let c = start; c < end; before2 = c++) {
      const v = faceVertices[c];
      const ahead = faceEdges[c];
      const behind = faceEdges[before2];
      const at = 4 * c;
      childFaces[at] = v;
      childFaces[at + 1] = V + ahead;
      childFaces[at + 2] = V + E + f;
      childFaces[at + 3] = V + behind;
      const aheadHalf = edgeFaces[2 * ahead] === f && edgeVertices[2 * ahead] === v ? 2 * ahead : halfAt(edgeVertices, ahead, v);
      const behindHalf = halfAt(edgeVertices, behind, v);
      childEdges[at] = aheadHalf;
      childEdges[at + 1] = 2 * E + c;
      childEdges[at + 2] = 2 * E + before2;
      childEdges[at + 3] = behindHalf;
      const inner = 2 * (2 * E + c);
      childEdgeVertices[inner] = V + ahead;
      childEdgeVertices[inner + 1] = V + E + f;
      childEdgeFaces[inner] = c;
      childEdgeFaces[2 * (2 * E + before2) + 1] = c;
      for (const half of [aheadHalf, behindHalf]) childEdgeFaces[childEdgeFaces[2 * half] < 0 ? 2 * half : 2 * half + 1] = c;
    }
  }
  return {
    vertices: V + E + F,
    edges: 2 * E + corners,
    faceStart: evenStarts(corners, 4),
    faceVertices: childFaces,
    faceEdges: childEdges,
    edgeVertices: childEdgeVertices,
    edgeFaces: childEdgeFaces,
    ...childSharpness(level, V + E + F, 2 * E + corners, softens)
  };
}
function halfAt(edgeVertices, e, v) {
  return edgeVertices[2 * e] === v ? 2 * e : 2 * e + 1;
}
function evenStarts(count, size) {
  const starts = new Int32Array(count + 1);
  for (let i = 1; i <= count; i++) starts[i] = i * size;
  return starts;
}
function childSharpness(level, vertices, edges, softens) {
  const edgeSharpness = new Float64Array(edges);
  const vertexSharpness = new Float64Array(vertices);
  const child = (s) => (softens ? softened(s) : s);
  for (let e = 0; e < level.edges; e++) edgeSharpness[2 * e] = edgeSharpness[2 * e + 1] = child(level.edgeSharpness[e]);
  for (let v = 0; v < level.vertices; v++) vertexSharpness[v] = child(level.vertexSharpness[v]);
  return { edgeSharpness, vertexSharpness };
}
function refineTriangles(level, softens = true) {
  const { vertices: V, edges: E, faceVertices, faceEdges, edgeVertices } = level;
  const F = level.faceStart.length - 1;
  const childFaces = new Int32Array(12 * F);
  const childEdges = new Int32Array(12 * F);
  const edgeCount = 2 * E + 3 * F;
  const childEdgeVertices = new Int32Array(2 * edgeCount);
  const childEdgeFaces = new Int32Array(2 * edgeCount).fill(-1);
  for (let e = 0; e < E; e++)
    for (let side = 0; side < 2; side++) {
      childEdgeVertices[4 * e + 2 * side] = edgeVertices[2 * e + side];
      childEdgeVertices[4 * e + 2 * side + 1] = V + e;
    }
  const claim = (e, f) => (childEdgeFaces[childEdgeFaces[2 * e] < 0 ? 2 * e : 2 * e + 1] = f);
  for (let f = 0; f < F; f++)
    for (let i = 0; i < 3; i++) {
      const c = 3 * f + i;
      const before2 = 3 * f + ((i + 2) % 3);
      const v = faceVertices[c];
      const ahead = faceEdges[c];
      const behind = faceEdges[before2];
      const at = 3 * (4 * f + i);
      const inner = 2 * E + c;
      childFaces.set([v, V + ahead, V + behind], at);
      childEdges.set([halfAt(edgeVertices, ahead, v), inner, halfAt(edgeVertices, behind, v)], at);
      childEdgeVertices.set([V + ahead, V + behind], 2 * inner);
      for (const e of [childEdges[at], inner, childEdges[at + 2]]) claim(e, 4 * f + i);
      claim(inner, 4 * f + 3);
      childFaces[3 * (4 * f + 3) + i] = V + ahead;
      childEdges[3 * (4 * f + 3) + i] = 2 * E + 3 * f + ((i + 1) % 3);
    }
  return {
    vertices: V + E,
    edges: edgeCount,
    faceStart: evenStarts(4 * F, 3),
    faceVertices: childFaces,
    faceEdges: childEdges,
    edgeVertices: childEdgeVertices,
    edgeFaces: childEdgeFaces,
    ...childSharpness(level, V + E, edgeCount, softens)
  };
}

// core/src/subdivide/weight-rows.ts
function applyRows(rows, source, out) {
  const { start, index, weight } = rows;
  const count = start.length - 1;
  let k = 0;
  for (let i = 0; i < count; i++) {
    let x = 0;
    let y = 0;
    let z = 0;
    for (const end = start[i + 1]; k < end; k++) {
      const w = weight[k];
      const s = 3 * index[k];
      x += w * source[s];
      y += w * source[s + 1];
      z += w * source[s + 2];
    }
    out[3 * i] = x;
    out[3 * i + 1] = y;
    out[3 * i + 2] = z;
  }
}
function applySomeRows(rows, some, source, out) {
  for (let n = 0; n < some.length; n++) applyRow(rows, some[n], source, out, some[n]);
}
function applyRow(rows, i, source, out, to) {
  const { start, index, weight } = rows;
  let x = 0;
  let y = 0;
  let z = 0;
  for (let k = start[i]; k < start[i + 1]; k++) {
    const w = weight[k];
    const s = 3 * index[k];
    x += w * source[s];
    y += w * source[s + 1];
    z += w * source[s + 2];
  }
  out[3 * to] = x;
  out[3 * to + 1] = y;
  out[3 * to + 2] = z;
}
function usersOf(rows, sources) {
  const start = new Int32Array(sources + 1);
  for (let k = 0; k < rows.index.length; k++) start[rows.index[k] + 1]++;
  for (let s = 0; s < sources; s++) start[s + 1] += start[s];
  const cursor = start.slice();
  const row = new Int32Array(rows.index.length);
  for (let i = 0; i + 1 < rows.start.length; i++) for (let k = rows.start[i]; k < rows.start[i + 1]; k++) row[cursor[rows.index[k]]++] = i;
  return { start, row };
}
function composeRows(outer, inner, sources) {
  const sum = new Float64Array(sources);
  const mark = new Int32Array(sources).fill(-1);
  const start = new Int32Array(outer.start.length);
  const index = [];
  const weight = [];
  for (let i = 0; i + 1 < outer.start.length; i++) {
    const first = index.length;
    for (let k = outer.start[i]; k < outer.start[i + 1]; k++) {
      const j = outer.index[k];
      for (let m = inner.start[j]; m < inner.start[j + 1]; m++) {
        const s = inner.index[m];
        if (mark[s] !== i) {
          mark[s] = i;
          sum[s] = 0;
          index.push(s);
        }
        sum[s] += outer.weight[k] * inner.weight[m];
      }
    }
    for (let n = first; n < index.length; n++) weight.push(sum[index[n]]);
    start[i + 1] = index.length;
  }
  return { start, index: Int32Array.from(index), weight: Float64Array.from(weight) };
}
var RowBuilder = class {
  start;
  index;
  weight;
  row = 0;
  at = 0;
  constructor(rows, capacity) {
    this.start = new Int32Array(rows + 1);
    this.index = new Int32Array(capacity);
    this.weight = new Float64Array(capacity);
  }
  add(source, weight) {
    for (let k = this.start[this.row]; k < this.at; k++)
      if (this.index[k] === source) {
        this.weight[k] += weight;
        return;
      }
    this.append(source, weight);
  }
  /** Like `add`, for a source that is certainly new in this row. */
  append(source, weight) {
    if (this.at === this.index.length) this.grow();
    this.index[this.at] = source;
    this.weight[this.at++] = weight;
  }
  endRow() {
    this.start[++this.row] = this.at;
  }
  grow() {
    const index = new Int32Array(2 * this.at + 64);
    const weight = new Float64Array(2 * this.at + 64);
    index.set(this.index);
    weight.set(this.weight);
    this.index = index;
    this.weight = weight;
  }
  done() {
    return { start: this.start, index: this.index.slice(0, this.at), weight: this.weight.slice(0, this.at) };
  }
};

// core/src/subdivide/level-plan.ts
var stepAt = (plan, level) => plan?.steps[level - 1] ?? 'smooth';
function capSharpness(level, at, plan) {
  if (plan?.creasesFrom === void 0 || at < plan.creasesFrom) return;
  const cap = plan.creaseCap ?? 0;
  for (const values of [level.edgeSharpness, level.vertexSharpness]) for (let i = 0; i < values.length; i++) if (values[i] > cap) values[i] = cap;
}
function divideRows(level, scheme) {
  const { vertices, edges, faceStart, faceVertices, edgeVertices } = level;
  const faces = scheme === 'loop' ? 0 : faceStart.length - 1;
  const rows = new RowBuilder(vertices + edges + faces, vertices + 2 * edges + (faces > 0 ? faceVertices.length : 0));
  for (let v = 0; v < vertices; v++) {
    rows.append(v, 1);
    rows.endRow();
  }
  for (let e = 0; e < edges; e++) {
    rows.append(edgeVertices[2 * e], 0.5);
    rows.append(edgeVertices[2 * e + 1], 0.5);
    rows.endRow();
  }
  for (let f = 0; f < faces; f++) {
    const share = 1 / (faceStart[f + 1] - faceStart[f]);
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) rows.append(faceVertices[c], share);
    rows.endRow();
  }
  return rows.done();
}

// core/src/subdivide/carried-values.ts
function refinedCorners(level, scheme, values) {
  const { faceStart } = level;
  const corners = level.faceVertices.length;
  const out = new Float64Array(8 * corners);
  for (let f = 0; f + 1 < faceStart.length; f++) {
    const [start, end] = [faceStart[f], faceStart[f + 1]];
    for (let k = 0; k < 2; k++) {
      const at = (c) => values[2 * c + k];
      const ahead = (c) => (at(c) + at(c + 1 < end ? c + 1 : start)) / 2;
      const behind = (c) => (at(c) + at(c > start ? c - 1 : end - 1)) / 2;
      if (scheme === 'loop') {
        for (let i = 0; i < 3; i++) {
          const c = start + i;
          [at(c), ahead(c), behind(c)].forEach((value, j) => (out[2 * (3 * (4 * f + i) + j) + k] = value));
          out[2 * (3 * (4 * f + 3) + i) + k] = ahead(c);
        }
        continue;
      }
      let middle = 0;
      for (let c = start; c < end; c++) middle += at(c) / (end - start);
      for (let c = start; c < end; c++) [at(c), ahead(c), middle, behind(c)].forEach((value, j) => (out[2 * (4 * c + j) + k] = value));
    }
  }
  return out;
}
function refinedColours(level, scheme, colours) {
  const rows = divideRows(level, scheme);
  const out = new Float64Array(3 * (rows.start.length - 1));
  applyRows(rows, colours, out);
  return out;
}

// core/src/subdivide/vertex-rings.ts
function vertexRings(level) {
  const { vertices, edges, edgeVertices, faceVertices, faceStart } = level;
  const edgeStart = new Int32Array(vertices + 1);
  for (let i = 0; i < 2 * edges; i++) edgeStart[edgeVertices[i] + 1]++;
  const cornerStart = new Int32Array(vertices + 1);
  for (let c = 0; c < faceVertices.length; c++) cornerStart[faceVertices[c] + 1]++;
  for (let v = 0; v < vertices; v++) {
    edgeStart[v + 1] += edgeStart[v];
    cornerStart[v + 1] += cornerStart[v];
  }
  const edge = new Int32Array(2 * edges);
  const edgeCursor = edgeStart.slice();
  for (let i = 0; i < 2 * edges; i++) edge[edgeCursor[edgeVertices[i]]++] = i >> 1;
  const corner = new Int32Array(faceVertices.length);
  const cornerCursor = cornerStart.slice();
  const cornerFace = new Int32Array(faceVertices.length);
  for (let f = 0; f + 1 < faceStart.length; f++)
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      corner[cornerCursor[faceVertices[c]]++] = c;
      cornerFace[c] = f;
    }
  return { edgeStart, edge, cornerStart, corner, cornerFace };
}
function sharpSpokes(level, rings, v, into) {
  into.count = 0;
  into.mean = 0;
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) {
    const e = rings.edge[k];
    const s = level.edgeFaces[2 * e + 1] < 0 ? 10 : level.edgeSharpness[e];
    if (s <= 0) continue;
    if (into.count === 0) into.first = e;
    else if (into.count === 1) into.second = e;
    into.count++;
    into.mean += s;
  }
  if (into.count > 0) into.mean /= into.count;
  return into;
}
function otherEnd(level, e, v) {
  return level.edgeVertices[2 * e] === v ? level.edgeVertices[2 * e + 1] : level.edgeVertices[2 * e];
}

// core/src/subdivide/catmull-clark.ts
function catmullClarkRows(level, some) {
  const { vertices, edges, faceStart, faceVertices } = level;
  const points = some ?? Int32Array.from({ length: vertices + edges + faceStart.length - 1 }, (_, p) => p);
  const rings = points.length > 0 ? vertexRings(level) : void 0;
  const rows = new RowBuilder(points.length, some ? 6 * some.length : 9 * vertices + 6 * edges + faceVertices.length);
  const spokes = { count: 0, first: 0, second: 0, mean: 0 };
  for (const p of points) {
    if (p < vertices) vertexRow(level, rings, p, sharpSpokes(level, rings, p, spokes), rows);
    else if (p < vertices + edges) edgeRow(level, p - vertices, rows);
    else {
      const f = p - vertices - edges;
      const share = 1 / (faceStart[f + 1] - faceStart[f]);
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++) rows.append(faceVertices[c], share);
    }
    rows.endRow();
  }
  return rows.done();
}
function edgeRow(level, e, rows) {
  const { edgeVertices, edgeFaces, faceStart, faceVertices } = level;
  const border = edgeFaces[2 * e + 1] < 0;
  const sharp = border ? 1 : Math.min(1, level.edgeSharpness[e]);
  const a2 = edgeVertices[2 * e];
  const b = edgeVertices[2 * e + 1];
  rows.append(a2, 0.5 * sharp + 0.25 * (1 - sharp));
  rows.append(b, 0.5 * sharp + 0.25 * (1 - sharp));
  if (sharp === 1) return;
  for (let side = 0; side < 2; side++) {
    const f = edgeFaces[2 * e + side];
    const share = (0.25 * (1 - sharp)) / (faceStart[f + 1] - faceStart[f]);
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) rows.add(faceVertices[c], share);
  }
}
function vertexRow(level, rings, v, spokes, rows) {
  const own = Math.min(1, level.vertexSharpness[v]);
  if (rings.edgeStart[v] === rings.edgeStart[v + 1] || own === 1) {
    rows.append(v, 1);
    return;
  }
  const crease = spokes.count < 2 ? 0 : Math.min(1, spokes.mean);
  if (crease < 1) smoothVertex(level, rings, v, (1 - own) * (1 - crease), rows);
  if (crease > 0) {
    const share = (1 - own) * crease;
    if (spokes.count > 2) rows.add(v, share);
    else {
      rows.add(v, 0.75 * share);
      rows.add(otherEnd(level, spokes.first, v), 0.125 * share);
      rows.add(otherEnd(level, spokes.second, v), 0.125 * share);
    }
  }
  if (own > 0) rows.add(v, own);
}
function smoothVertex(level, rings, v, share, rows) {
  const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
  rows.append(v, (share * (n - 2)) / n);
  const each = share / (n * n);
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), each);
  for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
    const f = rings.cornerFace[rings.corner[k]];
    const part = each / (level.faceStart[f + 1] - level.faceStart[f]);
    for (let c = level.faceStart[f]; c < level.faceStart[f + 1]; c++) rows.add(level.faceVertices[c], part);
  }
}

// core/src/subdivide/refinement.ts
var MarkedSet = class {
  mark;
  round = 0;
  list = [];
  constructor(size) {
    this.mark = new Int32Array(size);
  }
  clear() {
    this.round++;
    this.list = [];
  }
  add(i) {
    if (this.mark[i] === this.round) return;
    this.mark[i] = this.round;
    this.list.push(i);
  }
  get members() {
    return this.list;
  }
};
var TableRefinement = class {
  constructor(table) {
    this.table = table;
    this.touched = new MarkedSet(table.start.length - 1);
  }
  table;
  users;
  touched;
  apply(source, out) {
    applyRows(this.table, source, out);
  }
  update(changed, source, out) {
    const { start, row } = (this.users ??= usersOf(this.table, source.length / 3));
    this.touched.clear();
    for (const s of changed) for (let i = start[s]; i < start[s + 1]; i++) this.touched.add(row[i]);
    const rows = Int32Array.from(this.touched.members);
    applySomeRows(this.table, rows, source, out);
    return rows;
  }
  rows() {
    return this.table;
  }
};

// core/src/subdivide/catmull-clark-refinement.ts
var CatmullClarkRefinement = class {
  constructor(level) {
    this.level = level;
    const { vertices, edges, edgeVertices, edgeFaces, edgeSharpness, vertexSharpness } = level;
    this.valence = new Int32Array(vertices);
    const sharpEdges = new Uint16Array(vertices);
    const special = [];
    const specialEdges = [];
    for (let e = 0; e < edges; e++) {
      const a2 = edgeVertices[2 * e];
      const b = edgeVertices[2 * e + 1];
      this.valence[a2]++;
      this.valence[b]++;
      if (edgeFaces[2 * e + 1] >= 0 && edgeSharpness[e] === 0) continue;
      sharpEdges[a2]++;
      sharpEdges[b]++;
      specialEdges.push(vertices + e);
    }
    for (let v = 0; v < vertices; v++) if (sharpEdges[v] > 1 || vertexSharpness[v] > 0 || this.valence[v] === 0) special.push(v);
    for (const p of specialEdges) special.push(p);
    this.special = Int32Array.from(special);
    this.specialRows = catmullClarkRows(level, this.special);
  }
  level;
  /** edges at each vertex */
  valence;
  /** points with rules of their own, and the rows they follow */
  special;
  specialRows;
  live;
  apply(source, out) {
    out.fill(0, 0, 3 * this.level.vertices);
    this.facePoints(source, out);
    this.edgePoints(source, out);
    const { vertices } = this.level;
    for (let v = 0; v < vertices; v++) {
      const n = this.valence[v];
      const keep = (n - 2) / n;
      const share = 1 / (n * n);
      const i = 3 * v;
      out[i] = keep * source[i] + share * out[i];
      out[i + 1] = keep * source[i + 1] + share * out[i + 1];
      out[i + 2] = keep * source[i + 2] + share * out[i + 2];
    }
    for (let i = 0; i < this.special.length; i++) applyRow(this.specialRows, i, source, out, this.special[i]);
  }
  facePoints(source, out) {
    const { vertices, edges, faceStart, faceVertices } = this.level;
    const faces = faceStart.length - 1;
    for (let f = 0, at = 3 * (vertices + edges); f < faces; f++, at += 3) {
      const start = faceStart[f];
      const end = faceStart[f + 1];
      let x = 0;
      let y = 0;
      let z = 0;
      for (let c = start; c < end; c++) {
        const s = 3 * faceVertices[c];
        x += source[s];
        y += source[s + 1];
        z += source[s + 2];
      }
      const share = 1 / (end - start);
      out[at] = x *= share;
      out[at + 1] = y *= share;
      out[at + 2] = z *= share;
      for (let c = start; c < end; c++) {
        const s = 3 * faceVertices[c];
        out[s] += x;
        out[s + 1] += y;
        out[s + 2] += z;
      }
    }
  }
  edgePoints(source, out) {
    const { vertices, edges, edgeVertices, edgeFaces } = this.level;
    const faceBase = 3 * (vertices + edges);
    for (let e = 0, at = 3 * vertices; e < edges; e++, at += 3) {
      const a2 = 3 * edgeVertices[2 * e];
      const b = 3 * edgeVertices[2 * e + 1];
      const f = faceBase + 3 * edgeFaces[2 * e];
      const g = edgeFaces[2 * e + 1] < 0 ? f : faceBase + 3 * edgeFaces[2 * e + 1];
      const ax = source[a2];
      const ay = source[a2 + 1];
      const az = source[a2 + 2];
      const bx = source[b];
      const by = source[b + 1];
      const bz = source[b + 2];
      out[at] = 0.25 * (ax + bx + out[f] + out[g]);
      out[at + 1] = 0.25 * (ay + by + out[f + 1] + out[g + 1]);
      out[at + 2] = 0.25 * (az + bz + out[f + 2] + out[g + 2]);
      out[a2] += bx;
      out[a2 + 1] += by;
      out[a2 + 2] += bz;
      out[b] += ax;
      out[b + 1] += ay;
      out[b + 2] += az;
    }
  }
  update(changed, source, out) {
    const { level } = this;
    const { vertices, edges, faceStart, faceVertices, faceEdges } = level;
    const { rings, points, specialRow } = (this.live ??= liveParts(level, this.special));
    points.clear();
    for (const v of changed) {
      points.add(v);
      for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) points.add(vertices + rings.edge[k]);
      for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
        const f = rings.cornerFace[rings.corner[k]];
        points.add(vertices + edges + f);
        for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
          points.add(faceVertices[c]);
          points.add(vertices + faceEdges[c]);
        }
      }
    }
    const list = Int32Array.from(points.members);
    for (const p of list) if (p >= vertices + edges) this.oneFacePoint(p, source, out);
    for (const p of list) {
      if (p >= vertices + edges) continue;
      if (specialRow[p] >= 0) applyRow(this.specialRows, specialRow[p], source, out, p);
      else if (p >= vertices) this.oneEdgePoint(p, source, out);
      else this.oneVertexPoint(p, rings, source, out);
    }
    return list;
  }
  oneFacePoint(p, source, out) {
    const { vertices, edges, faceStart, faceVertices } = this.level;
    const f = p - vertices - edges;
    for (let k = 0; k < 3; k++) {
      let sum = 0;
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++) sum += source[3 * faceVertices[c] + k];
      out[3 * p + k] = sum / (faceStart[f + 1] - faceStart[f]);
    }
  }
  oneEdgePoint(p, source, out) {
    const { vertices, edges, edgeVertices, edgeFaces } = this.level;
    const e = p - vertices;
    const [a2, b] = [3 * edgeVertices[2 * e], 3 * edgeVertices[2 * e + 1]];
    const [f, g] = [3 * (vertices + edges + edgeFaces[2 * e]), 3 * (vertices + edges + edgeFaces[2 * e + 1])];
    for (let k = 0; k < 3; k++) out[3 * p + k] = 0.25 * (source[a2 + k] + source[b + k] + out[f + k] + out[g + k]);
  }
  oneVertexPoint(v, rings, source, out) {
    const { level } = this;
    const n = this.valence[v];
    const faceBase = level.vertices + level.edges;
    for (let k = 0; k < 3; k++) {
      let sum = 0;
      for (let i = rings.edgeStart[v]; i < rings.edgeStart[v + 1]; i++) sum += source[3 * otherEnd(level, rings.edge[i], v) + k];
      for (let i = rings.cornerStart[v]; i < rings.cornerStart[v + 1]; i++) sum += out[3 * (faceBase + rings.cornerFace[rings.corner[i]]) + k];
      out[3 * v + k] = ((n - 2) / n) * source[3 * v + k] + sum / (n * n);
    }
  }
  rows() {
    return catmullClarkRows(this.level);
  }
};
function liveParts(level, special) {
  const specialRow = new Int32Array(level.vertices + level.edges).fill(-1);
  special.forEach((p, i) => (specialRow[p] = i));
  return { rings: vertexRings(level), points: new MarkedSet(level.vertices + level.edges + level.faceStart.length - 1), specialRow };
}

// core/src/subdivide/dart-masks.ts
import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

// core/src/subdivide/loop.ts
function loopRows(level) {
  const rings = vertexRings(level);
  const rows = new RowBuilder(level.vertices + level.edges, 7 * level.vertices + 4 * level.edges);
  const spokes = { count: 0, first: 0, second: 0, mean: 0 };
  for (let v = 0; v < level.vertices; v++) {
    vertexRow2(level, rings, v, sharpSpokes(level, rings, v, spokes), rows);
    rows.endRow();
  }
  for (let e = 0; e < level.edges; e++) {
    edgeRow2(level, e, rows);
    rows.endRow();
  }
  return rows.done();
}
function edgeRow2(level, e, rows) {
  const { edgeVertices, edgeFaces, faceVertices } = level;
  const sharp = edgeFaces[2 * e + 1] < 0 ? 1 : Math.min(1, level.edgeSharpness[e]);
  const a2 = edgeVertices[2 * e];
  const b = edgeVertices[2 * e + 1];
  rows.append(a2, 0.5 * sharp + 0.375 * (1 - sharp));
  rows.append(b, 0.5 * sharp + 0.375 * (1 - sharp));
  if (sharp === 1) return;
  for (let side = 0; side < 2; side++) {
    const f = edgeFaces[2 * e + side];
    for (let c = 3 * f; c < 3 * f + 3; c++) {
      const v = faceVertices[c];
      if (v !== a2 && v !== b) rows.add(v, 0.125 * (1 - sharp));
    }
  }
}
function loopBeta(n) {
  const c = 0.375 + 0.25 * Math.cos((2 * Math.PI) / n);
  return (0.625 - c * c) / n;
}
function vertexRow2(level, rings, v, spokes, rows) {
  const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
  const own = Math.min(1, level.vertexSharpness[v]);
  if (n === 0 || own === 1) {
    rows.append(v, 1);
    return;
  }
  const crease = spokes.count < 2 ? 0 : Math.min(1, spokes.mean);
  const smooth = (1 - own) * (1 - crease);
  if (smooth > 0) {
    const beta = loopBeta(n);
    rows.append(v, smooth * (1 - n * beta));
    for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), smooth * beta);
  }
  const share = (1 - own) * crease;
  if (share > 0 && spokes.count > 2) rows.add(v, share);
  else if (share > 0) {
    rows.add(v, 0.75 * share);
    rows.add(otherEnd(level, spokes.first, v), 0.125 * share);
    rows.add(otherEnd(level, spokes.second, v), 0.125 * share);
  }
  if (own > 0) rows.add(v, own);
}

// core/src/subdivide/dart-masks.ts
var known = /* @__PURE__ */ new Map();
function dartMasks(scheme, valence) {
  const key = `${scheme} ${valence}`;
  let masks = known.get(key);
  if (!masks) known.set(key, (masks = computed(scheme === 'loop' ? loopMatrix(valence) : quadMatrix(valence))));
  return masks;
}
function computed(step) {
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(step.transpose());
  const order = realEigenvalues.map((_, i) => i).sort((a2, b) => realEigenvalues[b] - realEigenvalues[a2]);
  const vector = (rank) => Float64Array.from(eigenvectorMatrix.getColumn(order[rank]));
  const position = vector(0);
  const sum = position.reduce((total, w) => total + w, 0);
  return { position: position.map((w) => w / sum), tangents: [vector(1), vector(2)] };
}
function quadMatrix(n) {
  const size = 2 * n + 1;
  const rows = Matrix.zeros(size, size);
  const edge = (i) => 1 + (i % n);
  const face = (i) => 1 + n + ((i + n) % n);
  const addTo2 = (row, column, w) => rows.set(row, column, rows.get(row, column) + w);
  const addFacePoint = (row, i, w) => [0, edge(i), edge(i + 1), face(i)].forEach((column) => addTo2(row, column, w / 4));
  addTo2(0, 0, (n - 2) / n);
  for (let i = 0; i < n; i++) {
    addTo2(0, edge(i), 1 / n ** 2);
    addFacePoint(0, i, 1 / n ** 2);
    addFacePoint(face(i), i, 1);
    const share = i === 0 ? 1 / 2 : 1 / 4;
    addTo2(edge(i), 0, share);
    addTo2(edge(i), edge(i), share);
    if (i > 0) for (const f of [i - 1, i]) addFacePoint(edge(i), f, 1 / 4);
  }
  return rows;
}
function loopMatrix(n) {
  const rows = Matrix.zeros(n + 1, n + 1);
  const edge = (i) => 1 + ((i + n) % n);
  const beta = loopBeta(n);
  rows.set(0, 0, 1 - n * beta);
  for (let i = 0; i < n; i++) {
    rows.set(0, edge(i), beta);
    rows.set(edge(i), 0, i === 0 ? 1 / 2 : 3 / 8);
    rows.set(edge(i), edge(i), i === 0 ? 1 / 2 : 3 / 8);
    if (i > 0) for (const side of [i - 1, i + 1]) rows.set(edge(i), edge(side), rows.get(edge(i), edge(side)) + 1 / 8);
  }
  return rows;
}

// core/src/subdivide/sectors.ts
var isLasting = (level, e) => level.edgeFaces[2 * e + 1] < 0 || level.edgeSharpness[e] >= STAYS_SHARP;
function cornerBefore(level, rings, c) {
  const f = rings.cornerFace[c];
  return c > level.faceStart[f] ? c - 1 : level.faceStart[f + 1] - 1;
}
function sectorsAt(level, rings, v) {
  const byAhead = /* @__PURE__ */ new Map();
  for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) byAhead.set(level.faceEdges[rings.corner[k]], rings.corner[k]);
  const sharp = [...byAhead.keys()].filter((e) => isLasting(level, e));
  const lasting = /* @__PURE__ */ new Set();
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) if (isLasting(level, rings.edge[k])) lasting.add(rings.edge[k]);
  if (lasting.size < 2) {
    if (byAhead.size === 0) return [];
    const first = byAhead.get([...lasting][0]) ?? [...byAhead.values()][0];
    return [{ corners: walk(level, rings, byAhead, first, /* @__PURE__ */ new Set()), closed: true, dart: lasting.size === 1 }];
  }
  return sharp.map((e) => ({ corners: walk(level, rings, byAhead, byAhead.get(e), lasting), closed: false, dart: false }));
}
function walk(level, rings, byAhead, first, stops) {
  const corners = [first];
  for (;;) {
    const behind = level.faceEdges[cornerBefore(level, rings, corners[corners.length - 1])];
    const next = byAhead.get(behind);
    if (next === void 0 || next === first || stops.has(behind)) return corners;
    corners.push(next);
  }
}
var cornerOn = (c, by, size) => c - (c % size) + ((c + by) % size);

// core/src/subdivide/limit.ts
function limitRows(level, scheme) {
  const rings = vertexRings(level);
  const rows = new RowBuilder(level.vertices, 9 * level.vertices);
  const spokes = { count: 0, first: 0, second: 0, mean: 0 };
  const lasting = { ...level, edgeSharpness: level.edgeSharpness.map((s) => (s >= STAYS_SHARP ? s : 0)) };
  for (let v = 0; v < level.vertices; v++) {
    sharpSpokes(lasting, rings, v, spokes);
    const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
    if (n === 0 || level.vertexSharpness[v] >= STAYS_SHARP || spokes.count > 2) rows.append(v, 1);
    else if (spokes.count === 2) {
      rows.append(v, 2 / 3);
      rows.append(otherEnd(level, spokes.first, v), 1 / 6);
      rows.append(otherEnd(level, spokes.second, v), 1 / 6);
    } else if (spokes.count === 1) {
      const [{ corners }] = sectorsAt(level, rings, v);
      const { position } = dartMasks(scheme, n);
      const size = scheme === 'loop' ? 3 : 4;
      const turned2 = (c, by) => level.faceVertices[cornerOn(c, by, size)];
      rows.append(v, position[0]);
      corners.forEach((c, i) => {
        rows.add(turned2(c, 1), position[1 + i]);
        if (size === 4) rows.add(turned2(c, 2), position[1 + n + i]);
      });
    } else if (scheme === 'loop') {
      const beta = 1 / (3 / (8 * loopBeta(n)) + n);
      rows.append(v, 1 - n * beta);
      for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), beta);
    } else {
      const whole = n * (n + 5);
      rows.append(v, (n * n) / whole);
      for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), 4 / whole);
      for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
        const c = rings.corner[k];
        const start = level.faceStart[rings.cornerFace[c]];
        rows.add(level.faceVertices[start + ((c - start + 2) % 4)], 1 / whole);
      }
    }
    rows.endRow();
  }
  return rows.done();
}

// core/src/subdivide/subdivision.ts
var MOST_FACES = 24e6;
var Subdivision = class {
  /** connectivity of level 0 (the cage) to the last */
  levels;
  scheme;
  /** points of every level after `evaluate` */
  points = [];
  steps = [];
  limit;
  limitPoints;
  /** @throws SubdivisionError naming the first face that is no triangle (Loop), or the size the result would have */
  constructor(mesh, options) {
    this.scheme = options.scheme ?? 'catmull-clark';
    refuse(mesh, this.scheme, options.levels);
    this.levels = [cageLevel(mesh, options.borderCorners ?? 'sharp')];
    capSharpness(this.levels[0], 0, options.plan);
    for (let k = 0; k < options.levels; k++) {
      const level = this.levels[k];
      const smooth = stepAt(options.plan, k + 1) === 'smooth';
      if (!smooth) this.steps.push(new TableRefinement(divideRows(level, this.scheme)));
      else this.steps.push(this.scheme === 'loop' ? new TableRefinement(loopRows(level)) : new CatmullClarkRefinement(level));
      const next = this.scheme === 'loop' ? refineTriangles(level, smooth) : refineQuads(level, smooth);
      capSharpness(next, k + 1, options.plan);
      this.levels.push(next);
    }
    const last = this.levels[options.levels];
    if (options.limit) {
      if (this.scheme === 'catmull-clark' && options.levels === 0 && last.faceStart.some((s, f) => f > 0 && s - last.faceStart[f - 1] !== 4))
        throw new SubdivisionError('Limit positions need quads: subdivide at least once.');
      this.limit = new TableRefinement(limitRows(last, this.scheme));
    }
  }
  get last() {
    return this.levels[this.levels.length - 1];
  }
  /** All points of the last level (or its limit) for these cage positions. The array is kept and overwritten by later calls. */
  evaluate(cage) {
    this.points[0] = cage;
    this.steps.forEach((step, k) => {
      this.points[k + 1] ??= new Float64Array(3 * this.levels[k + 1].vertices);
      step.apply(this.points[k], this.points[k + 1]);
    });
    const last = this.points[this.levels.length - 1];
    if (!this.limit) return last;
    this.limitPoints ??= new Float64Array(last.length);
    this.limit.apply(last, this.limitPoints);
    return this.limitPoints;
  }
  /**
   * Brings the points up to date after some cage vertices moved; `evaluate` has been called before with the same array.
   * @returns the points of the last level that changed
   */
  update(moved) {
    let changed = Int32Array.from(moved);
    this.steps.forEach((step, k) => (changed = step.update(changed, this.points[k], this.points[k + 1])));
    return this.limit ? this.limit.update(changed, this.points[this.steps.length], this.limitPoints) : changed;
  }
  /** Weights of the last level's points over the cage vertices, multiplied out. */
  combinedRows() {
    const vertices = this.levels[0].vertices;
    const identity = {
      start: Int32Array.from({ length: vertices + 1 }, (_, i) => i),
      index: Int32Array.from({ length: vertices }, (_, i) => i),
      weight: new Float64Array(vertices).fill(1)
    };
    const chain = this.limit ? [...this.steps, this.limit] : this.steps;
    return chain.reduce((whole, step) => composeRows(step.rows(), whole, vertices), identity);
  }
  /** The last level as polygons, with the cage's regions, colours and texture coordinates, and the creases and corners that are left. */
  toPolygons(cage) {
    const { last } = this;
    const mesh = { positions: this.evaluate(cage.positions).slice(), faceStart: last.faceStart, faceVertices: last.faceVertices };
    if (cage.faceRegion) {
      mesh.faceRegion = this.cageFaces().map((f) => cage.faceRegion[f]);
      mesh.regionNames = cage.regionNames;
    }
    if (cage.vertexColour)
      mesh.vertexColour = this.levels.slice(0, -1).reduce((c, level) => refinedColours(level, this.scheme, c), cage.vertexColour);
    if (cage.cornerUv) mesh.cornerUv = this.levels.slice(0, -1).reduce((uv, level) => refinedCorners(level, this.scheme, uv), cage.cornerUv);
    const creased = [...last.edgeSharpness.keys()].filter((e) => last.edgeSharpness[e] > 0);
    if (creased.length > 0) {
      mesh.creaseEdges = Int32Array.from(creased.flatMap((e) => [last.edgeVertices[2 * e], last.edgeVertices[2 * e + 1]]));
      mesh.creaseSharpness = Float64Array.from(creased, (e) => last.edgeSharpness[e]);
    }
    const given = new Set(cage.cornerVertices);
    const corners = [...given].filter((v) => last.vertexSharpness[v] > 0);
    if (corners.length > 0) {
      mesh.cornerVertices = Int32Array.from(corners);
      mesh.cornerSharpness = Float64Array.from(corners, (v) => last.vertexSharpness[v]);
    }
    return mesh;
  }
  /** The cage face that each face of the last level lies in. */
  cageFaces() {
    let of = Int32Array.from({ length: this.levels[0].faceStart.length - 1 }, (_, f) => f);
    for (let k = 0; k + 1 < this.levels.length; k++) {
      const { faceStart, faceVertices } = this.levels[k];
      const finer = new Int32Array(this.scheme === 'loop' ? 4 * of.length : faceVertices.length);
      for (let f = 0; f < of.length; f++)
        if (this.scheme === 'loop') finer.fill(of[f], 4 * f, 4 * f + 4);
        else finer.fill(of[f], faceStart[f], faceStart[f + 1]);
      of = finer;
    }
    return of;
  }
};
function refuse(mesh, scheme, levels) {
  if (!Number.isInteger(levels) || levels < 0) throw new SubdivisionError(`The number of levels must be 0 or more; it is ${levels}.`);
  const bad = mesh.creaseSharpness?.findIndex((s) => !(s >= 0)) ?? -1;
  if (bad >= 0) throw new SubdivisionError(`Crease ${bad} has the sharpness ${mesh.creaseSharpness[bad]}; it must be 0 or more.`);
  const badCorner = mesh.cornerSharpness?.findIndex((s) => !(s >= 0)) ?? -1;
  if (badCorner >= 0) throw new SubdivisionError(`Corner ${badCorner} has the sharpness ${mesh.cornerSharpness[badCorner]}; it must be 0 or more.`);
  if (scheme === 'loop') {
    for (let f = 0; f < faceCount(mesh); f++)
      if (mesh.faceStart[f + 1] - mesh.faceStart[f] !== 3)
        throw new SubdivisionError(`Loop subdivision takes triangles only; face ${f} has ${mesh.faceStart[f + 1] - mesh.faceStart[f]} corners.`);
  }
  const first = scheme === 'loop' ? faceCount(mesh) : mesh.faceVertices.length / 4;
  if (first * 4 ** levels > MOST_FACES && levels > 0) {
    const fits = Math.max(0, Math.floor(Math.log(MOST_FACES / first) / Math.log(4)));
    const gigabytes = ((first * 4 ** levels * 150) / 1e9).toFixed(1);
    throw new SubdivisionError(
      `Level ${levels} would have ${Math.round(first * 4 ** levels).toLocaleString('en')} faces (about ${gigabytes} GB); level ${fits} fits.`
    );
  }
}

// core/src/task/steps.ts
var silent = { phase: () => void 0 };

// core/src/numeric/best-fit.ts
import { EigenvalueDecomposition as EigenvalueDecomposition2, Matrix as Matrix2, solve } from 'ml-matrix';
var Spread = class {
  constructor(centre) {
    this.centre = centre;
  }
  centre;
  sums = Matrix2.zeros(3, 3);
  add(p, weight) {
    const { sums } = this;
    const d = subtract(p, this.centre);
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) sums.set(i, j, sums.get(i, j) + weight * d[i] * d[j]);
  }
  /** Unit directions in which they spread least, more and most. */
  axes() {
    const spread2 = this.sums.clone();
    const most = spread2.max() || 1;
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) if (Math.abs(spread2.get(i, j)) < 1e-30 * most) spread2.set(i, j, 0);
    const { eigenvectorMatrix } = new EigenvalueDecomposition2(spread2, { assumeSymmetric: true });
    return [0, 1, 2].map((k) => unit(eigenvectorMatrix.getColumn(k)));
  }
};
function planeAcross(centre, direction) {
  const normal = unit(direction);
  const least = [0, 1, 2].reduce((a2, b) => (Math.abs(normal[b]) < Math.abs(normal[a2]) ? b : a2));
  const axis = [0, 0, 0];
  axis[least] = 1;
  const u = unit(subtract(axis, scaled(normal, dot(axis, normal))));
  return { centre, normal, u, v: cross(normal, u) };
}

// core/src/numeric/point-grid.ts
var PointGrid = class {
  /** @param size of a cell: points that lie no farther apart are found */
  constructor(size) {
    this.size = size;
  }
  size;
  cells = /* @__PURE__ */ new Map();
  put(id, x, y, z) {
    const name = `${this.cell(x)} ${this.cell(y)} ${this.cell(z)}`;
    const list = this.cells.get(name);
    if (list) list.push(id);
    else this.cells.set(name, [id]);
  }
  /** Visits every point within a cell's size of a place, and some that lie a little farther. */
  visitNear(x, y, z, visit) {
    const [i, j, k] = [this.cell(x), this.cell(y), this.cell(z)];
    for (let n = 0; n < 27; n++)
      for (const id of this.cells.get(`${i + (n % 3) - 1} ${j + (Math.floor(n / 3) % 3) - 1} ${k + Math.floor(n / 9) - 1}`) ?? []) visit(id);
  }
  cell(x) {
    return Math.floor(x / this.size);
  }
};

// core/src/autoquad/mend.ts
function mended(extracted, expected) {
  let quads = removeDoublets([...chunks(extracted.quads)]);
  quads = closeTears(quads, expected.borders);
  quads = removeDoublets(quads);
  const list = packed(extracted, quads);
  return matches(list, expected) ? list : void 0;
}
var withoutDoublets = (list) => packed(list, removeDoublets([...chunks(list.quads)]));
function* chunks(flat) {
  for (let i = 0; i < flat.length; i += 4) yield [flat[i], flat[i + 1], flat[i + 2], flat[i + 3]];
}
function matches(list, expected) {
  try {
    const cage = Cage.fromPolygons(uniformMesh(list.positions, list.quads, 4));
    return eulerCharacteristic(cage) === expected.euler && borderLoops(cage).length === expected.borders;
  } catch {
    return false;
  }
}
function removeDoublets(quads) {
  for (let round = 0; round < 20; round++) {
    const at = /* @__PURE__ */ new Map();
    quads.forEach((q, i) => q.forEach((v) => (at.get(v) ?? at.set(v, []).get(v)).push(i)));
    const gone = /* @__PURE__ */ new Set();
    for (const [v, around] of at) {
      if (around.length !== 2 || around.some((i2) => gone.has(i2))) continue;
      const [i, j] = around;
      const q = turnedTo(quads[i], v);
      const r = turnedTo(quads[j], v);
      if (i === j || q[1] !== r[3] || q[3] !== r[1]) continue;
      quads[i] = [q[1], q[2], q[3], r[2]];
      gone.add(j);
    }
    quads = quads.filter((q, i) => !gone.has(i) && new Set(q).size === 4);
    if (gone.size === 0) break;
  }
  return quads;
}
function turnedTo(quad, v) {
  const k = quad.indexOf(v);
  return [...quad.slice(k), ...quad.slice(0, k)];
}
function closeTears(quads, keep) {
  const sides = /* @__PURE__ */ new Map();
  for (const q of quads) for (let k = 0; k < 4; k++) sides.set(`${q[k]},${q[(k + 1) & 3]}`, 1);
  const next = /* @__PURE__ */ new Map();
  for (const side of sides.keys()) {
    const [a2, b] = side.split(',').map(Number);
    if (!sides.has(`${b},${a2}`)) (next.get(b) ?? next.set(b, []).get(b)).push(a2);
  }
  const loops = [];
  for (const start of next.keys()) {
    while (next.get(start).length > 0) {
      const loop = [start];
      let v = next.get(start).pop();
      while (v !== start && next.get(v)?.length) {
        loop.push(v);
        v = next.get(v).pop();
      }
      loops.push(loop);
    }
  }
  loops.sort((a2, b) => b.length - a2.length);
  const filled = quads.slice();
  for (const loop of loops.slice(keep)) filled.push(...fillLoop(loop));
  return filled;
}
function fillLoop(loop) {
  const made = [];
  const left = loop.slice();
  if (left.length % 2 === 1 || left.length > 24) return made;
  while (left.length > 4) made.push([left[0], ...left.splice(1, 2), left[1]]);
  if (left.length === 4) made.push(left);
  return made;
}
function packed(list, quads) {
  const { used, indices } = usedVertices(quads.flat(), list.hold.length);
  return { positions: pickedPoints(list.positions, used), quads: indices, hold: Uint8Array.from(used, (v) => list.hold[v]) };
}

// core/src/autoquad/working-mesh.ts
var WorkingMesh = class _WorkingMesh {
  positions;
  corner;
  opposite;
  /** 1 on half-edges that lie on a feature line or border; both sides agree */
  feature;
  /** wanted edge length by vertex */
  size;
  /** an outgoing half-edge by vertex, the first one counter-clockwise from the border if there is one */
  outgoing;
  vertices;
  triangles;
  /** planes the surface goes on beyond, mirrored */
  mirrors = [];
  constructor(positions, triangles) {
    this.positions = positions.slice();
    this.vertices = positions.length / 3;
    this.triangles = triangles.length / 3;
    this.corner = Int32Array.from(triangles);
    this.size = new Float64Array(this.vertices);
    this.feature = new Uint8Array(triangles.length);
    this.opposite = new Int32Array(triangles.length).fill(-1);
    this.outgoing = new Int32Array(this.vertices).fill(-1);
    this.pairUp();
    for (let h = 0; h < this.corner.length; h++) if (this.outgoing[this.corner[h]] < 0) this.outgoing[this.corner[h]] = h;
    for (let v = 0; v < this.vertices; v++) this.settle(v);
  }
  /** Finds opposite half-edges by bucketing them at their smaller end. */
  pairUp() {
    const { corner, opposite } = this;
    const start = new Int32Array(this.vertices + 1);
    const low = (h) => Math.min(corner[h], corner[after(h)]);
    for (let h = 0; h < corner.length; h++) start[low(h) + 1]++;
    for (let v = 0; v < this.vertices; v++) start[v + 1] += start[v];
    const bucket = new Int32Array(corner.length);
    const cursor = start.slice();
    for (let h = 0; h < corner.length; h++) {
      const v = low(h);
      for (let k = start[v]; k < cursor[v]; k++) {
        const g = bucket[k];
        if (corner[g] === corner[after(h)] && corner[after(g)] === corner[h] && opposite[g] < 0) {
          opposite[g] = h;
          opposite[h] = g;
          break;
        }
      }
      bucket[cursor[v]++] = h;
    }
  }
  isAlive(t) {
    return this.corner[3 * t] >= 0;
  }
  /** Turns `outgoing[v]` back to where counter-clockwise turning starts at a border. */
  settle(v) {
    const first = this.outgoing[v];
    if (first < 0) return;
    let h = first;
    for (let g = this.opposite[h]; g >= 0; g = this.opposite[h]) {
      h = after(g);
      if (h === first) return;
    }
    this.outgoing[v] = h;
  }
  /** Outgoing half-edges counter-clockwise; a border vertex has one neighbour more than this list is long. */
  spokes(v, into) {
    into.length = 0;
    const first = this.outgoing[v];
    let h = first;
    do {
      into.push(h);
      h = this.opposite[before(h)];
    } while (h >= 0 && h !== first);
    return into;
  }
  isBorder(v) {
    return this.opposite[this.outgoing[v]] < 0;
  }
  /** Neighbour vertices, in turn. */
  neighbours(v, into) {
    into.length = 0;
    const first = this.outgoing[v];
    let h = first;
    for (;;) {
      into.push(this.corner[after(h)]);
      const b = before(h);
      h = this.opposite[b];
      if (h < 0) into.push(this.corner[b]);
      if (h < 0 || h === first) return into;
    }
  }
  /** Half-edges of feature lines and borders, one of each edge. */
  featureEdges() {
    const found = [];
    for (let h = 0; h < 3 * this.triangles; h++)
      if (this.corner[h] >= 0 && this.feature[h] && (this.opposite[h] < 0 || h < this.opposite[h])) found.push(h);
    return found;
  }
  area(t) {
    const [a2, b, c] = [0, 1, 2].map((k) => this.point(this.corner[3 * t + k]));
    const n = cross(subtract(b, a2), subtract(c, b));
    return (Math.hypot(n[0], n[1], n[2]) || 1e-300) / 2;
  }
  /** Middle of a triangle's corners. */
  centre(t) {
    const { positions: p, corner } = this;
    const at = (k) => p[3 * corner[3 * t] + k] / 3 + p[3 * corner[3 * t + 1] + k] / 3 + p[3 * corner[3 * t + 2] + k] / 3;
    return [at(0), at(1), at(2)];
  }
  point(v) {
    return [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
  }
  edgeLength2(h) {
    const p = this.positions;
    const a2 = 3 * this.corner[h];
    const b = 3 * this.corner[after(h)];
    return (p[a2] - p[b]) ** 2 + (p[a2 + 1] - p[b + 1]) ** 2 + (p[a2 + 2] - p[b + 2]) ** 2;
  }
  newVertex(x, y, z) {
    if (3 * this.vertices + 3 > this.positions.length) {
      this.positions = widened(this.positions);
      this.outgoing = widened(this.outgoing);
      this.size = widened(this.size);
    }
    this.positions.set([x, y, z], 3 * this.vertices);
    return this.vertices++;
  }
  newTriangle(a2, b, c) {
    if (3 * this.triangles + 3 > this.corner.length) {
      this.corner = widened(this.corner);
      this.opposite = widened(this.opposite);
      this.feature = widened(this.feature);
    }
    const t = this.triangles++;
    this.corner[3 * t] = a2;
    this.corner[3 * t + 1] = b;
    this.corner[3 * t + 2] = c;
    return t;
  }
  link(h, g) {
    this.opposite[h] = g;
    if (g >= 0) this.opposite[g] = h;
  }
  /** Puts a vertex in the middle of an edge. @returns the vertex */
  split(h) {
    const { corner } = this;
    const a2 = corner[h];
    const b = corner[after(h)];
    const p = this.positions;
    const m = this.newVertex((p[3 * a2] + p[3 * b]) / 2, (p[3 * a2 + 1] + p[3 * b + 1]) / 2, (p[3 * a2 + 2] + p[3 * b + 2]) / 2);
    this.size[m] = (this.size[a2] + this.size[b]) / 2;
    const g = this.opposite[h];
    const k = this.splitSide(h, m);
    const isFeature = this.feature[h];
    this.feature[k] = isFeature;
    if (g >= 0) {
      const l = this.splitSide(g, m);
      this.feature[l] = isFeature;
      this.link(h, l);
      this.link(g, k);
    } else this.opposite[h] = this.opposite[k] = -1;
    this.outgoing[m] = k;
    this.settle(m);
    this.settle(a2);
    this.settle(b);
    return m;
  }
  /** Cuts the triangle of h at m on h; h keeps the first part. @returns the half-edge of the second part */
  splitSide(h, m) {
    const n = after(h);
    const b = this.corner[n];
    const c = this.corner[before(h)];
    const across = this.opposite[n];
    const t = this.newTriangle(m, b, c);
    const k = 3 * t;
    this.feature[k + 1] = this.feature[n];
    this.feature[k + 2] = 0;
    this.link(k + 1, across);
    this.corner[n] = m;
    this.feature[n] = 0;
    this.link(n, k + 2);
    if (this.outgoing[b] === n) this.outgoing[b] = k + 1;
    return k;
  }
  /** Turns the edge between two triangles to their other diagonal. */
  flip(h) {
    const { corner, opposite, feature } = this;
    const g = opposite[h];
    const hn = after(h);
    const hp = before(h);
    const gn = after(g);
    const gp = before(g);
    const a2 = corner[h];
    const b = corner[g];
    const c = corner[hp];
    const d = corner[gp];
    const across = [opposite[hn], opposite[hp], opposite[gn], opposite[gp]];
    const marked = [feature[hn], feature[hp], feature[gn], feature[gp]];
    corner[h] = c;
    corner[hn] = d;
    corner[hp] = b;
    corner[g] = d;
    corner[gn] = c;
    corner[gp] = a2;
    this.link(hn, across[3]);
    this.link(hp, across[0]);
    this.link(gn, across[1]);
    this.link(gp, across[2]);
    feature[hn] = marked[3];
    feature[hp] = marked[0];
    feature[gn] = marked[1];
    feature[gp] = marked[2];
    this.outgoing[a2] = gp;
    this.outgoing[b] = hp;
    this.outgoing[c] = h;
    this.outgoing[d] = g;
    for (const v of [a2, b, c, d]) this.settle(v);
  }
  /** Whether the start of h can be moved into its end without pinching the surface (link condition). */
  canCollapse(h, ring, other) {
    const a2 = this.corner[h];
    const b = this.corner[after(h)];
    const g = this.opposite[h];
    if (g >= 0 && this.isBorder(a2) && this.isBorder(b)) return false;
    for (const side of g >= 0 ? [h, g] : [h]) if (this.opposite[after(side)] < 0 && this.opposite[before(side)] < 0) return false;
    this.neighbours(a2, ring);
    this.neighbours(b, other);
    let shared = 0;
    for (const v of ring) if (other.includes(v)) shared++;
    if (shared !== (g >= 0 ? 2 : 1)) return false;
    if (ring.length < 4 && g >= 0 && !this.isBorder(a2)) return false;
    return true;
  }
  /** Moves the start of h into its end; the caller asked `canCollapse`. */
  collapse(h, spokes) {
    const { corner, opposite } = this;
    const a2 = corner[h];
    const b = corner[after(h)];
    const g = opposite[h];
    this.spokes(a2, spokes);
    for (const s of spokes) corner[s] = b;
    const touched = [b];
    for (const side of g >= 0 ? [h, g] : [h]) {
      const x = opposite[after(side)];
      const y = opposite[before(side)];
      const c = corner[before(side)];
      const mark = this.feature[after(side)] | this.feature[before(side)];
      if (x >= 0) {
        opposite[x] = y;
        this.feature[x] = mark;
      }
      if (y >= 0) {
        opposite[y] = x;
        this.feature[y] = mark;
      }
      this.outgoing[c] = x >= 0 ? (corner[x] === c ? x : after(x)) : corner[y] === c ? y : after(y);
      this.outgoing[b] = x >= 0 ? (corner[x] === b ? x : after(x)) : corner[y] === b ? y : after(y);
      touched.push(c);
      const t = Math.floor(side / 3);
      corner[3 * t] = corner[3 * t + 1] = corner[3 * t + 2] = -1;
    }
    this.outgoing[a2] = -1;
    for (const v of touched) this.settle(v);
  }
  /** Removed elements left out. */
  packed() {
    const halves = [];
    for (let t = 0; t < this.triangles; t++) if (this.isAlive(t)) halves.push(3 * t, 3 * t + 1, 3 * t + 2);
    const { used, indices } = usedVertices(
      halves.map((h) => this.corner[h]),
      this.vertices
    );
    const mesh = new _WorkingMesh(pickedPoints(this.positions, used), indices);
    used.forEach((v, i) => (mesh.size[i] = this.size[v]));
    halves.forEach((h, i) => (mesh.feature[i] = this.feature[h]));
    mesh.mirrors = this.mirrors;
    return mesh;
  }
};
var after = (h) => (h % 3 === 2 ? h - 2 : h + 1);
var before = (h) => (h % 3 === 0 ? h + 2 : h - 1);
function widened(array) {
  const bigger = new array.constructor(Math.ceil(array.length * 1.5) + 30);
  if (bigger instanceof Int32Array) bigger.fill(-1);
  bigger.set(array);
  return bigger;
}

// core/src/autoquad/symmetry.ts
var AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
var SAMPLES = 1500;
var above = ({ normal, offset }, p, v = 0) => normal[0] * p[3 * v] + normal[1] * p[3 * v + 1] + normal[2] * p[3 * v + 2] - offset;
function reflected(mirror, p, v = 0) {
  const d = 2 * above(mirror, p, v);
  const { normal } = mirror;
  return [p[3 * v] - d * normal[0], p[3 * v + 1] - d * normal[1], p[3 * v + 2] - d * normal[2]];
}
function mirrorsOf(mesh, bvh, tolerance, wanted) {
  if (wanted === 'none') return [];
  const { middle, axes } = spread(mesh);
  const through = (normal) => {
    const offset = dot(normal, middle);
    const mirror = { normal, offset: Math.abs(offset) < tolerance ? 0 : offset, error: 0 };
    mirror.error = errorOf(mirror, mesh, bvh, wanted === 'auto' ? tolerance : Infinity);
    return mirror;
  };
  if (wanted !== 'auto') return [through(AXES[wanted])];
  const found = [...Object.values(AXES), ...axes].map(through).filter(({ error }) => error <= tolerance);
  found.sort((a2, b) => (Math.abs(a2.error - b.error) < 0.1 * tolerance ? 0 : a2.error - b.error));
  const chosen = [];
  for (const mirror of found) if (chosen.length < 3 && chosen.every(({ normal }) => Math.abs(dot(normal, mirror.normal)) < 1e-6)) chosen.push(mirror);
  return chosen;
}
function spread(mesh) {
  let middle = [0, 0, 0];
  let whole = 0;
  for (let t = 0; t < mesh.triangles; t++) {
    const area = mesh.area(t);
    middle = add(middle, scaled(mesh.centre(t), area));
    whole += area;
  }
  middle = scaled(middle, 1 / (whole || 1));
  const moments = new Spread(middle);
  for (let t = 0; t < mesh.triangles; t++) {
    const area = mesh.area(t);
    for (const k of [0, 1, 2]) moments.add(mesh.point(mesh.corner[3 * t + k]), area / 12);
    moments.add(mesh.centre(t), (9 * area) / 12);
  }
  return { middle, axes: moments.axes() };
}
function errorOf(mirror, mesh, bvh, tolerance) {
  const p = mesh.positions;
  const found = surfacePoint();
  const step = Math.max(1, Math.floor(mesh.vertices / SAMPLES));
  let most = 0;
  for (let v = 0; v < mesh.vertices; v += step) {
    const off = Math.sqrt(bvh.closest(...reflected(mirror, p, v), found).distance2);
    if (off > tolerance) return Infinity;
    most = Math.max(most, off);
  }
  return most;
}
function halved(whole, mirror, diagonal) {
  const { corner: triangles, feature } = whole;
  const positions = [...whole.positions];
  const height = Array.from({ length: positions.length / 3 }, (_, v) => {
    const h = above(mirror, whole.positions, v);
    if (Math.abs(h) > 1e-6 * diagonal) return h;
    for (let k = 0; k < 3; k++) positions[3 * v + k] -= h * mirror.normal[k];
    return 0;
  });
  const cuts = /* @__PURE__ */ new Map();
  const cutAt = (v, w) => {
    const key = v < w ? `${v} ${w}` : `${w} ${v}`;
    const known2 = cuts.get(key);
    if (known2 !== void 0) return known2;
    const t = height[v] / (height[v] - height[w]);
    const made = positions.length / 3;
    for (let k = 0; k < 3; k++) positions.push(positions[3 * v + k] + t * (positions[3 * w + k] - positions[3 * v + k]));
    cuts.set(key, made);
    return made;
  };
  const kept = [];
  const marks = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    if (corners.every((v) => height[v] <= 0)) continue;
    const outline = [];
    const marked = [];
    corners.forEach((v, k) => {
      const w = corners[(k + 1) % 3];
      if (height[v] >= 0) {
        outline.push(v);
        marked.push(height[v] === 0 && height[w] < 0 ? 0 : feature[t + k]);
      }
      if (height[v] * height[w] < 0) {
        outline.push(cutAt(v, w));
        marked.push(height[v] < 0 ? feature[t + k] : 0);
      }
    });
    for (let k = 1; k + 1 < outline.length; k++) {
      kept.push(outline[0], outline[k], outline[k + 1]);
      marks.push(k === 1 ? marked[0] : 0, marked[k], k + 2 === outline.length ? marked[k + 1] : 0);
    }
  }
  const { indices, used } = usedVertices(kept, positions.length / 3);
  const half = new WorkingMesh(pickedPoints(positions, used), indices);
  for (let h = 0; h < marks.length; h++) half.feature[h] = half.opposite[h] < 0 ? 1 : marks[h];
  return half;
}
function mirrored(list, mirror, within) {
  const { quads, hold } = list;
  const positions = list.positions.slice();
  const count = positions.length / 3;
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const image = new Int32Array(count);
  const added = [];
  const holds = [];
  for (let v = 0; v < count; v++) {
    const h = above(mirror, positions, v);
    if (cage.isBorderVertex(v) && Math.abs(h) < within) {
      for (let k = 0; k < 3; k++) positions[3 * v + k] -= h * mirror.normal[k];
      image[v] = v;
      continue;
    }
    image[v] = count + added.length / 3;
    added.push(...reflected(mirror, positions, v));
    holds.push(hold[v]);
  }
  const back = new Int32Array(quads.length);
  for (let q = 0; q < quads.length; q += 4) for (let k = 0; k < 4; k++) back[q + k] = image[quads[q + 3 - k]];
  return {
    positions: Float64Array.from([...positions, ...added]),
    quads: Int32Array.from([...quads, ...back]),
    hold: Uint8Array.from([...hold, ...holds])
  };
}
function imagesIn(mirror, positions, within) {
  const grid = new PointGrid(within);
  const count = positions.length / 3;
  for (let v = 0; v < count; v++) grid.put(v, positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
  return Int32Array.from({ length: count }, (_, v) => {
    const at = reflected(mirror, positions, v);
    let [best, least] = [-1, within];
    grid.visitNear(...at, (w) => {
      const off = Math.hypot(at[0] - positions[3 * w], at[1] - positions[3 * w + 1], at[2] - positions[3 * w + 2]);
      if (off <= least) [best, least] = [w, off];
    });
    return best;
  });
}
function mirrorExactly(mirror, positions, images) {
  images.forEach((w, v) => {
    const height = above(mirror, positions, v);
    if (w === v) for (let k = 0; k < 3; k++) positions[3 * v + k] -= height * mirror.normal[k];
    else if (w >= 0 && height > above(mirror, positions, w)) positions.set(reflected(mirror, positions, v), 3 * w);
  });
}
function straightenNormals(normals, mesh) {
  if (mesh.mirrors.length === 0) return;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (mesh.opposite[h] >= 0 || mesh.corner[h] < 0) continue;
    for (const v of [mesh.corner[h], mesh.corner[after(h)]])
      for (const mirror of mesh.mirrors) {
        if (Math.abs(above(mirror, mesh.positions, v)) > 1e-6 * (1 + Math.abs(mirror.offset))) continue;
        const normal = [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]];
        normals.set(unit(subtract(normal, scaled(mirror.normal, dot(mirror.normal, normal)))), 3 * v);
      }
  }
}

// core/src/autoquad/remesh.ts
var FREE2 = 0;
var ON_LINE = 1;
var FIXED = 2;
var Remesher = class {
  /**
   * @param mesh changed in place
   * @param surface the input surface that vertices are put back on
   * @param sizeOf wanted edge length by triangle of that surface
   */
  constructor(mesh, surface, sizeOf) {
    this.mesh = mesh;
    this.surface = surface;
    this.sizeOf = sizeOf;
    this.lineBvh = linesOf(mesh, mesh.featureEdges());
  }
  mesh;
  surface;
  sizeOf;
  kind = new Uint8Array(0);
  lineBvh;
  ring = [];
  other = [];
  found = surfacePoint();
  run(rounds) {
    this.classify();
    for (let i = 0; i < 3; i++) this.collapseShort();
    this.mesh = this.mesh.packed();
    for (let round = 0; round < rounds; round++) {
      this.classify();
      this.splitLong();
      this.classify();
      this.collapseShort();
      this.mesh = this.mesh.packed();
      this.flipForValence();
      this.classify();
      this.moveAlong();
    }
    this.freeFeatures();
    return this.mesh.packed();
  }
  wanted(h) {
    return (this.mesh.size[this.mesh.corner[h]] + this.mesh.size[this.mesh.corner[after(h)]]) / 2;
  }
  /** Feature vertices: ends, junctions and sharp turns of lines are fixed. */
  classify() {
    const { mesh } = this;
    const kind = new Uint8Array(mesh.vertices);
    const count = new Uint8Array(mesh.vertices);
    const direction = new Float64Array(3 * mesh.vertices);
    const p = mesh.positions;
    for (const h of mesh.featureEdges()) {
      const a2 = mesh.corner[h];
      const b = mesh.corner[after(h)];
      const length2 = Math.sqrt(mesh.edgeLength2(h)) || 1;
      for (let k = 0; k < 3; k++) {
        const d = (p[3 * b + k] - p[3 * a2 + k]) / length2;
        direction[3 * a2 + k] += d;
        direction[3 * b + k] -= d;
      }
      count[a2]++;
      count[b]++;
    }
    for (let v = 0; v < mesh.vertices; v++) {
      if (count[v] === 0) continue;
      const turn = Math.hypot(direction[3 * v], direction[3 * v + 1], direction[3 * v + 2]);
      kind[v] = count[v] === 2 && turn < 0.76 ? ON_LINE : FIXED;
    }
    this.kind = kind;
  }
  splitLong() {
    const { mesh } = this;
    const long = [];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.corner[h] < 0 || (mesh.opposite[h] >= 0 && mesh.opposite[h] < h)) continue;
      const length2 = mesh.edgeLength2(h);
      if (length2 > (1.333 * this.wanted(h)) ** 2) long.push({ h, length: length2 });
    }
    long.sort((a2, b) => b.length - a2.length || a2.h - b.h);
    const limit = 4 * long.length + 1e3;
    for (let i = 0; i < long.length && i < limit; i++) {
      const { h, length: length2 } = long[i];
      if (Math.abs(mesh.edgeLength2(h) - length2) > 1e-12 * length2) continue;
      mesh.split(h);
      if (mesh.edgeLength2(h) > (1.333 * this.wanted(h)) ** 2) long.push({ h, length: mesh.edgeLength2(h) });
    }
  }
  collapseShort() {
    const { mesh, kind, ring, other } = this;
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.corner[h] < 0) continue;
      const length2 = mesh.edgeLength2(h);
      const size = this.wanted(h);
      if (length2 > (0.8 * size) ** 2) continue;
      const a2 = mesh.corner[h];
      if (kind[a2] === FIXED || (kind[a2] === ON_LINE && !mesh.feature[h])) continue;
      if (!mesh.canCollapse(h, ring, other)) continue;
      if (this.joinsLines(h) || !this.keepsShape(h, size)) continue;
      mesh.collapse(h, ring);
    }
  }
  /** Whether collapsing h would lay two features over each other. */
  joinsLines(h) {
    const { mesh } = this;
    for (const side of [h, mesh.opposite[h]]) if (side >= 0 && mesh.feature[after(side)] && mesh.feature[before(side)]) return true;
    return false;
  }
  /** Whether, with the start of h moved to its end, no edge gets too long and no triangle turns over. */
  keepsShape(h, size) {
    const { mesh } = this;
    const p = mesh.positions;
    const a2 = mesh.corner[h];
    const b = mesh.corner[after(h)];
    const longest = (1.333 * size) ** 2;
    for (const s of mesh.spokes(a2, this.other)) {
      const c = mesh.corner[after(s)];
      const d = mesh.corner[before(s)];
      if (c !== b && distance2(p, c, b) > longest) return false;
      if (c === b || d === b) continue;
      if (turned(p, a2, b, c, d)) return false;
    }
    return true;
  }
  /** Flips edges where that brings valences closer to six (four on borders and lines) and triangles keep their side. */
  flipForValence() {
    const { mesh } = this;
    this.classify();
    const valence = new Int32Array(mesh.vertices);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      valence[mesh.corner[h]]++;
      if (mesh.opposite[h] < 0) valence[mesh.corner[after(h)]]++;
    }
    const off = (v, change) => Math.abs(valence[v] + change - (mesh.isBorder(v) ? 4 : 6));
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const g = mesh.opposite[h];
      if (g < 0 || mesh.feature[h] || h > g) continue;
      const a2 = mesh.corner[h];
      const b = mesh.corner[g];
      const c = mesh.corner[before(h)];
      const d = mesh.corner[before(g)];
      const gain = off(a2, 0) + off(b, 0) + off(c, 0) + off(d, 0) - off(a2, -1) - off(b, -1) - off(c, 1) - off(d, 1);
      if (gain <= 0 || c === d || this.joined(c, d) || !flipsWell(mesh.positions, a2, b, c, d)) continue;
      mesh.flip(h);
      valence[a2]--;
      valence[b]--;
      valence[c]++;
      valence[d]++;
    }
  }
  joined(c, d) {
    return this.mesh.neighbours(c, this.ring).includes(d);
  }
  /** One step of tangential smoothing, then back on the surface, or on the feature line. */
  moveAlong() {
    const { mesh, kind, found } = this;
    const p = mesh.positions;
    const moved = p.slice();
    const normal = vertexNormals(mesh);
    for (let v = 0; v < mesh.vertices; v++) {
      if (kind[v] === FIXED || mesh.outgoing[v] < 0) continue;
      const target = kind[v] === ON_LINE ? this.lineMiddle(v) : this.ringMiddle(v);
      let x = target[0] - p[3 * v];
      let y = target[1] - p[3 * v + 1];
      let z = target[2] - p[3 * v + 2];
      if (kind[v] === FREE2) {
        const along = x * normal[3 * v] + y * normal[3 * v + 1] + z * normal[3 * v + 2];
        x -= along * normal[3 * v];
        y -= along * normal[3 * v + 1];
        z -= along * normal[3 * v + 2];
      }
      const tree = kind[v] === ON_LINE ? this.lineBvh : this.surface;
      tree.closest(p[3 * v] + 0.8 * x, p[3 * v + 1] + 0.8 * y, p[3 * v + 2] + 0.8 * z, found);
      moved[3 * v] = found.x;
      moved[3 * v + 1] = found.y;
      moved[3 * v + 2] = found.z;
      if (kind[v] === FREE2) mesh.size[v] = this.sizeOf[found.triangle];
    }
    mesh.positions.set(moved);
  }
  lineMiddle(v) {
    const { mesh } = this;
    const p = mesh.positions;
    const sum = [0, 0, 0];
    for (const s of mesh.spokes(v, this.ring)) {
      if (mesh.feature[s]) for (let k = 0; k < 3; k++) sum[k] += p[3 * mesh.corner[after(s)] + k] / 2;
      const b = before(s);
      if (mesh.opposite[b] < 0) for (let k = 0; k < 3; k++) sum[k] += p[3 * mesh.corner[b] + k] / 2;
    }
    return sum;
  }
  ringMiddle(v) {
    const { mesh } = this;
    const p = mesh.positions;
    const ring = mesh.neighbours(v, this.ring);
    const sum = [0, 0, 0];
    for (const w of ring) for (let k = 0; k < 3; k++) sum[k] += p[3 * w + k] / ring.length;
    return sum;
  }
  /** Splits what would tie the map: triangles with two feature edges, and edges between two feature vertices that are none. */
  freeFeatures() {
    for (let round = 0; round < 3; round++) {
      this.classify();
      const { mesh, kind } = this;
      const tight = [];
      for (let h = 0; h < 3 * mesh.triangles; h++) {
        if (mesh.corner[h] < 0 || mesh.feature[h] || mesh.opposite[h] < h) continue;
        if (kind[mesh.corner[h]] !== FREE2 && kind[mesh.corner[after(h)]] !== FREE2) tight.push(h);
      }
      if (tight.length === 0) return;
      for (const h of tight) mesh.split(h);
    }
  }
};
function distance2(p, a2, b) {
  return (p[3 * a2] - p[3 * b]) ** 2 + (p[3 * a2 + 1] - p[3 * b + 1]) ** 2 + (p[3 * a2 + 2] - p[3 * b + 2]) ** 2;
}
var one = new Float64Array(3);
var two = new Float64Array(3);
function crossInto2(out, p, a2, b, c) {
  const ux = p[3 * b] - p[3 * a2],
    uy = p[3 * b + 1] - p[3 * a2 + 1],
    uz = p[3 * b + 2] - p[3 * a2 + 2];
  const vx = p[3 * c] - p[3 * a2],
    vy = p[3 * c + 1] - p[3 * a2 + 1],
    vz = p[3 * c + 2] - p[3 * a2 + 2];
  out[0] = uy * vz - uz * vy;
  out[1] = uz * vx - ux * vz;
  out[2] = ux * vy - uy * vx;
}
function turned(p, a2, b, c, d) {
  crossInto2(one, p, a2, c, d);
  crossInto2(two, p, b, c, d);
  const dot3 = one[0] * two[0] + one[1] * two[1] + one[2] * two[2];
  const lengths = Math.hypot(one[0], one[1], one[2]) * Math.hypot(two[0], two[1], two[2]);
  return dot3 < 0.7 * lengths || Math.hypot(two[0], two[1], two[2]) < 0.1 * distance2(p, c, d);
}
function flipsWell(p, a2, b, c, d) {
  crossInto2(one, p, a2, b, c);
  crossInto2(two, p, b, a2, d);
  const n = [one[0] + two[0], one[1] + two[1], one[2] + two[2]];
  const whole = Math.hypot(n[0], n[1], n[2]);
  const flat = one[0] * two[0] + one[1] * two[1] + one[2] * two[2] > 0.7 * Math.hypot(one[0], one[1], one[2]) * Math.hypot(two[0], two[1], two[2]);
  if (!flat) return false;
  for (const [u, v, w] of [
    [c, d, b],
    [d, c, a2]
  ]) {
    crossInto2(one, p, u, v, w);
    if (one[0] * n[0] + one[1] * n[1] + one[2] * n[2] < 0.1 * whole * whole) return false;
  }
  return true;
}
function linesOf({ positions, corner }, edges) {
  if (edges.length === 0) return void 0;
  const lines = edges.flatMap((h) => [corner[h], corner[after(h)], corner[after(h)]]);
  const { used, indices } = usedVertices(lines, positions.length / 3);
  return new TriangleBvh(pickedPoints(positions, used), indices);
}
function vertexNormals(mesh) {
  const normals = new Float64Array(3 * mesh.vertices);
  const p = mesh.positions;
  for (let t = 0; t < mesh.triangles; t++) {
    if (!mesh.isAlive(t)) continue;
    crossInto2(one, p, mesh.corner[3 * t], mesh.corner[3 * t + 1], mesh.corner[3 * t + 2]);
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) normals[3 * mesh.corner[3 * t + c] + k] += one[k];
  }
  for (let v = 0; v < normals.length; v += 3) {
    const length2 = Math.hypot(normals[v], normals[v + 1], normals[v + 2]) || 1;
    for (let k = 0; k < 3; k++) normals[v + k] /= length2;
  }
  straightenNormals(normals, mesh);
  return normals;
}

// core/src/autoquad/curvature.ts
function triangleFrames(mesh) {
  const T = mesh.triangles;
  const p = mesh.positions;
  const frames = { angle: new Float64Array(3 * T), turn: new Float64Array(3 * T), axes: new Float64Array(9 * T), area: new Float64Array(T) };
  for (let t = 0; t < T; t++) {
    const e = edgesOf(mesh, p, t);
    const n = [e[0][1] * e[1][2] - e[0][2] * e[1][1], e[0][2] * e[1][0] - e[0][0] * e[1][2], e[0][0] * e[1][1] - e[0][1] * e[1][0]];
    const double = Math.hypot(n[0], n[1], n[2]) || 1e-300;
    const length2 = Math.hypot(e[0][0], e[0][1], e[0][2]) || 1e-300;
    const x = e[0].map((c) => c / length2);
    const z = n.map((c) => c / double);
    const y = [z[1] * x[2] - z[2] * x[1], z[2] * x[0] - z[0] * x[2], z[0] * x[1] - z[1] * x[0]];
    frames.axes.set([...x, ...y, ...z], 9 * t);
    frames.area[t] = double / 2;
    for (let k = 0; k < 3; k++)
      frames.angle[3 * t + k] = Math.atan2(e[k][0] * y[0] + e[k][1] * y[1] + e[k][2] * y[2], e[k][0] * x[0] + e[k][1] * x[1] + e[k][2] * x[2]);
  }
  for (let h = 0; h < 3 * T; h++) {
    const g = mesh.opposite[h];
    if (g >= 0) frames.turn[h] = frames.angle[g] + Math.PI - frames.angle[h];
  }
  return frames;
}
function edgesOf(mesh, p, t) {
  return [0, 1, 2].map((k) => {
    const a2 = 3 * mesh.corner[3 * t + k];
    const b = 3 * mesh.corner[after(3 * t + k)];
    return [p[b] - p[a2], p[b + 1] - p[a2 + 1], p[b + 2] - p[a2 + 2]];
  });
}
var DEAD_ZONE = [0.35, 0.7];
function curvatureDirections(mesh, frames, size, rounds = 10) {
  const T = mesh.triangles;
  let tensor = shapeTensors(mesh, frames);
  for (let round = 0; round < rounds; round++) {
    const next = tensor.slice();
    for (let h = 0; h < 3 * T; h++) {
      const g = mesh.opposite[h];
      if (g < 0 || mesh.feature[h]) continue;
      const t = 3 * Math.floor(h / 3);
      const s = 3 * Math.floor(g / 3);
      const c = Math.cos(-2 * frames.turn[h]);
      const d = Math.sin(-2 * frames.turn[h]);
      next[t] += tensor[s] * c - tensor[s + 1] * d;
      next[t + 1] += tensor[s] * d + tensor[s + 1] * c;
      next[t + 2] += tensor[s + 2];
    }
    for (let t = 0; t < T; t++) {
      let count = 1;
      for (let h = 3 * t; h < 3 * t + 3; h++) if (mesh.opposite[h] >= 0 && !mesh.feature[h]) count++;
      for (let k = 0; k < 3; k++) next[3 * t + k] /= count;
    }
    tensor = next;
  }
  const cross3 = new Float64Array(2 * T);
  const weight = new Float64Array(T);
  for (let t = 0; t < T; t++) {
    const [a2, b, mean2] = [tensor[3 * t], tensor[3 * t + 1], Math.abs(tensor[3 * t + 2])];
    const size2 = Math.hypot(a2, b);
    if (size2 === 0) continue;
    cross3[2 * t] = (a2 * a2 - b * b) / (size2 * size2);
    cross3[2 * t + 1] = (2 * a2 * b) / (size2 * size2);
    const relative = size2 / (size2 + mean2);
    const noticeable = smoothStep(0.01, 0.06, size2 * size);
    weight[t] = 2 * smoothStep(DEAD_ZONE[0], DEAD_ZONE[1], relative) * relative * noticeable;
  }
  return { cross: cross3, weight };
}
function smoothStep(low, high, x) {
  const t = Math.min(1, Math.max(0, (x - low) / (high - low)));
  return t * t * (3 - 2 * t);
}
function shapeTensors(mesh, frames) {
  const normals = vertexNormals(mesh);
  const p = mesh.positions;
  const out = new Float64Array(3 * mesh.triangles);
  for (let t = 0; t < mesh.triangles; t++) {
    const [x, y] = [frames.axes.subarray(9 * t, 9 * t + 3), frames.axes.subarray(9 * t + 3, 9 * t + 6)];
    const m = [0, 0, 0, 0, 0, 0];
    const r = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      const v = 3 * mesh.corner[3 * t + k];
      const w = 3 * mesh.corner[after(3 * t + k)];
      let u = 0,
        s = 0,
        du = 0,
        ds = 0;
      for (let i = 0; i < 3; i++) {
        u += (p[w + i] - p[v + i]) * x[i];
        s += (p[w + i] - p[v + i]) * y[i];
        du += (normals[w + i] - normals[v + i]) * x[i];
        ds += (normals[w + i] - normals[v + i]) * y[i];
      }
      m[0] += u * u;
      m[1] += u * s;
      m[2] += u * u + s * s;
      m[3] += u * s;
      m[4] += s * s;
      r[0] += u * du;
      r[1] += s * du + u * ds;
      r[2] += s * ds;
    }
    const [a2, b, c] = solve3(m, r);
    out[3 * t] = (a2 - c) / 2;
    out[3 * t + 1] = b;
    out[3 * t + 2] = (a2 + c) / 2;
  }
  return out;
}
function solve3(m, r) {
  const det = m[0] * (m[2] * m[4] - m[3] * m[3]) - m[1] * m[1] * m[4];
  if (Math.abs(det) < 1e-300) return [0, 0, 0];
  const a2 = (r[0] * (m[2] * m[4] - m[3] * m[3]) - m[1] * (r[1] * m[4] - m[3] * r[2])) / det;
  const b = (m[0] * (r[1] * m[4] - m[3] * r[2]) - r[0] * m[1] * m[4]) / det;
  const c = (m[0] * (m[2] * r[2] - r[1] * m[3]) - m[1] * (m[1] * r[2]) + r[0] * m[1] * m[3]) / det;
  return [a2, b, c];
}

// core/src/numeric/cholesky.ts
var SymmetricBuilder = class {
  constructor(size, capacity) {
    this.size = size;
    this.rows = new Int32Array(capacity);
    this.columns = new Int32Array(capacity);
    this.values = new Float64Array(capacity);
  }
  size;
  rows;
  columns;
  values;
  count = 0;
  add(i, j, value) {
    if (this.count === this.rows.length) this.grow();
    this.rows[this.count] = i > j ? i : j;
    this.columns[this.count] = i > j ? j : i;
    this.values[this.count++] = value;
  }
  grow() {
    const n = 2 * this.count + 64;
    const rows = new Int32Array(n);
    const columns = new Int32Array(n);
    const values = new Float64Array(n);
    rows.set(this.rows);
    columns.set(this.columns);
    values.set(this.values);
    this.rows = rows;
    this.columns = columns;
    this.values = values;
  }
  done() {
    const { size, count } = this;
    const start = new Int32Array(size + 1);
    for (let k = 0; k < count; k++) start[this.columns[k] + 1]++;
    for (let j = 0; j < size; j++) start[j + 1] += start[j];
    const cursor = start.slice();
    const row = new Int32Array(count);
    const value = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const at = cursor[this.columns[k]]++;
      row[at] = this.rows[k];
      value[at] = this.values[k];
    }
    return summed({ size, start, row, value });
  }
};
function summed(m) {
  const place = new Int32Array(m.size).fill(-1);
  const start = new Int32Array(m.size + 1);
  let at = 0;
  for (let j = 0; j < m.size; j++) {
    const first = at;
    for (let k = m.start[j]; k < m.start[j + 1]; k++) {
      const i = m.row[k];
      if (place[i] >= first) m.value[place[i]] += m.value[k];
      else {
        place[i] = at;
        m.row[at] = i;
        m.value[at++] = m.value[k];
      }
    }
    start[j + 1] = at;
  }
  return { size: m.size, start, row: m.row.slice(0, at), value: m.value.slice(0, at) };
}
function nestedDissection(m, tail = 0) {
  const { start, neighbour } = adjacency(m, m.size - tail);
  const n = m.size - tail;
  const order = new Int32Array(m.size);
  for (let k = n; k < m.size; k++) order[k] = k;
  const part = new Int32Array(n);
  const level = new Int32Array(n).fill(-1);
  let parts = 0;
  const work = [{ set: Int32Array.from({ length: n }, (_, i) => i), end: n }];
  const queue = new Int32Array(n);
  const search = (seed, id) => {
    level[seed] = 0;
    queue[0] = seed;
    let size = 1;
    for (let at = 0; at < size; at++)
      for (let k = start[queue[at]]; k < start[queue[at] + 1]; k++) {
        const w = neighbour[k];
        if (part[w] === id && level[w] < 0) {
          level[w] = level[queue[at]] + 1;
          queue[size++] = w;
        }
      }
    return size;
  };
  while (work.length > 0) {
    const { set, end } = work.pop();
    if (set.length <= 40) {
      leastFirst(set, start, neighbour, order, end);
      continue;
    }
    const id = ++parts;
    for (const v of set) part[v] = id;
    let size = search(set[0], id);
    if (size < set.length) {
      const piece = queue.slice(0, size);
      for (const v of piece) part[v] = 0;
      const rest = set.filter((v) => part[v] === id);
      for (const v of set) level[v] = -1;
      work.push({ set: piece, end }, { set: rest, end: end - size });
      continue;
    }
    for (let round = 0; round < 2; round++) {
      const far = queue[size - 1];
      for (const v of set) level[v] = -1;
      size = search(far, id);
    }
    const middle = level[queue[size >> 1]];
    const low = [];
    const high = [];
    const separator = [];
    for (const v of set) (level[v] < middle ? low : level[v] > middle ? high : separator).push(v);
    if (low.length === 0 || high.length === 0) {
      for (const v of set) level[v] = -1;
      leastFirst(set, start, neighbour, order, end);
      continue;
    }
    const kept = separator.filter((v) => {
      let touches = false;
      for (let k = start[v]; k < start[v + 1] && !touches; k++) touches = part[neighbour[k]] === id && level[neighbour[k]] > middle;
      if (!touches) low.push(v);
      return touches;
    });
    kept.forEach((v, i) => (order[end - kept.length + i] = v));
    for (const v of set) level[v] = -1;
    for (const v of kept) part[v] = 0;
    work.push({ set: Int32Array.from(low), end: end - kept.length }, { set: Int32Array.from(high), end: end - kept.length - low.length });
  }
  return order;
}
function adjacency(m, limit) {
  const start = new Int32Array(limit + 1);
  const each = (use) => {
    for (let j = 0; j < limit; j++) for (let k = m.start[j]; k < m.start[j + 1]; k++) if (m.row[k] !== j && m.row[k] < limit) use(m.row[k], j);
  };
  each((i, j) => (start[i + 1]++, start[j + 1]++));
  for (let v = 0; v < limit; v++) start[v + 1] += start[v];
  const cursor = start.slice();
  const neighbour = new Int32Array(start[limit]);
  each((i, j) => ((neighbour[cursor[i]++] = j), (neighbour[cursor[j]++] = i)));
  return { start, neighbour };
}
function leastFirst(set, start, neighbour, order, end) {
  const inside = new Set(set);
  const degree = /* @__PURE__ */ new Map();
  for (const v of set) {
    let d = 0;
    for (let k = start[v]; k < start[v + 1]; k++) if (inside.has(neighbour[k])) d++;
    degree.set(v, d);
  }
  [...set].sort((a2, b) => degree.get(a2) - degree.get(b) || a2 - b).forEach((v, i) => (order[end - set.length + i] = v));
}
var NotPositiveDefinite = class extends Error {};
var Cholesky = class {
  order;
  start;
  row;
  value;
  size;
  /** @throws NotPositiveDefinite */
  constructor(matrix, order) {
    this.size = matrix.size;
    this.order = order;
    const upper = permuted(matrix, order);
    const parent = eliminationTree(upper);
    const start = columnStarts(upper, parent);
    this.start = start;
    this.row = new Int32Array(start[this.size]);
    this.value = new Float64Array(start[this.size]);
    this.factor(upper, parent);
  }
  /** Up-looking: row k of L is the sparse triangular solve along the tree paths of column k's entries. */
  factor(upper, parent) {
    const { size, start, row, value } = this;
    const filled = start.slice(0, size);
    const x = new Float64Array(size);
    const stack = new Int32Array(size);
    const path = new Int32Array(size);
    const mark = new Int32Array(size).fill(-1);
    for (let k = 0; k < size; k++) {
      let top = size;
      mark[k] = k;
      let pivot = 0;
      for (let p = upper.start[k]; p < upper.start[k + 1]; p++) {
        let i = upper.row[p];
        if (i === k) {
          pivot += upper.value[p];
          continue;
        }
        x[i] = upper.value[p];
        let length2 = 0;
        for (; mark[i] !== k; i = parent[i]) {
          path[length2++] = i;
          mark[i] = k;
        }
        while (length2 > 0) stack[--top] = path[--length2];
      }
      for (; top < size; top++) {
        const j = stack[top];
        const lkj = x[j] / value[start[j]];
        x[j] = 0;
        const end = filled[j];
        for (let p = start[j] + 1; p < end; p++) x[row[p]] -= value[p] * lkj;
        pivot -= lkj * lkj;
        row[end] = k;
        value[end] = lkj;
        filled[j] = end + 1;
      }
      if (!(pivot > 0)) throw new NotPositiveDefinite(`the matrix is not positive definite at unknown ${this.order[k]} (pivot ${pivot})`);
      row[filled[k]] = k;
      value[filled[k]++] = Math.sqrt(pivot);
    }
  }
  /** Solves A x = b. */
  solve(b) {
    const x = this.forward(b);
    return this.backward(x, this.size);
  }
  /** y = L^-1 P b */
  forward(b) {
    const { size, start, row, value, order } = this;
    const y = new Float64Array(size);
    for (let k = 0; k < size; k++) y[k] = b[order[k]];
    for (let j = 0; j < size; j++) {
      const yj = (y[j] /= value[start[j]]);
      for (let p = start[j] + 1; p < start[j + 1]; p++) y[row[p]] -= value[p] * yj;
    }
    return y;
  }
  /**
   * x = Pt L^-t y, taking the entries from `fixedFrom` on (in elimination order) as the solution's given values.
   */
  backward(y, fixedFrom) {
    const { size, start, row, value, order } = this;
    const x = y.slice();
    for (let j = Math.min(size, fixedFrom) - 1; j >= 0; j--) {
      let sum = x[j];
      for (let p = start[j] + 1; p < start[j + 1]; p++) sum -= value[p] * x[row[p]];
      x[j] = sum / value[start[j]];
    }
    const out = new Float64Array(size);
    for (let k = 0; k < size; k++) out[order[k]] = x[k];
    return out;
  }
  /** The last `count` rows and columns of L, dense, row by row: the factor of their Schur complement. */
  trailing(count) {
    const dense = new Float64Array(count * count);
    const first = this.size - count;
    for (let j = first; j < this.size; j++)
      for (let p = this.start[j]; p < this.start[j + 1]; p++) dense[(this.row[p] - first) * count + (j - first)] = this.value[p];
    return dense;
  }
};
function permuted(m, order) {
  const place = new Int32Array(m.size);
  order.forEach((v, k) => (place[v] = k));
  const start = new Int32Array(m.size + 1);
  for (let j = 0; j < m.size; j++) for (let k = m.start[j]; k < m.start[j + 1]; k++) start[Math.max(place[m.row[k]], place[j]) + 1]++;
  for (let j = 0; j < m.size; j++) start[j + 1] += start[j];
  const cursor = start.slice();
  const row = new Int32Array(m.row.length);
  const value = new Float64Array(m.row.length);
  for (let j = 0; j < m.size; j++)
    for (let k = m.start[j]; k < m.start[j + 1]; k++) {
      const a2 = place[m.row[k]];
      const b = place[j];
      const at = cursor[Math.max(a2, b)]++;
      row[at] = Math.min(a2, b);
      value[at] = m.value[k];
    }
  return { size: m.size, start, row, value };
}
function eliminationTree(upper) {
  const parent = new Int32Array(upper.size).fill(-1);
  const ancestor = new Int32Array(upper.size).fill(-1);
  for (let k = 0; k < upper.size; k++)
    for (let p = upper.start[k]; p < upper.start[k + 1]; p++) {
      let i = upper.row[p];
      while (i !== -1 && i < k) {
        const up = ancestor[i];
        ancestor[i] = k;
        if (up === -1) parent[i] = k;
        i = up;
      }
    }
  return parent;
}
function columnStarts(upper, parent) {
  const start = new Int32Array(upper.size + 1);
  const mark = new Int32Array(upper.size).fill(-1);
  for (let k = 0; k < upper.size; k++) {
    mark[k] = k;
    start[k + 1]++;
    for (let p = upper.start[k]; p < upper.start[k + 1]; p++)
      for (let i = upper.row[p]; mark[i] !== k; i = parent[i]) {
        mark[i] = k;
        start[i + 1]++;
      }
  }
  for (let j = 0; j < upper.size; j++) start[j + 1] += start[j];
  return start;
}

// core/src/autoquad/orientation-field.ts
var QUARTER = Math.PI / 2;
function orientationField(mesh, frames, curvature, pull, guides) {
  const z = solveField(mesh, frames, curvature, pull, guides);
  const T = mesh.triangles;
  const theta = new Float64Array(T);
  for (let t = 0; t < T; t++) theta[t] = Math.atan2(z[2 * t + 1], z[2 * t]) / 4;
  const jump = new Int8Array(3 * T);
  const rest = new Float64Array(3 * T);
  for (let h = 0; h < 3 * T; h++) {
    const g = mesh.opposite[h];
    if (g < 0 || g < h) continue;
    const difference = theta[Math.floor(g / 3)] - theta[Math.floor(h / 3)] - frames.turn[h];
    const turns = Math.round(difference / QUARTER);
    jump[h] = mod4(turns);
    jump[g] = mod4(-turns);
    rest[h] = difference - turns * QUARTER;
    rest[g] = -rest[h];
  }
  return { theta, jump, index: fieldIndex(mesh, frames, rest) };
}
var mod4 = (n) => ((n % 4) + 4) % 4;
function featureCross(mesh, frames, t) {
  for (let h = 3 * t; h < 3 * t + 3; h++) if (mesh.feature[h]) return frames.angle[h];
  return void 0;
}
function solveField(mesh, frames, curvature, pull, guides) {
  const T = mesh.triangles;
  const held = new Float64Array(2 * T);
  const place = new Int32Array(T).fill(-1);
  let free = 0;
  let anything = false;
  for (let t = 0; t < T; t++) {
    const angle = featureCross(mesh, frames, t);
    if (angle === void 0) place[t] = free++;
    else {
      held[2 * t] = Math.cos(4 * angle);
      held[2 * t + 1] = Math.sin(4 * angle);
      anything = true;
    }
  }
  const system = new SymmetricBuilder(2 * free, 16 * free);
  const right = new Float64Array(2 * free);
  const strength = 0.1 * pull;
  for (let t = 0; t < T; t++) {
    const k = place[t];
    if (k < 0) continue;
    const pulled = strength * curvature.weight[t];
    const guided = guides?.weight[t] ?? 0;
    if (pulled + guided > 1e-3) anything = true;
    if (guides) for (const i of [0, 1]) right[2 * k + i] += guided * guides.cross[2 * t + i];
    right[2 * k] += pulled * curvature.cross[2 * t];
    right[2 * k + 1] += pulled * curvature.cross[2 * t + 1];
    let diagonal = pulled + guided + 1e-6;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const g = mesh.opposite[h];
      if (g < 0) continue;
      const w = dualWeight(mesh, h);
      diagonal += w;
      const c = w * Math.cos(4 * frames.turn[h]);
      const s = w * Math.sin(4 * frames.turn[h]);
      const other = Math.floor(g / 3);
      const m = place[other];
      if (m < 0) {
        right[2 * k] += c * held[2 * other] + s * held[2 * other + 1];
        right[2 * k + 1] += c * held[2 * other + 1] - s * held[2 * other];
      } else if (m > k) {
        system.add(2 * k, 2 * m, -c);
        system.add(2 * k, 2 * m + 1, -s);
        system.add(2 * k + 1, 2 * m, s);
        system.add(2 * k + 1, 2 * m + 1, -c);
      }
    }
    system.add(2 * k, 2 * k, diagonal);
    system.add(2 * k + 1, 2 * k + 1, diagonal);
  }
  const solved = free === 0 ? new Float64Array(0) : solveFree(system, right, anything, guides !== void 0);
  for (let t = 0; t < T; t++)
    if (place[t] >= 0) {
      held[2 * t] = solved[2 * place[t]];
      held[2 * t + 1] = solved[2 * place[t] + 1];
    }
  return held;
}
function solveFree(system, right, anything, inFewPlaces) {
  const matrix = system.done();
  const order = nestedDissection(matrix);
  const factor = new Cholesky(matrix, order);
  if (anything && !inFewPlaces) return factor.solve(right);
  const smoothest = leastEigenvector(matrix.size, factor);
  if (!anything) return smoothest;
  const least = 1 / Math.sqrt(factor.solve(smoothest).reduce((sum, c) => sum + c * c, 0));
  const value = matrix.value.slice();
  for (let j = 0; j < matrix.size; j++)
    for (let k = matrix.start[j]; k < matrix.start[j + 1]; k++) if (matrix.row[k] === j) value[k] -= TAKEN_OFF * least;
  return new Cholesky({ ...matrix, value }, order).solve(right);
}
var TAKEN_OFF = 0.95;
function leastEigenvector(size, factor) {
  let x = new Float64Array(size).map((_, i) => Math.sin(1 + i * 0.7));
  for (let round = 0; round < 12; round++) {
    x = factor.solve(x);
    const length2 = Math.sqrt(x.reduce((sum, c) => sum + c * c, 0));
    for (let i = 0; i < x.length; i++) x[i] /= length2;
  }
  return x;
}
function dualWeight(mesh, h) {
  const p = mesh.positions;
  const c = 3 * mesh.corner[before(h)];
  const d = 3 * mesh.corner[before(mesh.opposite[h])];
  const apart = Math.hypot(p[c] - p[d], p[c + 1] - p[d + 1], p[c + 2] - p[d + 2]) / 3;
  return Math.min(10, Math.max(0.1, Math.sqrt(mesh.edgeLength2(h)) / (apart + 1e-300) / 3));
}
function fieldIndex(mesh, frames, rest) {
  const index = new Int8Array(mesh.vertices);
  const turned2 = new Float64Array(mesh.vertices).fill(2 * Math.PI);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const v = mesh.corner[h];
    turned2[v] -= cornerAngle(frames, h);
    turned2[v] += rest[before(h)];
  }
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0 && !mesh.isBorder(v)) index[v] = Math.round(turned2[v] / QUARTER);
  return index;
}
var cornerAngle = (frames, h) => Math.PI - Math.abs(wrap(frames.angle[before(h)] - frames.angle[h]));
function wrap(angle) {
  return Math.atan2(Math.sin(angle), Math.cos(angle));
}

// core/src/autoquad/cut-graph.ts
function cutOpen(mesh, field) {
  const theta = field.theta.slice();
  const { jump, tree } = comb(mesh, field, theta);
  const cut = new Uint8Array(3 * mesh.triangles);
  for (let h = 0; h < cut.length; h++) cut[h] = mesh.opposite[h] >= 0 && !tree[h] ? 1 : 0;
  pruneEnds(mesh, cut, field.index);
  const { copy, copies } = copiesOf(mesh, cut);
  return { theta, jump, cut, copy, copies, chains: chainsOf(mesh, cut, field.index) };
}
function comb(mesh, field, theta) {
  const T = mesh.triangles;
  const arm = new Int8Array(T).fill(-1);
  const tree = new Uint8Array(3 * T);
  const queue = new Int32Array(T);
  for (let seed = 0; seed < T; seed++) {
    if (arm[seed] >= 0) continue;
    arm[seed] = 0;
    queue[0] = seed;
    let size = 1;
    for (let at = 0; at < size; at++) {
      const t = queue[at];
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const g = mesh.opposite[h];
        if (g < 0) continue;
        const s = Math.floor(g / 3);
        if (arm[s] >= 0) continue;
        arm[s] = mod4(arm[t] + field.jump[h]);
        tree[h] = tree[g] = 1;
        queue[size++] = s;
      }
    }
  }
  const jump = new Int8Array(3 * T);
  for (let h = 0; h < 3 * T; h++) {
    const g = mesh.opposite[h];
    if (g >= 0) jump[h] = mod4(field.jump[h] + arm[Math.floor(h / 3)] - arm[Math.floor(g / 3)]);
  }
  for (let t = 0; t < T; t++) theta[t] -= (arm[t] * Math.PI) / 2;
  return { jump, tree };
}
function pruneEnds(mesh, cut, index) {
  const degree = new Int32Array(mesh.vertices);
  const at = Array.from({ length: mesh.vertices }, () => []);
  for (let h = 0; h < cut.length; h++) {
    if (!cut[h] || h > mesh.opposite[h]) continue;
    for (const v of [mesh.corner[h], mesh.corner[after(h)]]) {
      degree[v]++;
      at[v].push(h);
    }
  }
  const stack = [];
  const isEnd = (v) => degree[v] === 1 && index[v] === 0 && !mesh.isBorder(v);
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0 && isEnd(v)) stack.push(v);
  while (stack.length > 0) {
    const v = stack.pop();
    const h = at[v].find((e) => cut[e]);
    if (h === void 0 || !isEnd(v)) continue;
    cut[h] = cut[mesh.opposite[h]] = 0;
    for (const w of [mesh.corner[h], mesh.corner[after(h)]]) {
      degree[w]--;
      if (isEnd(w)) stack.push(w);
    }
  }
}
function copiesOf(mesh, cut) {
  const copy = new Int32Array(3 * mesh.triangles).fill(-1);
  let copies = 0;
  const ring = [];
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.outgoing[v] < 0) continue;
    const spokes = mesh.spokes(v, ring);
    let first = mesh.isBorder(v) ? 0 : spokes.findIndex((h) => cut[h]);
    if (first < 0) first = 0;
    for (let i = 0; i < spokes.length; i++) {
      const h = spokes[(first + i) % spokes.length];
      if (i > 0 && cut[h]) copies++;
      copy[h] = copies;
    }
    copies++;
  }
  return { copy, copies };
}
function chainsOf(mesh, cut, index) {
  const ring = [];
  const cutSpokes = (v) => {
    const out = [];
    for (const h of mesh.spokes(v, ring)) if (cut[h]) out.push(h);
    return out;
  };
  const degree = new Int32Array(mesh.vertices);
  for (let h = 0; h < cut.length; h++) if (cut[h]) degree[mesh.corner[h]]++;
  const isNode = (v) => degree[v] !== 2 || index[v] !== 0 || mesh.isBorder(v);
  const used = new Uint8Array(cut.length);
  const chains = [];
  const walk2 = (first) => {
    const chain = [];
    let h = first;
    for (;;) {
      chain.push(h);
      used[h] = used[mesh.opposite[h]] = 1;
      const v = mesh.corner[after(h)];
      if (isNode(v) || v === mesh.corner[first]) break;
      h = cutSpokes(v).find((s) => !used[s]);
    }
    chains.push(chain);
  };
  for (let h = 0; h < cut.length; h++) if (cut[h] && !used[h] && isNode(mesh.corner[h])) walk2(h);
  for (let h = 0; h < cut.length; h++) if (cut[h] && !used[h]) walk2(h);
  return chains;
}

// core/src/autoquad/cross-walker.ts
var CrossWalker = class {
  constructor(mesh, frames, cut) {
    this.mesh = mesh;
    this.frames = frames;
    this.cut = cut;
  }
  mesh;
  frames;
  cut;
  /** the point reached, and the direction it is left in */
  at = new Float64Array(3);
  way = new Float64Array(3);
  /** Starts in the middle of a triangle. @returns that point */
  beginIn(t) {
    const start = this.mesh.centre(t);
    this.at.set(start);
    return start;
  }
  /** Direction of an arm in space. */
  direction(t, arm) {
    const { axes } = this.frames;
    const angle = this.cut.theta[t] + (arm * Math.PI) / 2;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    for (let k = 0; k < 3; k++) this.way[k] = c * axes[9 * t + k] + s * axes[9 * t + 3 + k];
  }
  /** Goes on straight to the border of a triangle. @returns the half-edge there; -1 where none is met squarely */
  leave(t, arm, entered) {
    const { mesh, frames, at, way } = this;
    const p = mesh.positions;
    this.direction(t, arm);
    let [best, nearest] = [-1, Infinity];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (h === entered) continue;
      const a2 = 3 * mesh.corner[h];
      const b = 3 * mesh.corner[after(h)];
      let [gap, speed] = [0, 0];
      const e = [p[b] - p[a2], p[b + 1] - p[a2 + 1], p[b + 2] - p[a2 + 2]];
      const n = 9 * t + 6;
      const { axes } = frames;
      const out = [e[1] * axes[n + 2] - e[2] * axes[n + 1], e[2] * axes[n] - e[0] * axes[n + 2], e[0] * axes[n + 1] - e[1] * axes[n]];
      for (let k = 0; k < 3; k++) {
        gap += (p[a2 + k] - at[k]) * out[k];
        speed += way[k] * out[k];
      }
      if (speed <= 1e-12) continue;
      const time = gap / speed;
      if (time < nearest) [nearest, best] = [time, h];
    }
    if (best < 0) return -1;
    for (let k = 0; k < 3; k++) at[k] += Math.max(0, nearest) * way[k];
    return best;
  }
};

// core/src/autoquad/way-between.ts
function wayBetween(mesh, from, to, most, open = () => true) {
  let front = [{ t: from, way: [] }];
  const seen = /* @__PURE__ */ new Set([from]);
  for (let depth = 0; depth <= most; depth++) {
    const next = [];
    for (const { t, way } of front) {
      if (t === to) return way;
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const s = Math.floor(mesh.opposite[h] / 3);
        if (mesh.opposite[h] < 0 || !open(h) || seen.has(s)) continue;
        seen.add(s);
        next.push({ t: s, way: [...way, h] });
      }
    }
    front = next;
  }
  return void 0;
}

// core/src/autoquad/closed-rings.ts
var [LONGEST, NEARBY] = [600, 4];
function closedRings(mesh, frames, cut, size, beside) {
  const walker = new RingWalker(mesh, frames, cut);
  const passed = new Uint8Array(2 * mesh.triangles);
  const rings = [];
  for (let t = 0; t < mesh.triangles; t++)
    for (const arm of [0, 1]) {
      if (passed[2 * t + arm]) continue;
      passed[2 * t + arm] = 1;
      const ring = walker.ringFrom(t, arm, size(t), beside);
      if (ring) rings.push(ring);
      for (const [s, a2] of walker.passed) passed[2 * s + (a2 & 1)] = 1;
    }
  return rings.sort((a2, b) => a2.crossed.length - b.crossed.length);
}
var RingWalker = class {
  constructor(mesh, frames, cut) {
    this.mesh = mesh;
    this.cut = cut;
    this.walker = new CrossWalker(mesh, frames, cut);
  }
  mesh;
  cut;
  /** triangles of the last way, with the arm it followed there */
  passed = [];
  walker;
  ringFrom(seed, arm, size, beside) {
    const { mesh, walker } = this;
    const start = walker.beginIn(seed);
    const crossed = [];
    this.passed = [];
    let [t, own, entered, away] = [seed, arm, -1, false];
    while (crossed.length < LONGEST) {
      const h = walker.leave(t, own, entered);
      if (h < 0 || mesh.opposite[h] < 0) return void 0;
      crossed.push(h);
      own = mod4(own - this.cut.jump[h]);
      entered = mesh.opposite[h];
      t = Math.floor(entered / 3);
      this.passed.push([t, own]);
      const back = start.map((s, k) => s - walker.at[k]);
      const far = Math.hypot(...back);
      if (far > 2 * size) away = true;
      if (!away || far > 1.5 * size) continue;
      walker.direction(t, own);
      const along = back.reduce((sum, b, k) => sum + b * walker.way[k], 0);
      if (Math.abs(along) > size || Math.sqrt(Math.max(0, far * far - along * along)) > beside * size) continue;
      const last = this.shortWay(t, own, seed, arm);
      if (last) return { crossed: [...crossed, ...last], arm };
    }
    return void 0;
  }
  /** Crossings from a triangle to another nearby, on which an arm becomes a wanted one. */
  shortWay(from, arm, to, wanted) {
    const { mesh, cut } = this;
    const way = wayBetween(mesh, from, to, NEARBY, (h) => !mesh.feature[h]);
    return way && way.reduce((own, h) => mod4(own - cut.jump[h]), arm) === wanted ? way : void 0;
  }
};

// core/src/autoquad/guides.ts
var STRONGEST = 10;
var APART = 12;
function sizeShare(dabs, x, y, z) {
  let share = 1;
  for (const { at, radius, percent } of dabs) {
    const far = Math.hypot(x - at[0], y - at[1], z - at[2]) / radius;
    if (far >= 1) continue;
    const t = 1 - far * far;
    share *= (percent / 100) ** (t * t);
  }
  return Math.min(3, Math.max(0.3, share));
}
function onThisSide(p, mirrors) {
  return mirrors.reduce((at, mirror) => (above(mirror, at) < 0 ? reflected(mirror, at) : at), p);
}
var runsAcross = ({ points, closed }, mirror, size) => {
  const heights = points.map((p) => above(mirror, p));
  return closed === true && Math.min(...heights) < -0.5 * size && Math.max(...heights) > 0.5 * size;
};
function guideOnThisSide(guide, mirrors, size) {
  if (!mirrors.some((mirror) => runsAcross(guide, mirror, size))) return { ...guide, points: guide.points.map((p) => onThisSide(p, mirrors)) };
  const here = guide.points.map((p) => mirrors.every((mirror) => above(mirror, p) >= 0));
  const n = here.length;
  const start = here.findIndex((own, i) => own && !here[(i + n - 1) % n]);
  const points = [];
  for (let i = 0; i < n && here[(start + i) % n]; i++) points.push(guide.points[(start + i) % n]);
  return { points, influence: guide.influence };
}
function layGuides(mesh, frames, guides, size) {
  const T = mesh.triangles;
  const field = { cross: new Float64Array(2 * T), weight: new Float64Array(T) };
  const rings = [];
  const lost = [];
  const bvh = new TriangleBvh(mesh.positions, mesh.corner);
  const found = surfacePoint();
  guides.forEach((guide, number) => {
    const points = evenly(guide.closed ? [...guide.points, guide.points[0]] : guide.points, 0.4 * size);
    if (points.length < 2) return void lost.push(number);
    const on = points.map((p) => {
      bvh.closest(...p, found);
      return { t: found.triangle, off: Math.sqrt(found.distance2), at: [found.x, found.y, found.z] };
    });
    if (on.every(({ off }) => off > 2 * size)) return void lost.push(number);
    const crossed = [];
    let whole = true;
    on.forEach(({ t, at }, i) => {
      const next = on[i + 1];
      const [from, to] = next ? [at, next.at] : [on[i - 1].at, at];
      const way = subtract(to, from);
      const passed = next ? wayBetween(mesh, t, next.t, APART) : [];
      if (!passed) whole = false;
      for (const s of [t, ...(passed ?? []).map((h) => Math.floor(mesh.opposite[h] / 3))]) follow(field, frames, s, way, guide.influence);
      crossed.push(...(passed ?? []));
    });
    if (guide.closed && whole && on[0].t === on[on.length - 1].t && crossed.length > 2)
      rings.push({ guide: number, crossed, first: on[0].t, way: unit(subtract(on[1].at, on[0].at)), count: guide.count ?? 0 });
  });
  for (let t = 0; t < T; t++) {
    const long = Math.hypot(field.cross[2 * t], field.cross[2 * t + 1]);
    if (long > 0) for (const k of [0, 1]) field.cross[2 * t + k] /= long;
  }
  return { field, rings, lost };
}
function angleInFrame({ axes }, t, way) {
  const along = (axis) => way[0] * axes[9 * t + axis] + way[1] * axes[9 * t + axis + 1] + way[2] * axes[9 * t + axis + 2];
  const [x, y] = [along(0), along(3)];
  return x === 0 && y === 0 ? void 0 : Math.atan2(y, x);
}
function follow(field, frames, t, way, influence) {
  const own = angleInFrame(frames, t, way);
  if (own === void 0) return;
  const angle = 4 * own;
  field.cross[2 * t] += Math.cos(angle);
  field.cross[2 * t + 1] += Math.sin(angle);
  field.weight[t] = Math.max(field.weight[t], STRONGEST * (influence / 100) ** 3);
}
function evenly(points, step) {
  const made = points.slice(0, 1);
  for (let i = 1; i < points.length; i++) {
    const way = subtract(points[i], points[i - 1]);
    const pieces = Math.max(1, Math.ceil(length(way) / step));
    for (let k = 1; k <= pieces; k++) made.push([0, 1, 2].map((a2) => points[i - 1][a2] + (k / pieces) * way[a2]));
  }
  return made;
}
function asRing({ crossed, first, way }, frames, cut) {
  const angle = (angleInFrame(frames, first, way) ?? 0) - cut.theta[first];
  return { crossed, arm: mod4(Math.round(angle / (Math.PI / 2))) };
}

// core/src/autoquad/auto-quads-options.ts
var AutoQuadsError = class extends Error {};
var LEAST = 24;
var pullOf = ({ curvaturePull = 50 }) => curvaturePull / 100;
function wantedSize(options, area) {
  if (options.edgeSizes) {
    const { finest, coarsest } = options.edgeSizes;
    if (!(finest > 0) || !(coarsest >= finest))
      throw new AutoQuadsError(`Edge sizes must be more than 0 and the coarsest not below the finest; they are ${finest} and ${coarsest}.`);
    const size = Math.sqrt(finest * coarsest);
    return { size, target: Math.round(area / size ** 2) };
  }
  const count = options.count ?? 4e3;
  if (!(count >= LEAST)) throw new AutoQuadsError(`At least ${LEAST} quads can be asked for; it was ${count}.`);
  return { size: Math.sqrt(area / count), target: count };
}

// core/src/autoquad/settle-quads.ts
function settleQuads(list, surface, normals, lines, rounds, shareAt) {
  const cage = Cage.fromPolygons(uniformMesh(list.positions, list.quads, 4));
  const p = cage.positions;
  const found = surfacePoint();
  const rings = Array.from(cage.vertices(), (v) => ringOf(cage, v));
  rings.forEach((ring, v) => {
    if (!ring.border || !lines.border) return;
    lines.border.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], found);
    p.set([found.x, found.y, found.z], 3 * v);
  });
  const share = new Float64Array(rings.length).fill(1);
  for (let round = 0; round < rounds; round++) {
    if (shareAt) for (let v = 0; v < rings.length; v++) share[v] = shareAt(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    for (let v = 0; v < rings.length; v++) {
      const ring = rings[v];
      const hold = ring.border && list.hold[v] === 0 ? 1 : list.hold[v];
      if (hold === 2) continue;
      const normal = cornerNormal(p, v, ring);
      const goal = hold === 1 ? lineGoal(list.hold, p, v, ring) : faceGoal(p, v, ring, share);
      const step = [0, 1, 2].map((k) => 0.5 * (goal[k] - p[3 * v + k]));
      if (hold === 0) {
        const along = step[0] * normal[0] + step[1] * normal[1] + step[2] * normal[2];
        for (let k = 0; k < 3; k++) step[k] -= along * normal[k];
      }
      const to = [p[3 * v] + step[0], p[3 * v + 1] + step[1], p[3 * v + 2] + step[2]];
      if (hold === 1) {
        const own = ring.border ? lines.border : lines.sharp;
        if (!own) continue;
        own.closest(...to, found);
      } else {
        const looksAlike = (t) => normals[3 * t] * normal[0] + normals[3 * t + 1] * normal[1] + normals[3 * t + 2] * normal[2] > 0.2;
        surface.closest(...to, found, Infinity, looksAlike);
      }
      if (found.triangle < 0) continue;
      moveUnlessWorse(p, v, ring, found.x, found.y, found.z, normal);
    }
  }
  list.positions.set(p.subarray(0, list.positions.length));
}
function ringOf(cage, v) {
  const spokes = cage.spokes(v);
  return {
    border: cage.isBorderVertex(v),
    alongBorder: spokes.filter((h) => cage.isBorderEdge(h >> 1)).map((h) => cage.target(h)),
    edge: spokes.map((h) => cage.target(h)),
    faces: spokes
      .filter((h) => cage.face[h] !== NONE)
      .map((h) => {
        const a2 = cage.target(h);
        const across = cage.target(cage.next[h]);
        return [a2, across, cage.target(cage.next[cage.next[h]])];
      })
  };
}
function faceGoal(p, v, ring, share) {
  const sum = [0, 0, 0];
  let whole = 0;
  for (const w of ring.edge) {
    const weight = 2 / (share[v] + share[w]);
    whole += weight;
    for (let k = 0; k < 3; k++) sum[k] += weight * p[3 * w + k];
  }
  return sum.map((x) => x / whole);
}
function lineGoal(hold, p, v, ring) {
  const along = ring.border ? ring.alongBorder : ring.edge.filter((w) => hold[w] > 0);
  if (along.length !== 2) return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  return [0, 1, 2].map((k) => (p[3 * along[0] + k] + p[3 * along[1] + k]) / 2);
}
function cross2(p, o, a2, b) {
  const ux = p[3 * a2] - o[0],
    uy = p[3 * a2 + 1] - o[1],
    uz = p[3 * a2 + 2] - o[2];
  const vx = p[3 * b] - o[0],
    vy = p[3 * b + 1] - o[1],
    vz = p[3 * b + 2] - o[2];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}
function cornerNormal(p, v, ring) {
  const n = [0, 0, 0];
  const o = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (const [a2, , b] of ring.faces) {
    const c = cross2(p, o, a2, b);
    for (let k = 0; k < 3; k++) n[k] += c[k];
  }
  const length2 = Math.hypot(...n) || 1;
  return [n[0] / length2, n[1] / length2, n[2] / length2];
}
function leastCorner(p, at, ring, normal) {
  let least = Infinity;
  for (const [a2, across, b] of ring.faces) {
    const corners = [cross2(p, at, a2, b), crossAt(p, a2, across, at), crossAt(p, b, at, across)];
    for (const c of corners) {
      const size = Math.hypot(c[0], c[1], c[2]) || 1;
      least = Math.min(least, (c[0] * normal[0] + c[1] * normal[1] + c[2] * normal[2]) / size);
    }
  }
  return least;
}
function crossAt(p, o, first, second) {
  const at = (x) => (typeof x === 'number' ? [p[3 * x], p[3 * x + 1], p[3 * x + 2]] : x);
  const [c, a2, b] = [at(o), at(first), at(second)];
  const u = [a2[0] - c[0], a2[1] - c[1], a2[2] - c[2]];
  const w = [b[0] - c[0], b[1] - c[1], b[2] - c[2]];
  return [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
}
function moveUnlessWorse(p, v, ring, x, y, z, normal) {
  const was = leastCorner(p, [p[3 * v], p[3 * v + 1], p[3 * v + 2]], ring, normal);
  const will = leastCorner(p, [x, y, z], ring, normal);
  if (will < 0.2 && will < was) return;
  p[3 * v] = x;
  p[3 * v + 1] = y;
  p[3 * v + 2] = z;
}

// core/src/autoquad/features.ts
var FEATURE_ANGLE = 40;
var SHORTEST = 0.08;
var SHORTEST_OPEN = 0.4;
function markFeatures(mesh, diagonal, degrees = FEATURE_ANGLE) {
  const normals = triangleNormals2(mesh);
  const raw = Math.cos((degrees * Math.PI) / 180);
  const sharp = [];
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const g = mesh.opposite[h];
    if (g < 0) mesh.feature[h] = 1;
    else if (h < g && dot2(normals, h, g) < raw && dot2(sideNormals(mesh, normals, h, g), 0, 3) < raw) sharp.push(h);
  }
  return keepLong(mesh, sharp, SHORTEST * diagonal, SHORTEST_OPEN * diagonal);
}
function featureLinesOf(mesh) {
  const lines = mesh.featureEdges();
  const isBorder = (h) => mesh.opposite[h] < 0;
  return {
    border: linesOf(mesh, lines.filter(isBorder)),
    sharp: linesOf(
      mesh,
      lines.filter((h) => !isBorder(h))
    )
  };
}
function markTagged(mesh, { creaseEdges, creaseSharpness, faceRegion }, faceOf) {
  const key = (v, w) => Math.min(v, w) * mesh.vertices + Math.max(v, w);
  const creased = /* @__PURE__ */ new Map();
  for (let i = 0; i < (creaseSharpness?.length ?? 0); i++)
    if (creaseSharpness[i] > 0) creased.set(key(creaseEdges[2 * i], creaseEdges[2 * i + 1]), creaseSharpness[i]);
  if (creased.size === 0 && !faceRegion) return [];
  const regionOf = (h) => faceRegion?.[faceOf[Math.floor(h / 3)]];
  const marked = [];
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const g = mesh.opposite[h];
    if (g < h || mesh.feature[h]) continue;
    const sharpness = creased.get(key(mesh.corner[h], mesh.corner[after(h)])) ?? 0;
    if (sharpness === 0 && regionOf(h) === regionOf(g)) continue;
    mesh.feature[h] = mesh.feature[g] = 1;
    marked.push({ half: h, sharpness });
  }
  return marked;
}
function triangleNormals2(mesh) {
  const { positions: p, corner } = mesh;
  const normals = new Float64Array(3 * mesh.triangles);
  for (let t = 0; t < mesh.triangles; t++) {
    const a2 = 3 * corner[3 * t];
    const b = 3 * corner[3 * t + 1];
    const c = 3 * corner[3 * t + 2];
    const u = [p[b] - p[a2], p[b + 1] - p[a2 + 1], p[b + 2] - p[a2 + 2]];
    const w = [p[c] - p[a2], p[c + 1] - p[a2 + 1], p[c + 2] - p[a2 + 2]];
    const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    const length2 = Math.hypot(n[0], n[1], n[2]) || 1;
    for (let k = 0; k < 3; k++) normals[3 * t + k] = n[k] / length2;
  }
  return normals;
}
function dot2(normals, h, g) {
  const s = 3 * Math.floor(h / 3);
  const t = 3 * Math.floor(g / 3);
  return normals[s] * normals[t] + normals[s + 1] * normals[t + 1] + normals[s + 2] * normals[t + 2];
}
function sideNormals(mesh, normals, h, g) {
  const out = new Float64Array(6);
  [h, g].forEach((side, i) => {
    const t = Math.floor(side / 3);
    const around = [t];
    for (let k = 3 * t; k < 3 * t + 3; k++) if (k !== side && mesh.opposite[k] >= 0) around.push(Math.floor(mesh.opposite[k] / 3));
    for (const s of around) for (let k = 0; k < 3; k++) out[3 * i + k] += normals[3 * s + k];
    const length2 = Math.hypot(out[3 * i], out[3 * i + 1], out[3 * i + 2]) || 1;
    for (let k = 0; k < 3; k++) out[3 * i + k] /= length2;
  });
  return out;
}
function keepLong(mesh, sharp, shortest, shortestOpen) {
  const parent = new Int32Array(mesh.vertices).fill(-1);
  const root = (v) => {
    while (parent[v] >= 0) v = parent[v];
    return v;
  };
  const closed = /* @__PURE__ */ new Set();
  for (const h of sharp) {
    const a2 = root(mesh.corner[h]);
    const b = root(mesh.corner[after(h)]);
    if (a2 === b) closed.add(a2);
    else {
      parent[a2] = b;
      if (closed.has(a2)) closed.add(b);
    }
  }
  const longEnough = (r) => length2.get(r) >= (closed.has(r) ? shortest : shortestOpen);
  const length2 = /* @__PURE__ */ new Map();
  for (const h of sharp) {
    const r = root(mesh.corner[h]);
    length2.set(r, (length2.get(r) ?? 0) + Math.sqrt(mesh.edgeLength2(h)));
  }
  const kept = sharp.filter((h) => longEnough(root(mesh.corner[h])));
  for (const h of kept) mesh.feature[h] = mesh.feature[mesh.opposite[h]] = 1;
  return kept;
}

// core/src/autoquad/fit-limit.ts
var ROUNDS = 8;
var OVER = 1.5;
var POOR = 0.5;
var TURNED = 0.5;
var LOOKS_AWAY = 0.25;
function fitLimit(mesh, surface, normals, lines) {
  const { positions, faceVertices } = mesh;
  const cage = Cage.fromPolygons(mesh);
  const rows = limitRows(cageLevel(mesh, 'sharp'), 'catmull-clark');
  const quadsAt = Array.from({ length: positions.length / 3 }, () => []);
  faceVertices.forEach((v, i) => quadsAt[v].push(i >> 2));
  const sharp = new Set(mesh.creaseEdges?.filter((_, i) => mesh.creaseSharpness[i >> 1] >= STAYS_SHARP));
  const place = (v) => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const cornersOf = (q) => [0, 1, 2, 3].map((k) => place(faceVertices[4 * q + k]));
  const found = surfacePoint();
  const limitOf = (v) => {
    let at = [0, 0, 0];
    for (let k = rows.start[v]; k < rows.start[v + 1]; k++) at = add(at, scaled(place(rows.index[k]), rows.weight[k]));
    return at;
  };
  const goalOf = (v, at, normal) => {
    const line = cage.isBorderVertex(v) ? lines.border : sharp.has(v) ? lines.sharp : void 0;
    if (line) line.closest(...at, found);
    else {
      const alike = (t) => normals[3 * t] * normal[0] + normals[3 * t + 1] * normal[1] + normals[3 * t + 2] * normal[2] > LOOKS_AWAY;
      surface.closest(...at, found, Infinity, alike);
    }
    return found.triangle < 0 ? void 0 : [found.x, found.y, found.z];
  };
  const worstAt = (v, seen) =>
    Math.min(
      ...quadsAt[v].map((q, i) => {
        const corners = cornersOf(q);
        const normal = unit(areaVector(corners));
        return dot(normal, seen[i]) > TURNED ? leastSine(corners, normal) : -1;
      })
    );
  for (let round = 0; round < ROUNDS; round++)
    for (let v = 0; v < quadsAt.length; v++) {
      if (quadsAt[v].length === 0) continue;
      const seen = quadsAt[v].map((q) => unit(areaVector(cornersOf(q))));
      const normal = unit(seen.reduce((sum, n) => add(sum, n)));
      const at = limitOf(v);
      const goal = goalOf(v, at, normal);
      if (!goal) continue;
      const own = place(v);
      const before2 = worstAt(v, seen);
      for (const share of [OVER, OVER / 3]) {
        positions.set(add(own, scaled(subtract(goal, at), share)), 3 * v);
        if (worstAt(v, seen) >= Math.min(POOR, before2)) break;
        positions.set(own, 3 * v);
      }
    }
}

// core/src/select/loops.ts
function ringThrough(cage, start) {
  const forward = walkRing(cage, start);
  const back = forward.closed ? { halves: [start], end: NONE } : walkRing(cage, start ^ 1, new Set(forward.halves.map((h) => h >> 1)));
  const halves = [
    ...back.halves
      .slice(1)
      .reverse()
      .map((h) => h ^ 1),
    ...forward.halves
  ];
  const passed = /* @__PURE__ */ new Map();
  for (const h of forward.closed ? halves : halves.slice(0, -1)) passed.set(cage.face[h], (passed.get(cage.face[h]) ?? 0) + 1);
  return {
    halves,
    closed: forward.closed,
    crossedTwice: [...passed].filter(([, times]) => times > 1).map(([f]) => f),
    ends: [back.end, forward.end]
  };
}
function walkRing(cage, start, taken = /* @__PURE__ */ new Set()) {
  const halves = [];
  const seen = /* @__PURE__ */ new Set();
  for (let h = start; ;) {
    halves.push(h);
    seen.add(h >> 1);
    const f = cage.face[h];
    if (f === NONE || cage.faceSize(f) !== 4) return { halves, closed: false, end: f };
    h = cage.next[cage.next[h]] ^ 1;
    if (seen.has(h >> 1) || taken.has(h >> 1)) return { halves, closed: h === start, end: f };
  }
}

// core/src/check/quad-quality.ts
function quadQuality(cage) {
  const values = [...cage.faces()].filter((f) => cage.faceSize(f) === 4).map((f) => scaledJacobian(cage, f));
  values.sort((a2, b) => a2 - b);
  const { lengths, of } = stripsOf(cage);
  const spirals = /* @__PURE__ */ new Set();
  for (const e of cage.edges()) {
    const [h, g] = [2 * e, 2 * e + 1];
    if (![h, g].every((k) => cage.face[k] !== NONE && cage.faceSize(cage.face[k]) === 4)) continue;
    const here = of[cage.next[h] >> 1];
    if (here === of[cage.next[g] >> 1]) spirals.add(here);
  }
  return {
    mean: values.reduce((a2, b) => a2 + b, 0) / (values.length || 1),
    hundredth: values[Math.floor(values.length / 100)] ?? 0,
    worst: values[0] ?? 0,
    strips: lengths.length,
    longest: lengths.reduce((a2, b) => Math.max(a2, b), 0),
    spirals: spirals.size
  };
}
function scaledJacobian(cage, f) {
  const p = cage.faceVertices(f).map((v) => cage.position(v));
  return leastSine(p, unit(areaVector(p)));
}
function stripsOf(cage) {
  const of = new Int32Array(cage.edgeSlots).fill(NONE);
  const lengths = [];
  for (const e of cage.edges()) {
    if (of[e] !== NONE) continue;
    const { halves, closed } = ringThrough(cage, 2 * e);
    for (const h of halves) of[h >> 1] = lengths.length;
    lengths.push(closed ? halves.length : halves.length - 1);
  }
  return { lengths, of };
}

// core/src/autoquad/narrow-corners.ts
var QUARTER2 = Math.PI / 2;
function openNarrowCorners(mesh, frames, field) {
  const { theta, jump, index } = field;
  const rest = (h) => {
    const difference = theta[Math.floor(mesh.opposite[h] / 3)] - theta[Math.floor(h / 3)] - frames.turn[h] - jump[h] * QUARTER2;
    return wrap(difference);
  };
  const ring = [];
  let opened = 0;
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.outgoing[v] < 0) continue;
    const spokes = [...mesh.spokes(v, ring)];
    const border = mesh.isBorder(v);
    const lines = spokes.flatMap((h, i) => (mesh.feature[h] ? [i] : []));
    if (lines.length === 0) continue;
    lines.forEach((start, k) => {
      const last = k + 1 === lines.length;
      const count = last ? (border ? spokes.length - start : lines[0] + spokes.length - start) : lines[k + 1] - start;
      if (count < 2) return;
      const between = Array.from({ length: count }, (_, i) => spokes[(start + i) % spokes.length]);
      let turned2 = 0;
      for (const h of between) turned2 += cornerAngle(frames, h);
      for (const h of between.slice(0, -1)) turned2 -= rest(before(h));
      if (Math.round(turned2 / QUARTER2) > 0) return;
      const middle = Math.floor((count - 1) / 2);
      const crossed = before(between[middle]);
      const w = mesh.corner[crossed];
      if (mesh.isBorder(w) || mesh.spokes(w, ring).some((h) => mesh.feature[h])) return;
      jump[crossed] = mod4(jump[crossed] + 1);
      jump[mesh.opposite[crossed]] = mod4(jump[mesh.opposite[crossed]] - 1);
      index[w]++;
      if (!border) index[v]--;
      opened++;
    });
  }
  return opened;
}

// core/src/autoquad/narrow-parts.ts
var NARROW = 0.9;
var MOST_STEPS = 12;
function narrowParts(mesh, frames, cut, size) {
  const shares = new Float64Array(2 * mesh.triangles).fill(1);
  const walker = new CrossWalker(mesh, frames, cut);
  for (let t = 0; t < mesh.triangles; t++)
    for (const arm of [0, 1]) {
      const most = NARROW * size(t);
      const ahead = toFeature(mesh, cut, walker, t, arm, most);
      const width = ahead < most ? ahead + toFeature(mesh, cut, walker, t, arm + 2, most) : Infinity;
      if (width < most) shares[2 * t + arm] = width / size(t);
    }
  return shares;
}
function toFeature(mesh, cut, walker, seed, arm, most) {
  const start = walker.beginIn(seed);
  let [t, own, entered] = [seed, arm, -1];
  for (let step = 0; step < MOST_STEPS; step++) {
    const h = walker.leave(t, own, entered);
    const far = Math.hypot(...start.map((s, k) => walker.at[k] - s));
    if (h < 0 || far > most) return Infinity;
    if (mesh.feature[h]) return far;
    own = mod4(own - cut.jump[h]);
    entered = mesh.opposite[h];
    t = Math.floor(entered / 3);
  }
  return Infinity;
}

// core/src/autoquad/linear-forms.ts
function addTo(sum, form, factor) {
  for (const [k, c] of form) {
    const total = (sum.get(k) ?? 0) + factor * c;
    if (total === 0) sum.delete(k);
    else sum.set(k, total);
  }
  return sum;
}
var Eliminator = class {
  /** @param rank lower is eliminated first */
  constructor(rank) {
    this.rank = rank;
  }
  rank;
  given = /* @__PURE__ */ new Map();
  /** The form over unknowns that are not eliminated. */
  expand(form) {
    let result = /* @__PURE__ */ new Map();
    let open = false;
    for (const [k, c] of form) {
      const inner = this.given.get(k);
      if (inner) {
        open = true;
        addTo(result, inner, c);
      } else addTo(result, /* @__PURE__ */ new Map([[k, 1]]), c);
    }
    while (open) {
      open = false;
      const next = /* @__PURE__ */ new Map();
      for (const [k, c] of result) {
        const inner = this.given.get(k);
        if (inner) {
          open = true;
          addTo(next, inner, c);
        } else addTo(next, /* @__PURE__ */ new Map([[k, 1]]), c);
      }
      result = next;
    }
    return result;
  }
  /** Makes `form` zero. @returns false where that asks for something without a coefficient of one */
  require(form) {
    const open = this.expand(form);
    if (open.size === 0) return true;
    divideByCommonFactor(open);
    let pivot = -1;
    for (const [k, c] of open) if (Math.abs(c) === 1 && (pivot < 0 || this.rank(k) < this.rank(pivot))) pivot = k;
    if (pivot < 0) return false;
    const sign = open.get(pivot);
    open.delete(pivot);
    const solution = /* @__PURE__ */ new Map();
    addTo(solution, open, -sign);
    this.given.set(pivot, solution);
    return true;
  }
  isGiven(unknown) {
    return this.given.has(unknown);
  }
};
function divideByCommonFactor(form) {
  let common = 0;
  for (let c of form.values()) {
    c = Math.abs(c);
    while (c !== 0) [common, c] = [c, common % c];
  }
  if (common > 1) for (const [k, c] of form) form.set(k, c / common);
}

// core/src/autoquad/seamless-map.ts
var GRID = 2 ** -16;
var MapError = class extends Error {};
function turnedForms(u, v, k) {
  const minus = (f) => addTo(/* @__PURE__ */ new Map(), f, -1);
  return [
    [u, v],
    [minus(v), u],
    [minus(u), minus(v)],
    [v, minus(u)]
  ][mod4(k)];
}
var single = (k) => /* @__PURE__ */ new Map([[k, 1]]);
var SeamlessMap = class {
  /**
   * @param sizeFactor by triangle, relative quad size (1: the size asked for)
   * @param rings ways round the surface along which quads are to close
   * @param narrow by triangle and arm 0 and 1, share of the size that is meant along it
   * @param pins those that are to close before all others, some with so many quads along them
   */
  constructor(mesh, frames, cut, index, sizeFactor, rings = [], pins = [], narrow) {
    this.mesh = mesh;
    this.frames = frames;
    this.cut = cut;
    this.index = index;
    this.sizeFactor = sizeFactor;
    this.rings = rings;
    this.pins = pins;
    this.narrow = narrow;
    this.stiffness = new Float64Array(mesh.triangles).fill(1);
    this.setUpForms();
    this.assemble();
  }
  mesh;
  frames;
  cut;
  index;
  sizeFactor;
  rings;
  pins;
  narrow;
  /** forms of u and v by half-edge start copy, over the solver's unknowns; whole numbers are numbered last */
  formU = [];
  formV = [];
  /** sums that come out as nothing where rings close */
  ringSums = [];
  pinSums = [];
  unknowns = 0;
  /** triangles each unknown that is not whole has a part in */
  users;
  whole = 0;
  factor;
  reduced;
  rounding;
  /** right-hand side for quads of size 1 / scale */
  right;
  stiffness;
  /** u and v unknowns of copy c are 2c and 2c + 1, those of chain i's translation come after. */
  setUpForms() {
    const { mesh, cut } = this;
    const translations = 2 * cut.copies;
    const poleCopies = /* @__PURE__ */ new Set();
    for (let h = 0; h < 3 * mesh.triangles; h++) if (this.index[mesh.corner[h]] !== 0) poleCopies.add(cut.copy[h]);
    const rank = (k) => (k >= translations ? 1 : poleCopies.has(k >> 1) ? 2 : 0);
    const solver = new Eliminator(rank);
    this.joinCuts(solver, translations);
    const wholeForms = this.holdFeatures(solver);
    for (const c of poleCopies) wholeForms.push(single(2 * c), single(2 * c + 1));
    const pinned = this.shiftsOf(
      this.pins.map(({ ring }) => ring),
      translations
    );
    for (const shift of pinned) if (shift) solver.require(shift.across);
    const number = this.numberUnknowns(solver, wholeForms, translations);
    const wholes = (form) => {
      const open = form && [...solver.expand(form)].map(([k, c]) => [number[k] - this.unknowns + this.whole, c]);
      return open && open.length > 0 && open.every(([k]) => k >= 0) ? open : void 0;
    };
    const shifts = this.shiftsOf(this.rings, translations);
    const different = new Map(shifts.flatMap((s) => (s ? [[[...s.across].map((entry) => entry.join(':')).join(' '), s.across]] : [])));
    this.ringSums = [...different.values()].map(wholes).filter((sum) => sum !== void 0);
    this.pinSums = pinned.map((s) => ({ across: wholes(s?.across), along: wholes(s?.along) }));
  }
  /** Both sides of a cut: right = left turned by the jump, plus the chain's translation. */
  joinCuts(solver, translations) {
    const { mesh, cut } = this;
    cut.chains.forEach((chain, i) => {
      let lastPair = '';
      for (const h of chain) {
        const g = mesh.opposite[h];
        const pairs = [
          [cut.copy[h], cut.copy[after(g)]],
          [cut.copy[after(h)], cut.copy[g]]
        ];
        for (const [left, right] of pairs) {
          const pair = `${left} ${right}`;
          if (pair === lastPair) continue;
          lastPair = pair;
          const [u, v] = this.turn(left, cut.jump[h]);
          const ok =
            solver.require(addTo(addTo(addTo(/* @__PURE__ */ new Map(), u, 1), single(translations + 2 * i), 1), single(2 * right), -1)) &&
            solver.require(addTo(addTo(addTo(/* @__PURE__ */ new Map(), v, 1), single(translations + 2 * i + 1), 1), single(2 * right + 1), -1));
          if (!ok) throw new MapError('The translations along the cut contradict each other.');
        }
      }
    });
  }
  /**
   * Coordinates of a copy seen from across a half-edge with a jump: arm k here continues as arm k - jump, so the same
   * vector has its angle against arm 0 changed by -jump quarter turns.
   */
  turn(copy, jump) {
    return turnedForms(single(2 * copy), single(2 * copy + 1), -jump);
  }
  /** By ring the translation after a way round, along it and across it; none where the way turns. */
  shiftsOf(rings, translations) {
    const { mesh, cut } = this;
    const chainOf = /* @__PURE__ */ new Map();
    cut.chains.forEach((chain, i) => {
      for (const h of chain) chainOf.set(h, i);
    });
    return rings.map(({ crossed, arm }) => {
      let [u, v, turned2] = [/* @__PURE__ */ new Map(), /* @__PURE__ */ new Map(), 0];
      for (const h of crossed) {
        if (!cut.cut[h]) continue;
        const left = chainOf.get(h);
        const i = left ?? chainOf.get(mesh.opposite[h]);
        const [shiftU, shiftV] = [single(translations + 2 * i), single(translations + 2 * i + 1)];
        if (left !== void 0) {
          [u, v] = turnedForms(u, v, -cut.jump[h]);
          addTo(u, shiftU, 1);
          addTo(v, shiftV, 1);
          turned2 -= cut.jump[h];
        } else {
          const jump = cut.jump[mesh.opposite[h]];
          [u, v] = turnedForms(addTo(u, shiftU, -1), addTo(v, shiftV, -1), jump);
          turned2 += jump;
        }
      }
      if (mod4(turned2) !== 0) return void 0;
      return arm % 2 === 0 ? { along: u, across: v } : { along: v, across: u };
    });
  }
  /** Along a feature edge one coordinate stays, and is whole. @returns forms that must be whole */
  holdFeatures(solver) {
    const { mesh, cut, frames } = this;
    const wholeForms = [];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (!mesh.feature[h] || mesh.opposite[h] > h) continue;
      const t = Math.floor(h / 3);
      const along = Math.round((frames.angle[h] - cut.theta[t]) / (Math.PI / 2));
      const kept = mod4(along) % 2 === 0 ? 1 : 0;
      const a2 = 2 * cut.copy[h] + kept;
      const b = 2 * cut.copy[after(h)] + kept;
      solver.require(addTo(single(a2), single(b), -1));
      wholeForms.push(single(a2), single(b));
    }
    return wholeForms;
  }
  numberUnknowns(solver, wholeForms, translations) {
    const { cut } = this;
    const isWhole = /* @__PURE__ */ new Set();
    for (const form of wholeForms) for (const k of solver.expand(form).keys()) isWhole.add(k);
    const total = translations + 2 * cut.chains.length;
    for (let k = translations; k < total; k++) if (!solver.isGiven(k)) isWhole.add(k);
    const number = new Int32Array(total).fill(-1);
    let count = 0;
    for (let k = 0; k < total; k++) if (!solver.isGiven(k) && !isWhole.has(k)) number[k] = count++;
    this.whole = 0;
    for (let k = 0; k < total; k++)
      if (!solver.isGiven(k) && isWhole.has(k)) {
        number[k] = count++;
        this.whole++;
      }
    this.unknowns = count;
    const flat = (k) => {
      const form = solver.isGiven(k) ? solver.expand(single(k)) : single(k);
      return [Int32Array.from(form.keys(), (u) => number[u]), Int8Array.from(form.values())];
    };
    for (let c = 0; c < cut.copies; c++) {
      this.formU.push(flat(2 * c));
      this.formV.push(flat(2 * c + 1));
    }
    return number;
  }
  /** Normal equations of sum over edges of cot / 2 ((u_j - u_i) - e . d)^2, which is the area integral of |grad u - d|^2. */
  assemble() {
    const { mesh, frames, cut, unknowns, whole } = this;
    const firstWhole = unknowns - whole;
    const dense = new Float64Array(whole * whole);
    const builder = new SymmetricBuilder(unknowns, 40 * mesh.triangles);
    this.right = new Float64Array(unknowns);
    const edge = /* @__PURE__ */ new Map();
    for (let t = 0; t < mesh.triangles; t++)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const weight = this.stiffness[t] * Math.max(0.02, halfCot(mesh, frames, h));
        const length2 = Math.sqrt(mesh.edgeLength2(h)) / this.sizeFactor[t];
        const angle = frames.angle[h] - cut.theta[t];
        const [acrossU, acrossV] = [this.narrow?.[2 * t] ?? 1, this.narrow?.[2 * t + 1] ?? 1];
        for (const [forms, wanted] of [
          [this.formU, (length2 * Math.cos(angle)) / acrossU],
          [this.formV, (length2 * Math.sin(angle)) / acrossV]
        ]) {
          edge.clear();
          collect(edge, forms[cut.copy[after(h)]], 1);
          collect(edge, forms[cut.copy[h]], -1);
          const entries = [...edge];
          for (let i = 0; i < entries.length; i++) {
            const [a2, ca] = entries[i];
            this.right[a2] += weight * ca * wanted;
            for (let j = i; j < entries.length; j++) {
              const [b, cb] = entries[j];
              if (a2 >= firstWhole && b >= firstWhole)
                dense[Math.max(a2, b) * whole - firstWhole * whole + Math.min(a2, b) - firstWhole] += weight * ca * cb;
              else builder.add(a2, b, weight * ca * cb);
            }
          }
        }
      }
    for (let k = 0; k < unknowns; k++) builder.add(k, k, 1e-7);
    for (let i = 0; i < whole; i++) for (let j = 0; j <= i; j++) builder.add(firstWhole + i, firstWhole + j, dense[i * whole + j]);
    this.factorise(builder.done());
  }
  factorise(matrix) {
    const order = nestedDissection(matrix, this.whole);
    this.factor = new Cholesky(matrix, order);
    this.reduced = this.factor.forward(this.right);
    this.rounding = new WholeRounding(this.factor.trailing(this.whole), this.whole);
  }
  /** Makes some triangles stiffer (Bommes and others 2009) and computes the factor anew. */
  stiffen(factors) {
    for (let t = 0; t < factors.length; t++) this.stiffness[t] *= factors[t];
    this.assemble();
  }
  /**
   * Rounds for quads of the given size and solves for the rest.
   * @param size quad edge length, in the mesh's unit
   * @param near quads by which rings may miss themselves that are made to close
   * @returns values of the unknowns, for `coordinates`
   */
  solve(size, near = 0) {
    const { unknowns, whole } = this;
    const y = this.reduced.map((c) => c / size);
    y.set(this.rounding.round(y.subarray(unknowns - whole), this.firstWishes(), this.ringSums, near), unknowns - whole);
    const x = this.factor.backward(y, unknowns - whole);
    for (let k = 0; k < unknowns - whole; k++) x[k] = offHalves(Math.round(x[k] / GRID) * GRID);
    return x;
  }
  /** Pins close, and have their counts, before anything else is rounded. */
  firstWishes() {
    return this.pinSums.flatMap(({ across, along }, i) => {
      const { count } = this.pins[i];
      return [...(across ? [{ sum: across, size: 0 }] : []), ...(along && count > 0 ? [{ sum: along, size: count }] : [])];
    });
  }
  /** Quads along each pin in a solution; nothing where its way turns, or does not close. */
  pinCounts(x) {
    const wholes = x.subarray(this.unknowns - this.whole);
    return this.pinSums.map(({ across, along }) =>
      along && (!across || valueOfSum(across, wholes) === 0) ? Math.abs(valueOfSum(along, wholes)) : void 0
    );
  }
  /** u and v by half-edge start: multiples of GRID, exact across cuts. */
  coordinates(x) {
    const { mesh, cut } = this;
    const copyU = this.formU.map((f) => valueOf(f, x));
    const copyV = this.formV.map((f) => valueOf(f, x));
    const uv = new Float64Array(6 * mesh.triangles);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      uv[2 * h] = copyU[cut.copy[h]];
      uv[2 * h + 1] = copyV[cut.copy[h]];
    }
    return uv;
  }
  /**
   * Moves single unknowns so that triangles turned over in the map come right, each to where the worst triangle round it
   * is best (a concave function of one number). Changes `x`. @returns triangles that are still turned over
   */
  untangle(x, size, sweeps = 24) {
    const { mesh, frames, unknowns, whole } = this;
    const free = unknowns - whole;
    const users = this.trianglesOf(free);
    const wanted = (t) => (2 * frames.area[t]) / (size * this.sizeFactor[t]) ** 2;
    const worst = (triangles) => {
      let least = Infinity;
      for (const t of triangles) least = Math.min(least, this.areaOf(t, x) / wanted(t));
      return least;
    };
    let bad = [];
    let [fewest, since] = [Infinity, 0];
    for (let sweep = 0; sweep <= sweeps; sweep++) {
      bad = [];
      for (let t = 0; t < mesh.triangles; t++) if (this.areaOf(t, x) <= 0) bad.push(t);
      if (bad.length < fewest) [fewest, since] = [bad.length, 0];
      else since++;
      if (bad.length === 0 || sweep === sweeps || since > PATIENCE) break;
      const movable = /* @__PURE__ */ new Set();
      for (const t of bad) for (const k of this.unknownsOf(t, free)) movable.add(k);
      if (sweep % 3 === 2) for (const k of [...movable]) for (const t of users[k]) for (const m of this.unknownsOf(t, free)) movable.add(m);
      for (const k of movable) {
        let low = x[k] - 1.5;
        let high = x[k] + 1.5;
        const before2 = x[k];
        const start = worst(users[k]);
        for (let i = 0; i < 20; i++) {
          const a2 = low + (high - low) / 3;
          const b = high - (high - low) / 3;
          x[k] = a2;
          const atA = worst(users[k]);
          x[k] = b;
          if (atA < worst(users[k])) low = a2;
          else high = b;
        }
        x[k] = offHalves(Math.round((low + high) / 2 / GRID) * GRID);
        if (worst(users[k]) <= start) x[k] = before2;
      }
    }
    return bad.length;
  }
  unknownsOf(t, free) {
    const list = [];
    for (let h = 3 * t; h < 3 * t + 3; h++)
      for (const forms of [this.formU, this.formV]) for (const k of forms[this.cut.copy[h]][0]) if (k < free) list.push(k);
    return list;
  }
  trianglesOf(free) {
    if (this.users) return this.users;
    const users = Array.from({ length: free }, () => []);
    for (let t = 0; t < this.mesh.triangles; t++) for (const k of new Set(this.unknownsOf(t, free))) users[k].push(t);
    return (this.users = users);
  }
  areaOf(t, x) {
    const { copy } = this.cut;
    const [a2, b, c] = [copy[3 * t], copy[3 * t + 1], copy[3 * t + 2]];
    const u = valueOf(this.formU[a2], x);
    const v = valueOf(this.formV[a2], x);
    return (valueOf(this.formU[b], x) - u) * (valueOf(this.formV[c], x) - v) - (valueOf(this.formV[b], x) - v) * (valueOf(this.formU[c], x) - u);
  }
};
var PATIENCE = 9;
function offHalves(x) {
  return x - Math.floor(x) === 0.5 ? x + GRID : x;
}
function valueOf([index, coefficient], x) {
  let sum = 0;
  for (let i = 0; i < index.length; i++) sum += coefficient[i] * x[index[i]];
  return sum;
}
function collect(sum, [index, coefficient], factor) {
  for (let i = 0; i < index.length; i++) {
    const total = (sum.get(index[i]) ?? 0) + factor * coefficient[i];
    if (total === 0) sum.delete(index[i]);
    else sum.set(index[i], total);
  }
}
function halfCot(mesh, frames, h) {
  const p = mesh.positions;
  const c = 3 * mesh.corner[before(h)];
  const a2 = 3 * mesh.corner[h];
  const b = 3 * mesh.corner[after(h)];
  const dot3 = (p[a2] - p[c]) * (p[b] - p[c]) + (p[a2 + 1] - p[c + 1]) * (p[b + 1] - p[c + 1]) + (p[a2 + 2] - p[c + 2]) * (p[b + 2] - p[c + 2]);
  return dot3 / (4 * frames.area[Math.floor(h / 3)] + 1e-300);
}
var offWhole = (x) => Math.abs(x - Math.round(x));
var WholeRounding = class {
  /** @param trailing lower factor L of the Schur complement S = L Lt, row by row */
  constructor(trailing, count) {
    this.count = count;
    const inverse = new Float64Array(count * count);
    const row = new Float64Array(count);
    for (let i = 0; i < count; i++) {
      row.fill(0);
      for (let k = 0; k < i; k++) {
        const l = trailing[i * count + k];
        if (l !== 0) for (let j = 0; j <= k; j++) row[j] -= l * inverse[k * count + j];
      }
      for (let j = 0; j < i; j++) inverse[i * count + j] = row[j] / trailing[i * count + i];
      inverse[i * count + i] = 1 / trailing[i * count + i];
    }
    const covariance = new Float64Array(count * count);
    for (let k = 0; k < count; k++)
      for (let i = 0; i <= k; i++) {
        const a2 = inverse[k * count + i];
        if (a2 !== 0) for (let j = 0; j <= k; j++) covariance[i * count + j] += a2 * inverse[k * count + j];
      }
    this.inverse = inverse;
    this.covariance = covariance;
  }
  count;
  inverse;
  covariance;
  /**
   * @param y L^-1 times the right-hand side
   * @param first sums of unknowns that get their size before all else
   * @param nothing sums that are made nothing then, one after the other
   * @param near where they come so near it
   */
  round(y, first, nothing, near) {
    const { count, inverse } = this;
    const x = new Float64Array(count);
    for (let k = 0; k < count; k++) for (let i = 0; i <= k; i++) x[i] += inverse[k * count + i] * y[k];
    const covariance = this.covariance.slice();
    for (const { sum, size } of first) this.condition(sum, size * (valueOfSum(sum, x) < 0 ? -1 : 1), x, covariance);
    this.makeNothing(nothing, near, x, covariance);
    const at = Int32Array.from({ length: count }, (_, k) => k);
    for (let open = count; open > 0; open--) {
      let next = 0;
      for (let k = 1; k < open; k++) if (offWhole(x[at[k]]) < offWhole(x[at[next]])) next = k;
      const last = open - 1;
      swapSymmetric(covariance, count, open, next, last);
      const fixed = at[next];
      at[next] = at[last];
      const step = Math.round(x[fixed]) - x[fixed];
      x[fixed] = Math.round(x[fixed]);
      const row = last * count;
      const variance = covariance[row + last];
      if (variance < DECIDED) continue;
      for (let i = 0; i < last; i++) {
        const share = covariance[row + i] / variance;
        if (share === 0) continue;
        x[at[i]] += share * step;
        for (let j = 0, to = i * count; j <= i; j++) covariance[to + j] -= share * covariance[row + j];
      }
    }
    return x;
  }
  /** Conditions the unknowns on sums that are to be nothing, the nearest first. */
  makeNothing(sums, near, x, covariance) {
    const open = new Set(sums);
    while (open.size > 0) {
      let [next, least] = [void 0, near];
      for (const sum of open) {
        const off = Math.abs(valueOfSum(sum, x));
        if (off < least) [next, least] = [sum, off];
      }
      if (!next) return;
      open.delete(next);
      this.condition(next, 0, x, covariance);
    }
  }
  /** The unknowns' means and covariance once a sum has a value; nothing changes where what was fixed before decides it. */
  condition(sum, value, x, covariance) {
    const { count } = this;
    const share = new Float64Array(count);
    for (const [k, c] of sum) for (let i = 0; i < count; i++) share[i] += c * (k <= i ? covariance[i * count + k] : covariance[k * count + i]);
    const variance = sum.reduce((total, [k, c]) => total + c * share[k], 0);
    if (variance < DECIDED) return;
    const step = (value - valueOfSum(sum, x)) / variance;
    for (let i = 0; i < count; i++) {
      if (share[i] === 0) continue;
      x[i] += share[i] * step;
      const own = share[i] / variance;
      for (let j = 0, to = i * count; j <= i; j++) covariance[to + j] -= own * share[j];
    }
  }
};
var valueOfSum = (sum, x) => {
  let value = 0;
  for (const [k, c] of sum) value += c * x[k];
  return value;
};
var DECIDED = 1e-7;
function swapSymmetric(m, count, size, a2, b) {
  if (a2 === b) return;
  const exchange = (i, j) => {
    const kept = m[i];
    m[i] = m[j];
    m[j] = kept;
  };
  for (let k = 0; k < a2; k++) exchange(a2 * count + k, b * count + k);
  for (let k = a2 + 1; k < size - 1; k++) exchange(k * count + a2, b * count + k);
  exchange(a2 * count + a2, b * count + b);
}
function mapAreas(uv) {
  const areas = new Float64Array(uv.length / 6);
  for (let t = 0; t < areas.length; t++) {
    const i = 6 * t;
    areas[t] = (uv[i + 2] - uv[i]) * (uv[i + 5] - uv[i + 1]) - (uv[i + 3] - uv[i + 1]) * (uv[i + 4] - uv[i]);
  }
  return areas;
}

// core/src/autoquad/quad-extraction.ts
var DIRECTIONS = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1]
];
var CORNERS = [
  [-0.5, -0.5],
  [0.5, -0.5],
  [0.5, 0.5],
  [-0.5, 0.5]
];
var QuadExtraction = class {
  constructor(mesh, cut, uv) {
    this.mesh = mesh;
    this.cut = cut;
    this.uv = uv;
    this.areas = mapAreas(uv);
  }
  mesh;
  cut;
  uv;
  areas;
  /** cells by triangle */
  cellsIn = /* @__PURE__ */ new Map();
  cellTriangle = [];
  cellU = [];
  cellV = [];
  // where a walk ended
  endTriangle = -1;
  endU = 0;
  endV = 0;
  endTurn = 0;
  hitBorder = false;
  run() {
    this.findCells();
    const { neighbour, torn } = this.linkCells();
    return this.assemble(neighbour, torn);
  }
  findCells() {
    const { uv, mesh } = this;
    for (let t = 0; t < mesh.triangles; t++) {
      if (this.areas[t] <= 0) continue;
      const i = 6 * t;
      const [lowU, highU] = [Math.min(uv[i], uv[i + 2], uv[i + 4]), Math.max(uv[i], uv[i + 2], uv[i + 4])];
      const [lowV, highV] = [Math.min(uv[i + 1], uv[i + 3], uv[i + 5]), Math.max(uv[i + 1], uv[i + 3], uv[i + 5])];
      for (let u = Math.ceil(lowU - 0.5) + 0.5; u <= highU; u++)
        for (let v = Math.ceil(lowV - 0.5) + 0.5; v <= highV; v++) if (this.holds(t, u, v)) this.addCell(t, u, v);
    }
  }
  addCell(t, u, v) {
    const list = this.cellsIn.get(t);
    if (list) list.push(this.cellTriangle.length);
    else this.cellsIn.set(t, [this.cellTriangle.length]);
    this.cellTriangle.push(t);
    this.cellU.push(u);
    this.cellV.push(v);
  }
  /** More than 0: (u, v) lies left of half-edge h. */
  side(h, u, v) {
    const { uv } = this;
    const n = after(h);
    return (uv[2 * n] - uv[2 * h]) * (v - uv[2 * h + 1]) - (uv[2 * n + 1] - uv[2 * h + 1]) * (u - uv[2 * h]);
  }
  /** Whether a point belongs to triangle t; points on an edge belong to the side with the smaller half-edge. */
  holds(t, u, v) {
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const s = this.side(h, u, v);
      const g = this.mesh.opposite[h];
      if (s < 0 || (s === 0 && g >= 0 && g < h && this.areas[Math.floor(g / 3)] > 0)) return false;
    }
    return true;
  }
  /**
   * Walks straight from (u, v) in triangle t to (toU, toV). @returns whether it arrived; the place, in the coordinates of
   * the triangle it ended in, is left in `end...`
   */
  walk(t, u, v, toU, toV) {
    let turn = 0;
    this.hitBorder = false;
    for (let step = 0; step < 500; step++) {
      if (this.areas[t] <= 0) return false;
      let exit = -1;
      let inside = true;
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        if (this.side(h, toU, toV) >= 0) continue;
        inside = false;
        if (this.offLine(h, u, v, toU, toV) < 0 && this.offLine(after(h), u, v, toU, toV) > 0) exit = h;
      }
      if (inside) {
        this.endTriangle = t;
        this.endU = toU;
        this.endV = toV;
        this.endTurn = turn;
        return true;
      }
      if (exit < 0) return false;
      const g = this.mesh.opposite[exit];
      if (g < 0) {
        this.hitBorder = true;
        return false;
      }
      const jump = this.cut.jump[exit];
      const [shiftU, shiftV] = this.shift(exit, g, jump);
      [u, v] = turnBy(u, v, -jump);
      [toU, toV] = turnBy(toU, toV, -jump);
      u += shiftU;
      v += shiftV;
      toU += shiftU;
      toV += shiftV;
      turn = mod4(turn - jump);
      t = Math.floor(g / 3);
    }
    return false;
  }
  /** Translation across half-edge h to g, once turned. */
  shift(h, g, jump) {
    const { uv } = this;
    const [u, v] = turnBy(uv[2 * h], uv[2 * h + 1], -jump);
    const n = after(g);
    return [uv[2 * n] - u, uv[2 * n + 1] - v];
  }
  /** More than 0: the start of h lies left of the line from (u, v) to (toU, toV). */
  offLine(h, u, v, toU, toV) {
    return (toU - u) * (this.uv[2 * h + 1] - v) - (toV - v) * (this.uv[2 * h] - u);
  }
  /** The cell with its centre where the last walk ended, looked for also across edges the centre lies on. */
  cellAtEnd() {
    const find = (t, u, v) => this.cellsIn.get(t)?.find((c) => this.cellU[c] === u && this.cellV[c] === v) ?? -1;
    const here = find(this.endTriangle, this.endU, this.endV);
    if (here >= 0) return here;
    for (let h = 3 * this.endTriangle; h < 3 * this.endTriangle + 3; h++) {
      const g = this.mesh.opposite[h];
      if (g < 0 || this.side(h, this.endU, this.endV) !== 0) continue;
      const jump = this.cut.jump[h];
      const [shiftU, shiftV] = this.shift(h, g, jump);
      const [u, v] = turnBy(this.endU, this.endV, -jump);
      const across = find(Math.floor(g / 3), u + shiftU, v + shiftV);
      if (across >= 0) {
        this.endTurn = mod4(this.endTurn - jump);
        return across;
      }
    }
    return -1;
  }
  /** neighbour[4 c + d]: 4 times the cell across side d of cell c, plus its side; -1 border, -2 torn. */
  linkCells() {
    const cells = this.cellTriangle.length;
    const neighbour = new Int32Array(4 * cells).fill(-2);
    for (let c = 0; c < cells; c++)
      for (let d = 0; d < 4; d++) {
        const [u, v] = [this.cellU[c], this.cellV[c]];
        if (this.walk(this.cellTriangle[c], u, v, u + DIRECTIONS[d][0], v + DIRECTIONS[d][1])) {
          const other = this.cellAtEnd();
          if (other >= 0) neighbour[4 * c + d] = 4 * other + mod4(d + this.endTurn + 2);
        } else if (this.hitBorder) neighbour[4 * c + d] = -1;
      }
    let torn = 0;
    for (let s = 0; s < neighbour.length; s++) {
      if (neighbour[s] >= 0 && neighbour[neighbour[s]] !== s) neighbour[s] = -2;
      if (neighbour[s] === -2) torn++;
    }
    return { neighbour, torn };
  }
  assemble(neighbour, tornSides) {
    const cells = this.cellTriangle.length;
    const parent = Int32Array.from({ length: 4 * cells }, (_, i) => i);
    const root = (i) => {
      while (parent[i] !== i) i = parent[i] = parent[parent[i]];
      return i;
    };
    for (let s = 0; s < 4 * cells; s++) {
      const o = neighbour[s];
      if (o < 0) continue;
      const [c, d, e, f] = [s >> 2, s & 3, o >> 2, o & 3];
      parent[root(4 * c + ((d + 1) & 3))] = root(4 * e + ((f + 2) & 3));
      parent[root(4 * c + ((d + 2) & 3))] = root(4 * e + ((f + 1) & 3));
    }
    const vertexOf = new Int32Array(4 * cells).fill(-1);
    const quads = new Int32Array(4 * cells);
    let vertices = 0;
    for (let i = 0; i < 4 * cells; i++) {
      const r = root(i);
      if (vertexOf[r] < 0) vertexOf[r] = vertices++;
      quads[i] = vertexOf[r];
    }
    return { quads, tornSides, ...this.placeVertices(quads, vertices) };
  }
  /** Each vertex goes to the mean of where its cells say it is; one on a feature only to where it is seen there. */
  placeVertices(quads, vertices) {
    const positions = new Float64Array(3 * vertices);
    const count = new Int32Array(vertices);
    const hold = new Uint8Array(vertices);
    const at = [0, 0, 0];
    for (let i = 0; i < quads.length; i++) {
      const kind = this.placeCorner(i >> 2, i & 3, at);
      const v = quads[i];
      if (kind < hold[v]) continue;
      if (kind > hold[v]) {
        hold[v] = kind;
        count[v] = 0;
        positions.fill(0, 3 * v, 3 * v + 3);
      }
      count[v]++;
      for (let k = 0; k < 3; k++) positions[3 * v + k] += (at[k] - positions[3 * v + k]) / count[v];
    }
    return { positions, hold };
  }
  /** Finds the place of corner k of a cell in space. @returns its kind, as in `hold` */
  placeCorner(c, k, at) {
    const [u, v] = [this.cellU[c], this.cellV[c]];
    const [du, dv] = CORNERS[k];
    const arrived = this.walk(this.cellTriangle[c], u, v, u + du * (1 - 2 ** -9), v + dv * (1 - 2 ** -10));
    if (!arrived) {
      this.pointIn(this.cellTriangle[c], u, v, at);
      return 0;
    }
    const [offU, offV] = turnBy(du * 2 ** -9, dv * 2 ** -10, this.endTurn);
    return this.pointIn(this.endTriangle, this.endU + offU, this.endV + offV, at);
  }
  pointIn(t, u, v, at) {
    const { mesh, uv } = this;
    const p = mesh.positions;
    const whole = this.areas[t];
    let b = this.side(3 * t + 2, u, v) / whole;
    let c = this.side(3 * t, u, v) / whole;
    b = Math.min(1, Math.max(0, b));
    c = Math.min(1 - b, Math.max(0, c));
    for (let k = 0; k < 3; k++)
      at[k] = (1 - b - c) * p[3 * mesh.corner[3 * t] + k] + b * p[3 * mesh.corner[3 * t + 1] + k] + c * p[3 * mesh.corner[3 * t + 2] + k];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (uv[2 * h] !== u || uv[2 * h + 1] !== v) continue;
      for (let k = 0; k < 3; k++) at[k] = p[3 * mesh.corner[h] + k];
      return mesh.feature[h] || mesh.feature[h % 3 === 0 ? h + 2 : h - 1] ? 2 : 0;
    }
    for (let h = 3 * t; h < 3 * t + 3; h++) if (mesh.feature[h] && this.side(h, u, v) === 0) return 1;
    return 0;
  }
};
function turnBy(u, v, quarters) {
  switch (mod4(quarters)) {
    case 1:
      return [-v, u];
    case 2:
      return [-u, -v];
    case 3:
      return [v, -u];
    default:
      return [u, v];
  }
}

// core/src/autoquad/reach-tips.ts
var MOST_POINTS = 6e4;
var MISSED = 0.5;
var ROUNDS2 = 2;
function reachTips(list, surface, size) {
  const { positions, quads, hold } = list;
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const step = Math.max(1, Math.floor(surface.length / 3 / MOST_POINTS));
  const found = surfacePoint();
  const place = (v) => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const all = /* @__PURE__ */ new Set();
  for (let round = 0; round < ROUNDS2; round++) {
    const mesh = uniformMesh(positions, quads, 4);
    const { triangles } = triangulate(mesh);
    const bvh = new TriangleBvh(positions, triangles);
    const missed = [];
    for (let v = 0; v < surface.length / 3; v += step) {
      const at = [surface[3 * v], surface[3 * v + 1], surface[3 * v + 2]];
      const off = Math.sqrt(bvh.closest(...at, found).distance2);
      if (off > MISSED * size) missed.push({ at, off, triangle: found.triangle });
    }
    missed.sort((a2, b) => b.off - a2.off);
    const moved = /* @__PURE__ */ new Set();
    for (const { at, triangle } of missed) {
      const corners = [0, 1, 2].map((k) => triangles[3 * triangle + k]);
      if (corners.some((v2) => moved.has(v2) || cage.spokes(v2).some((h) => moved.has(cage.target(h))))) continue;
      const v = corners.reduce((a2, b) => (length(subtract(place(b), at)) < length(subtract(place(a2), at)) ? b : a2));
      if (hold[v] !== 0 || cage.isBorderVertex(v) || length(subtract(place(v), at)) > size) continue;
      positions.set(at, 3 * v);
      moved.add(v);
      all.add(v);
    }
    if (moved.size === 0) break;
  }
  return all;
}

// core/src/autoquad/sizing.ts
var BEND = 0.75;
var FINEST = 0.4;
function smoothNormals(normals, mesh, radius, meanEdge) {
  const rounds = Math.min(30, Math.max(2, Math.ceil((radius / meanEdge) ** 2)));
  let now = normals;
  for (let i = 0; i < rounds; i++) {
    const next = now.slice();
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const a2 = 3 * mesh.corner[h];
      const b = 3 * mesh.corner[h % 3 === 2 ? h - 2 : h + 1];
      for (let k = 0; k < 3; k++) {
        next[a2 + k] += 0.5 * now[b + k];
        next[b + k] += 0.5 * now[a2 + k];
      }
    }
    for (let v = 0; v < next.length; v += 3) {
      const length2 = Math.sqrt(next[v] ** 2 + next[v + 1] ** 2 + next[v + 2] ** 2) || 1;
      next[v] /= length2;
      next[v + 1] /= length2;
      next[v + 2] /= length2;
    }
    now = next;
  }
  return now;
}
function workingSizes(mesh, normals, size) {
  const p = mesh.positions;
  const bend = new Float64Array(mesh.vertices);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const v = mesh.corner[h];
    const w = mesh.corner[h % 3 === 2 ? h - 2 : h + 1];
    const a2 = 3 * v;
    const b = 3 * w;
    const length2 = Math.sqrt(mesh.edgeLength2(h));
    if (length2 === 0) continue;
    const turn = Math.hypot(normals[a2] - normals[b], normals[a2 + 1] - normals[b + 1], normals[a2 + 2] - normals[b + 2]) / length2;
    if (turn > bend[v]) bend[v] = turn;
    if (turn > bend[w]) bend[w] = turn;
  }
  const sizes = bend.map((k) => Math.min(size, Math.max(FINEST * size, k > 0 ? BEND / k : size)));
  for (let round = 0; round < 6; round++)
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const a2 = mesh.corner[h];
      const b = mesh.corner[h % 3 === 2 ? h - 2 : h + 1];
      const slack = 0.4 * Math.sqrt((p[3 * a2] - p[3 * b]) ** 2 + (p[3 * a2 + 1] - p[3 * b + 1]) ** 2 + (p[3 * a2 + 2] - p[3 * b + 2]) ** 2);
      if (sizes[a2] > sizes[b] + slack) sizes[a2] = sizes[b] + slack;
      if (sizes[b] > sizes[a2] + slack) sizes[b] = sizes[a2] + slack;
    }
  return sizes;
}

// core/src/autoquad/straighten-quads.ts
var POOR2 = 0.35;
var ROUNDS3 = 16;
function straightenQuads(list, surface, normals, lines) {
  const { positions, quads, hold } = list;
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const at = Array.from({ length: positions.length / 3 }, () => []);
  for (let i = 0; i < quads.length; i++) at[quads[i]].push(i >> 2);
  const place = (v) => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const cornersOf = (q) => [0, 1, 2, 3].map((k) => place(quads[4 * q + k]));
  const found = surfacePoint();
  const closest = (p, normal) => {
    const alike = normal && ((t2) => dot(normal, [normals[3 * t2], normals[3 * t2 + 1], normals[3 * t2 + 2]]) > 0.2);
    surface.closest(...p, found, Infinity, alike);
    if (found.triangle < 0) surface.closest(...p, found);
    const t = 3 * found.triangle;
    return { at: [found.x, found.y, found.z], normal: [normals[t], normals[t + 1], normals[t + 2]] };
  };
  const worstAt = (v, normal) => Math.min(...at[v].map((q) => scaledJacobianSeen(cornersOf(q), normal)));
  const waysOf = (v, normal, reach) => {
    const own = place(v);
    const onBorder = cage.isBorderVertex(v);
    if (hold[v] === 0 && !onBorder) {
      const { u, v: w } = planeAcross(own, normal);
      return Array.from({ length: 8 }, (_, k) => {
        const [c, s] = [Math.cos((k * Math.PI) / 4), Math.sin((k * Math.PI) / 4)];
        return closest(add(own, add(scaled(u, reach * c), scaled(w, reach * s))), normal);
      });
    }
    const line = onBorder ? lines.border : lines.sharp;
    const along = cage.spokes(v).filter((h) => (onBorder ? cage.isBorderEdge(h >> 1) : hold[cage.target(h)] > 0));
    if (!line || along.length !== 2) return [];
    return along.map((h) => {
      line.closest(...add(own, scaled(unit(subtract(place(cage.target(h)), own)), reach)), found);
      return { at: [found.x, found.y, found.z], normal };
    });
  };
  let poor = /* @__PURE__ */ new Set();
  for (let q = 0; q < quads.length / 4; q++) {
    const corners = cornersOf(q);
    const seen = closest(corners.reduce((sum, c) => add(sum, scaled(c, 0.25)), [0, 0, 0])).normal;
    if (scaledJacobianSeen(corners, seen) < POOR2) poor.add(q);
  }
  for (let round = 0; round < ROUNDS3 && poor.size > 0; round++) {
    const near = new Set([...poor].flatMap((q) => [0, 1, 2, 3].map((k) => quads[4 * q + k])));
    const touched = /* @__PURE__ */ new Set();
    for (const v of near) {
      if (hold[v] === 2) continue;
      const own = place(v);
      const { normal } = closest(own);
      const before2 = worstAt(v, normal);
      if (before2 >= POOR2) continue;
      const reach = 0.35 * 0.85 ** round * meanSpoke(v, at[v], quads, place);
      let [best, most] = [own, before2 + 1e-3];
      for (const to of waysOf(v, normal, reach)) {
        positions.set(to.at, 3 * v);
        const now = worstAt(v, to.normal);
        if (now > most) [best, most] = [to.at, now];
      }
      positions.set(best, 3 * v);
      if (best !== own) for (const q of at[v]) touched.add(q);
    }
    if (touched.size === 0) break;
    const next = round < 6 ? [...poor, ...touched] : [...touched];
    poor = new Set(next.filter((q) => scaledJacobianSeen(cornersOf(q), closest(cornersOf(q)[0]).normal) < POOR2));
  }
}
function meanSpoke(v, around, quads, place) {
  const ends = around.map((q) => {
    const k = [0, 1, 2, 3].find((c) => quads[4 * q + c] === v);
    return quads[4 * q + ((k + 1) & 3)];
  });
  return ends.reduce((sum, w) => sum + length(subtract(place(w), place(v))), 0) / (ends.length || 1);
}
function scaledJacobianSeen(p, normal) {
  const area = areaVector(p);
  const own = unit(dot(area, normal) < 0 ? scaled(area, -1) : area);
  return leastSine(p, own);
}

// core/src/autoquad/lay-over.ts
var COUNT_MET = 0.015;
var MISSED_COUNT = 100;
var TRIED_SIZES = [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7, 8, -8].map((k) => 1 + 6e-3 * k);
var MOST_READ = 3;
var NEARS = [0.75, 4];
function layOver(surface, report) {
  const pull = pullOf(surface.options);
  let failure = '';
  for (const [fineness, strength, beside] of [
    [1, pull, [1, 0]],
    [0.7, pull, [0]],
    [0.7, 0, [0]]
  ]) {
    const attempt = new Attempt(surface, fineness, strength, beside, report);
    const quads = attempt.run();
    if (quads) {
      report.phase('Evening out', 0.85);
      const settle = (rounds) => settleQuads(quads, surface.bvh, surface.normals, surface.lines, rounds, surface.shareAt);
      settle(12);
      const tips = reachTips(quads, surface.dense.positions, surface.size);
      for (const v of tips) quads.hold[v] = 2;
      settle(5);
      for (const v of tips) quads.hold[v] = 0;
      straightenQuads(quads, surface.bvh, surface.normals, surface.lines);
      return { quads, notes: attempt.notes };
    }
    failure = attempt.failure;
  }
  return { failure };
}
var Surface = class {
  /** @param target quads */
  constructor(dense, mirrors, options, target, bvh) {
    this.dense = dense;
    this.options = options;
    this.target = target;
    const { positions, corner } = dense;
    dense.mirrors = mirrors;
    this.triangles = corner;
    this.bvh = bvh ?? new TriangleBvh(positions, corner);
    this.normals = triangleNormals(positions, corner);
    this.lines = featureLinesOf(dense);
    this.topology = topologyOf(dense);
    const area = sumOver(dense, (t) => dense.area(t));
    this.dabs = (options.sizes ?? []).map((dab) => ({ ...dab, at: onThisSide(dab.at, mirrors) }));
    const inSizes = this.dabs.length > 0 ? sumOver(dense, (t) => dense.area(t) / this.shareOf(dense, t) ** 2) : area;
    this.size = options.edgeSizes ? wantedSize(options, 1).size : Math.sqrt(inSizes / target);
    const { size } = this;
    this.guides = (options.guides ?? []).map((guide) => guideOnThisSide(guide, mirrors, size));
    const meanEdge = Math.sqrt((area / dense.triangles) * 2.3);
    this.smoothed = smoothNormals(vertexNormals(dense), dense, 0.35 * size, meanEdge);
  }
  dense;
  options;
  target;
  triangles;
  bvh;
  normals;
  lines;
  topology;
  smoothed;
  /** quad edge length where no dab says otherwise */
  size;
  dabs;
  guides;
  /** How large quads are to be at a place, against `size`. */
  shareAt = (x, y, z) => sizeShare(this.dabs, x, y, z);
  /** The same in the middle of a triangle. */
  shareOf = (mesh, t) => (this.dabs.length > 0 ? this.shareAt(...mesh.centre(t)) : 1);
};
function sumOver(mesh, of) {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) sum += of(t);
  return sum;
}
function topologyOf(mesh) {
  let edges = 0;
  const borderNext = /* @__PURE__ */ new Map();
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (mesh.opposite[h] < 0) borderNext.set(mesh.corner[h], mesh.corner[after(h)]);
    if (mesh.opposite[h] < h) edges++;
  }
  let used = 0;
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0) used++;
  let borders = 0;
  while (borderNext.size > 0) {
    borders++;
    let v = borderNext.keys().next().value;
    for (let next = borderNext.get(v); next !== void 0; next = borderNext.get(v)) {
      borderNext.delete(v);
      v = next;
    }
  }
  return { euler: used - edges + mesh.triangles, borders };
}
var Attempt = class {
  constructor(surface, fineness, pull, beside, report) {
    this.surface = surface;
    this.fineness = fineness;
    this.pull = pull;
    this.beside = beside;
    this.report = report;
  }
  surface;
  fineness;
  pull;
  beside;
  report;
  failure = '';
  notes = [];
  run() {
    const { report } = this;
    const { mesh, frames, field, rings } = this.directions();
    const cut = cutOpen(mesh, field);
    report.phase('Map', 0.5);
    for (const beside of this.beside)
      try {
        const quads = this.mapAndExtract(mesh, frames, field, cut, rings, beside);
        if (quads) return quads;
      } catch (error) {
        if (!(error instanceof MapError)) throw error;
        this.failure = error.message;
      }
    return void 0;
  }
  /** The working mesh, its field of crosses, and closed guides on it. */
  directions() {
    const { report, surface } = this;
    report.phase('Working mesh', 0.05);
    const mesh = this.workingMesh();
    report.phase('Directions', 0.35);
    const frames = triangleFrames(mesh);
    const guided = surface.guides.length > 0 ? layGuides(mesh, frames, surface.guides, surface.size) : void 0;
    for (const g of guided?.lost ?? []) this.notes.push(`Guide ${g + 1} lies off the surface, or is too short: it was left out.`);
    const field = orientationField(mesh, frames, curvatureDirections(mesh, frames, surface.size), this.pull, guided?.field);
    openNarrowCorners(mesh, frames, field);
    return { mesh, frames, field, rings: guided?.rings ?? [] };
  }
  workingMesh() {
    const { dense, smoothed, size, bvh, triangles, dabs, shareAt } = this.surface;
    const sizes = workingSizes(dense, smoothed, size * this.fineness);
    const p = dense.positions;
    if (dabs.length > 0) for (let v = 0; v < sizes.length; v++) sizes[v] *= shareAt(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    const mesh = new WorkingMesh(dense.positions, triangles);
    mesh.feature.set(dense.feature);
    mesh.size.set(sizes);
    mesh.mirrors = dense.mirrors;
    const bySurface = new Float64Array(triangles.length / 3);
    for (let t = 0; t < bySurface.length; t++)
      bySurface[t] = (sizes[triangles[3 * t]] + sizes[triangles[3 * t + 1]] + sizes[triangles[3 * t + 2]]) / 3;
    return new Remesher(mesh, bvh, bySurface).run(5);
  }
  /** Of the roundings near the wanted count the one whose strips run best is taken; where the map folds too much it is made stiffer. */
  mapAndExtract(mesh, frames, field, cut, guided, beside) {
    const { surface, report } = this;
    const factors = this.sizeFactors(mesh);
    const size = (t) => factors[t] * surface.size;
    const rings = beside > 0 ? closedRings(mesh, frames, cut, size, beside) : [];
    const pins = guided.map((guide) => ({ ring: asRing(guide, frames, cut), count: guide.count }));
    const narrow = mesh.feature.includes(1) ? narrowParts(mesh, frames, cut, size) : void 0;
    const map = new SeamlessMap(mesh, frames, cut, field.index, factors, rings, pins, narrow);
    for (let round = 0; round < (beside > 0 ? 2 : 5); round++) {
      report.phase(round === 0 ? 'Rounding' : 'Unfolding', 0.65 + 0.03 * round);
      const tries = (rings.length > 0 ? NEARS : [0]).flatMap((near) => this.triedSizes(map, near).slice(0, MOST_READ));
      let best;
      const fewest = tries.reduce((least, t) => Math.min(least, t.folded), Infinity);
      for (const { size: edge, x, folded } of tries) {
        if (best && folded > 2 * fewest + 10) continue;
        if (folded > 0) map.untangle(x, edge);
        const quads = mended(new QuadExtraction(mesh, cut, map.coordinates(x)).run(), surface.topology);
        if (!quads) continue;
        const cost = this.costOf(quads) + folded / mesh.triangles;
        if (!best || cost < best.cost) best = { quads, cost, counts: map.pinCounts(x) };
      }
      if (best) {
        this.notes.push(...describePins(guided, best.counts));
        return best.quads;
      }
      this.failure = `the map folds over in ${tries[0].folded} places.`;
      map.stiffen(foldedNeighbourhood(mesh, mapAreas(map.coordinates(tries[0].x))));
    }
    return void 0;
  }
  /** What speaks against some quads: a count that is missed, strips that are long or run beside themselves, corners off right angles. */
  costOf({ positions, quads }) {
    const count = quads.length / 4;
    const off = this.surface.options.edgeSizes ? 0 : Math.abs(count / this.surface.target - 1);
    const { longest, spirals, mean: mean2, hundredth } = quadQuality(Cage.fromPolygons(uniformMesh(positions, quads, 4)));
    const missed = off > 2 * COUNT_MET ? MISSED_COUNT : 0;
    return missed + off / COUNT_MET + (4 * longest) / count + 0.1 * spirals + 20 * (1 - mean2) + 2 * (1 - hundredth);
  }
  /** Solutions for sizes round the wanted one: those that meet the count, fewest folds first, then the others. */
  triedSizes(map, near) {
    const { surface } = this;
    const free = surface.options.edgeSizes !== void 0;
    const tryOf = (size2) => {
      const x = map.solve(size2, near);
      let [folded, whole] = [0, 0];
      for (const a2 of mapAreas(map.coordinates(x))) {
        whole += a2;
        if (a2 <= 0) folded++;
      }
      return { size: size2, x, folded, count: whole / 2, off: free ? 0 : Math.abs(whole / 2 / surface.target - 1) };
    };
    let size = surface.size;
    if (!free) for (let i = 0; i < 3; i++) size *= Math.sqrt(tryOf(size).count / surface.target);
    const tries = TRIED_SIZES.map((factor) => tryOf(size * factor));
    const missed = (t) => Math.ceil(Math.max(0, t.off - COUNT_MET) / COUNT_MET);
    return tries.sort((a2, b) => missed(a2) - missed(b) || a2.folded - b.folded || a2.off - b.off);
  }
  /** Relative quad size by triangle: 1 everywhere, or between the sizes asked for by how tightly the surface bends. */
  sizeFactors(mesh) {
    const { edgeSizes } = this.surface.options;
    const factors = Float64Array.from({ length: mesh.triangles }, (_, t) => this.surface.shareOf(mesh, t));
    if (!edgeSizes || edgeSizes.finest === edgeSizes.coarsest) return factors;
    const normals = smoothNormals(vertexNormals(mesh), mesh, 1, 1);
    const sizes = workingSizes(mesh, normals, edgeSizes.coarsest * 2.5);
    for (let t = 0; t < mesh.triangles; t++) {
      const mean2 = (sizes[mesh.corner[3 * t]] + sizes[mesh.corner[3 * t + 1]] + sizes[mesh.corner[3 * t + 2]]) / 3 / 2.5;
      factors[t] *= Math.min(edgeSizes.coarsest, Math.max(edgeSizes.finest, mean2)) / this.surface.size;
    }
    return factors;
  }
};
function describePins(guides, counts) {
  return guides.flatMap(({ guide, count }, i) => {
    const got = counts[i];
    if (got === void 0) return [`Guide ${guide + 1} does not close: loops turn a corner inside it.`];
    if (count === 0) return [];
    if (got === count) return [`Guide ${guide + 1}: ${count} quads round it.`];
    const other = guides.findIndex((g, j) => j < i && g.count > 0 && g.count !== count && counts[j] === got);
    return [
      `Guide ${guide + 1} asks for ${count} quads round it and got ${got}${other >= 0 ? `: it contradicts guide ${guides[other].guide + 1}, which asks for ${guides[other].count} on the same way round` : ''}.`
    ];
  });
}
function foldedNeighbourhood(mesh, areas) {
  const factors = new Float64Array(areas.length).fill(1);
  for (let t = 0; t < areas.length; t++) {
    if (areas[t] > 0) continue;
    for (const h of [3 * t, 3 * t + 1, 3 * t + 2]) {
      const g = mesh.opposite[h];
      if (g >= 0) factors[Math.floor(g / 3)] = Math.max(factors[Math.floor(g / 3)], 1.6);
    }
    factors[t] = 2.5;
  }
  return factors;
}

// core/src/autoquad/sharp-creases.ts
var OFF = 0.2;
var ALONG = 0.8;
var STRAIGHT = Math.cos(Math.PI / 6);
function creaseSharp(mesh, held, surface, creased) {
  const sharp = linesOf(
    surface,
    creased.map(({ half }) => half)
  );
  if (!sharp) return mesh;
  const cage = Cage.fromPolygons(mesh);
  const found = surfacePoint();
  const { positions: p, triangles } = sharp;
  const end = (t, k) => [0, 1, 2].map((a2) => p[3 * triangles[3 * t + k] + a2]);
  const pairs = [];
  const sharpness = [];
  const ways = /* @__PURE__ */ new Map();
  for (const e of cage.edges()) {
    if (cage.isBorderEdge(e)) continue;
    const [v, w] = [cage.origin[2 * e], cage.target(2 * e)];
    if (held[v] === 0 || held[w] === 0) continue;
    const [a2, b] = [cage.position(v), cage.position(w)];
    const way = subtract(b, a2);
    const at = weightedSum([
      [0.5, a2],
      [0.5, b]
    ]);
    sharp.closest(...at, found);
    const own = unit(subtract(end(found.triangle, 1), end(found.triangle, 0)));
    if (Math.sqrt(found.distance2) > OFF * length(way) || Math.abs(dot(own, scaled(way, 1 / (length(way) || 1)))) < ALONG) continue;
    pairs.push(v, w);
    sharpness.push(creased[found.triangle].sharpness);
    for (const [x, outward] of [
      [v, way],
      [w, scaled(way, -1)]
    ])
      ways.set(x, [...(ways.get(x) ?? []), unit(outward)]);
  }
  if (pairs.length === 0) return mesh;
  const turns = (out) => out.length === 2 && -dot(out[0], out[1]) < STRAIGHT;
  const corners = [...ways.keys()].filter((v) => held[v] === 2 && turns(ways.get(v)));
  return {
    ...mesh,
    creaseEdges: Int32Array.from(pairs),
    creaseSharpness: Float64Array.from(sharpness),
    ...(corners.length > 0 && {
      cornerVertices: Int32Array.from(corners),
      cornerSharpness: new Float64Array(corners.length).fill(STAYS_SHARP)
    })
  };
}

// core/src/autoquad/auto-quads.ts
function autoQuads(mesh, options, report = silent) {
  report.phase('Preparing', 0);
  const input = prepared(mesh, options);
  const { notes, target, topology, mirrors } = input;
  const laid = (planes) => {
    const surface = partOf(input, planes, options);
    const result2 = layOver(surface, report);
    if ('failure' in result2) return result2;
    let whole = result2.quads;
    for (const mirror of [...planes].reverse()) whole = mirrored(whole, mirror, 0.25 * surface.size);
    if (planes.length > 0) whole = withoutDoublets(whole);
    const told2 = planes.map(describeMirror);
    return matches(whole, topology) ? { quads: whole, mirrors: planes, notes: [...told2, ...result2.notes] } : { failure: 'the halves do not join.' };
  };
  let result = laid(mirrors);
  if ('failure' in result && mirrors.length > 0) {
    notes.push('The surface is mirrored, but no quads were found for one half of it: it was laid whole.');
    result = laid([]);
  }
  if ('failure' in result)
    throw new AutoQuadsError(
      `No valid quads were found for ${target} quads: ${result.failure} Try more quads (thin parts need at least four round them), or another curvature pull.`
    );
  report.phase('Fitting', 0.93);
  const { mesh: laidMesh, told } = finished(result.quads, input, options, result.mirrors);
  report.phase('Done', 1);
  return { mesh: laidMesh, notes: [.../* @__PURE__ */ new Set([...notes, ...result.notes, told])] };
}
function finished(quads, input, options, mirrors) {
  const { dense, bvh } = input;
  const lines = featureLinesOf(dense);
  let mesh = uniformMesh(quads.positions, quads.quads, 4);
  if (options.creases ?? true) mesh = creaseSharp(mesh, quads.hold, dense, input.creased);
  if ((options.lies ?? 'smooth') === 'smooth') {
    const images = mirrors.map((mirror) => imagesIn(mirror, mesh.positions, 1e-6 * input.diagonal));
    fitLimit(mesh, bvh, triangleNormals(dense.positions, dense.corner), lines);
    mirrors.forEach((mirror, m) => mirrorExactly(mirror, mesh.positions, images[m]));
  }
  const off = (points) => {
    const { mean: mean2, most } = deviation(bvh, points);
    return `${mean2.toFixed(4)} mm in the mean and ${most.toFixed(3)} mm at most`;
  };
  const smooth = new Subdivision(mesh, { levels: 1, limit: true }).evaluate(mesh.positions);
  return { mesh, told: `Off the reference: the smooth surface by ${off(smooth)}, vertices by ${off(mesh.positions)}.` };
}
function partOf({ dense, target, diagonal, bvh }, planes, options) {
  const part = planes.reduce((half, mirror) => halved(half, mirror, diagonal), dense);
  return new Surface(part, planes, options, target / 2 ** planes.length, planes.length === 0 ? bvh : void 0);
}
var describeMirror = ({ normal, offset, error }) => {
  const axis = ['X', 'Y', 'Z'].find((_, k) => Math.abs(normal[k]) > 1 - 1e-9);
  const plane = axis
    ? `${axis} = ${(offset * Math.sign(normal['XYZ'.indexOf(axis)])).toFixed(2)}`
    : `a plane across ${normal.map((n) => n.toFixed(2)).join(', ')}`;
  return `Laid on one side of ${plane} and mirrored; the surface itself is mirrored there to within ${error.toFixed(4)} mm.`;
};
function prepared(mesh, options) {
  const { triangles: made, faceOf } = triangulate(mesh);
  const triangles = Int32Array.from(made);
  if (triangles.length === 0) throw new AutoQuadsError('There are no faces to lay quads over.');
  const dense = new WorkingMesh(mesh.positions, triangles);
  const area = sumOver(dense, (t) => dense.area(t));
  if (!(area > 0)) throw new AutoQuadsError('The surface has no area: nothing can be laid over it.');
  const { size, target } = wantedSize(options, area);
  const { diagonal } = boundsOf(mesh.positions);
  const sharp = markFeatures(dense, diagonal, options.featureAngle);
  const tagged = markTagged(dense, mesh, faceOf);
  const notes = sharp.length > 0 ? [`${sharp.length.toLocaleString('en')} sharp edges of the reference are kept as edges of quads.`] : [];
  if (tagged.length > 0) notes.push(`${tagged.length.toLocaleString('en')} creased edges and edges between regions are kept as edges of quads.`);
  const creased = [...sharp.map((half) => ({ half, sharpness: STAYS_SHARP })), ...tagged.filter(({ sharpness }) => sharpness > 0)];
  const bvh = new TriangleBvh(mesh.positions, triangles);
  const planes = mirrorsOf(dense, bvh, Math.min(0.1 * size, 3e-3 * diagonal), options.symmetry ?? 'auto');
  const mirrors = planes.filter((mirror) => {
    const across = (options.guides ?? []).findIndex((guide) => (guide.count ?? 0) > 0 && runsAcross(guide, mirror, size));
    if (across >= 0) notes.push(`Not mirrored: guide ${across + 1}, which has a count, runs across the plane.`);
    return across < 0;
  });
  return { dense, creased, notes, size, target, diagonal, bvh, topology: topologyOf(dense), mirrors };
}

// core/src/mesh/repair.ts
var FEW = 5;
function repairPolygons(input, options) {
  const report = {
    weldedVertices: 0,
    droppedFaces: { count: 0, faces: [] },
    duplicateFaces: { count: 0, faces: [] },
    zeroAreaFaces: { count: 0, faces: [] },
    splitEdges: { count: 0, vertices: [] },
    splitVertices: { count: 0, vertices: [] },
    turnedFaces: 0,
    flippedShells: 0,
    oneSidedCuts: 0,
    looseVertices: 0
  };
  const welded = options.weld ? weldVertices(input, options.weldDistance ?? 0, report) : input;
  const clean = dropDegenerate(welded, report);
  const gluing = glueFaces(clean, report);
  const turned2 = turnConsistently(clean, gluing, report, options.outward ?? true);
  let mesh = splitFans(turned2, gluing, report);
  while (gluing.anyCut && detachCrowded(turned2, mesh, gluing)) mesh = splitFans(turned2, gluing, report);
  return { mesh, report };
}
function weldMap(positions, distance) {
  const count = positions.length / 3;
  const map = new Int32Array(count);
  let size = 1;
  while (size < 2 * count) size *= 2;
  const heads = new Int32Array(size).fill(-1);
  const chain = new Int32Array(count).fill(-1);
  const cell = distance > 0 ? distance : 1;
  const bits = new Float64Array(1);
  const words = new Int32Array(bits.buffer);
  const hashNumber = (x) => {
    bits[0] = x + 0;
    return Math.imul(words[0], 73856093) ^ Math.imul(words[1], 19349663);
  };
  const hash = (x, y, z) => {
    const h = hashNumber(x) ^ Math.imul(hashNumber(y), 83492791) ^ Math.imul(hashNumber(z), 2971215073);
    return (h ^ (h >>> 15)) & (size - 1);
  };
  const reach = distance > 0 ? 1 : 0;
  for (let v = 0; v < count; v++) {
    const x = positions[3 * v];
    const y = positions[3 * v + 1];
    const z = positions[3 * v + 2];
    const [cx, cy, cz] = distance > 0 ? [Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)] : [x, y, z];
    map[v] = v;
    search: for (let i = -reach; i <= reach; i++)
      for (let j = -reach; j <= reach; j++)
        for (let k = -reach; k <= reach; k++)
          for (let w = heads[hash(cx + i, cy + j, cz + k)]; w >= 0; w = chain[w]) {
            const d = Math.hypot(positions[3 * w] - x, positions[3 * w + 1] - y, positions[3 * w + 2] - z);
            if (d <= distance) {
              map[v] = w;
              break search;
            }
          }
    if (map[v] === v) {
      const slot = hash(cx, cy, cz);
      chain[v] = heads[slot];
      heads[slot] = v;
    }
  }
  return map;
}
function weldVertices(mesh, distance, report) {
  const map = weldMap(mesh.positions, distance);
  for (let v = 0; v < map.length; v++) if (map[v] !== v) report.weldedVertices++;
  if (report.weldedVertices === 0) return mesh;
  const moved = (ids) => ids?.map((v) => map[v]);
  return {
    ...mesh,
    faceVertices: mesh.faceVertices.map((v) => map[v]),
    creaseEdges: moved(mesh.creaseEdges),
    cornerVertices: moved(mesh.cornerVertices)
  };
}
function dropDegenerate(mesh, report) {
  const { faceStart, faceVertices } = mesh;
  const faces = faceCount(mesh);
  const keptCorners = new Int32Array(faceVertices.length);
  const starts = new Int32Array(faces + 1);
  const keptFaces = new Int32Array(faces);
  let corners = 0;
  let kept = 0;
  const seenAt = new Int32Array(mesh.positions.length / 3).fill(-1);
  for (let f = 0; f < faces; f++) {
    const begin = corners;
    let twice = false;
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      const v = faceVertices[c];
      if (corners > begin && faceVertices[keptCorners[corners - 1]] === v) continue;
      if (seenAt[v] === f && v !== faceVertices[keptCorners[begin]]) twice = true;
      seenAt[v] = f;
      keptCorners[corners++] = c;
    }
    while (corners - begin > 1 && faceVertices[keptCorners[corners - 1]] === faceVertices[keptCorners[begin]]) corners--;
    const first = faceVertices[keptCorners[begin]];
    for (let i = begin + 1; i < corners; i++) if (faceVertices[keptCorners[i]] === first) twice = true;
    if (corners - begin < 3 || twice) {
      corners = begin;
      note(report.droppedFaces, f);
      continue;
    }
    starts[kept + 1] = corners;
    keptFaces[kept++] = f;
  }
  const slim = pickCorners(mesh, keptCorners.subarray(0, corners), starts.subarray(0, kept + 1), keptFaces.subarray(0, kept));
  const single2 = dropTwins(slim, keptFaces, report);
  countZeroAreas(single2, report);
  return single2;
}
function note(where, f) {
  where.count++;
  if (where.faces.length < FEW) where.faces.push(f);
}
function pickCorners(mesh, corners, faceStart, faces) {
  const unchanged = corners.length === mesh.faceVertices.length && faces.length === faceCount(mesh);
  if (unchanged) return mesh;
  const picked = { ...mesh, faceStart: faceStart.slice(), faceVertices: corners.map((c) => mesh.faceVertices[c]) };
  if (mesh.faceRegion) picked.faceRegion = faces.map((f) => mesh.faceRegion[f]);
  if (mesh.cornerUv) {
    picked.cornerUv = new Float64Array(2 * corners.length);
    corners.forEach((c, i) => picked.cornerUv.set(mesh.cornerUv.subarray(2 * c, 2 * c + 2), 2 * i));
  }
  return picked;
}
function dropTwins(mesh, inputFace, report) {
  const faces = faceCount(mesh);
  const { faceStart, faceVertices } = mesh;
  let size = 1;
  while (size < 2 * faces) size *= 2;
  const heads = new Int32Array(size).fill(-1);
  const chain = new Int32Array(faces).fill(-1);
  const isTwin = new Uint8Array(faces);
  const stamp = new Int32Array(mesh.positions.length / 3).fill(-1);
  let twins = 0;
  for (let f = 0; f < faces; f++) {
    let sum = 0;
    let product = 1;
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      sum = (sum + Math.imul(faceVertices[c], 2654435761)) | 0;
      product = Math.imul(product, 2 * faceVertices[c] + 1);
      stamp[faceVertices[c]] = f;
    }
    const mixed = sum ^ product;
    const slot = (mixed ^ (mixed >>> 16)) & (size - 1);
    for (let g = heads[slot]; g >= 0 && !isTwin[f]; g = chain[g]) {
      if (faceStart[g + 1] - faceStart[g] !== faceStart[f + 1] - faceStart[f]) continue;
      let same = true;
      for (let c = faceStart[g]; same && c < faceStart[g + 1]; c++) same = stamp[faceVertices[c]] === f;
      if (same) isTwin[f] = 1;
    }
    if (isTwin[f]) {
      twins++;
      note(report.duplicateFaces, inputFace[f]);
    } else {
      chain[f] = heads[slot];
      heads[slot] = f;
    }
  }
  return twins === 0 ? mesh : withoutFaces(mesh, isTwin);
}
function withoutFaces(mesh, leaveOut) {
  const corners = [];
  const starts = [0];
  const faces = [];
  for (let f = 0; f < leaveOut.length; f++) {
    if (leaveOut[f]) continue;
    for (let c = mesh.faceStart[f]; c < mesh.faceStart[f + 1]; c++) corners.push(c);
    starts.push(corners.length);
    faces.push(f);
  }
  return pickCorners(mesh, Int32Array.from(corners), Int32Array.from(starts), Int32Array.from(faces));
}
function countZeroAreas(mesh, report) {
  const p = mesh.positions;
  const limit = 1e-12 * boundsOf(p).diagonal ** 2;
  for (let f = 0; f < faceCount(mesh); f++) {
    const [x, y, z] = newellNormal(mesh, f, p);
    if (Math.hypot(x, y, z) <= limit) note(report.zeroAreaFaces, f);
  }
}
function newellNormal(mesh, f, p) {
  let x = 0;
  let y = 0;
  let z = 0;
  const start = mesh.faceStart[f];
  const end = mesh.faceStart[f + 1];
  const o = 3 * mesh.faceVertices[start];
  for (let c = start + 1; c + 1 < end; c++) {
    const a2 = 3 * mesh.faceVertices[c];
    const b = 3 * mesh.faceVertices[c + 1];
    const ux = p[a2] - p[o];
    const uy = p[a2 + 1] - p[o + 1];
    const uz = p[a2 + 2] - p[o + 2];
    const vx = p[b] - p[o];
    const vy = p[b + 1] - p[o + 1];
    const vz = p[b + 2] - p[o + 2];
    x += uy * vz - uz * vy;
    y += uz * vx - ux * vz;
    z += ux * vy - uy * vx;
  }
  return [x, y, z];
}
function glueFaces(mesh, report) {
  const { faceStart, faceVertices } = mesh;
  const corners = faceVertices.length;
  const faceOfCorner = new Int32Array(corners);
  const nextCorner = new Int32Array(corners);
  for (let f = 0; f < faceCount(mesh); f++)
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      faceOfCorner[c] = f;
      nextCorner[c] = c + 1 < faceStart[f + 1] ? c + 1 : faceStart[f];
    }
  const { cornerEdge, edges } = numberEdges(mesh);
  const uses = new Int32Array(edges);
  for (let c = 0; c < corners; c++) uses[cornerEdge[c]]++;
  const mate = new Int32Array(corners).fill(-1);
  const first = new Int32Array(edges).fill(-1);
  const crowded = /* @__PURE__ */ new Map();
  for (let c = 0; c < corners; c++) {
    const e = cornerEdge[c];
    if (uses[e] > 2) {
      const list = crowded.get(e);
      if (list) list.push(c);
      else crowded.set(e, [c]);
    } else if (first[e] < 0) first[e] = c;
    else {
      mate[c] = first[e];
      mate[first[e]] = c;
    }
  }
  const gluing = { mate, faceOfCorner, nextCorner, cutVertex: new Uint8Array(mesh.positions.length / 3), anyCut: crowded.size > 0 };
  for (const list of crowded.values()) {
    report.splitEdges.count++;
    for (const c of [list[0], nextCorner[list[0]]]) gluing.cutVertex[faceVertices[c]] = 1;
    if (report.splitEdges.vertices.length < FEW) report.splitEdges.vertices.push(faceVertices[list[0]]);
    pairAroundEdge(mesh, gluing, list);
  }
  return gluing;
}
function pairAroundEdge(mesh, { mate, faceOfCorner, nextCorner }, list) {
  const p = mesh.positions;
  const a2 = mesh.faceVertices[list[0]];
  const b = mesh.faceVertices[nextCorner[list[0]]];
  const axis = [0, 1, 2].map((k) => p[3 * b + k] - p[3 * a2 + k]);
  const length2 = Math.hypot(axis[0], axis[1], axis[2]) || 1;
  const side = Math.abs(axis[0]) < 0.6 * length2 ? [1, 0, 0] : [0, 1, 0];
  const u = [axis[1] * side[2] - axis[2] * side[1], axis[2] * side[0] - axis[0] * side[2], axis[0] * side[1] - axis[1] * side[0]];
  const w = [axis[1] * u[2] - axis[2] * u[1], axis[2] * u[0] - axis[0] * u[2], axis[0] * u[1] - axis[1] * u[0]];
  const sized = Math.hypot(w[0], w[1], w[2]) / (Math.hypot(u[0], u[1], u[2]) || 1) || 1;
  const around = list.map((c) => {
    const f = faceOfCorner[c];
    const middle = [0, 0, 0];
    for (let k = mesh.faceStart[f]; k < mesh.faceStart[f + 1]; k++)
      for (let i = 0; i < 3; i++) middle[i] += (p[3 * mesh.faceVertices[k] + i] - p[3 * a2 + i]) / (mesh.faceStart[f + 1] - mesh.faceStart[f]);
    const x = middle[0] * u[0] + middle[1] * u[1] + middle[2] * u[2];
    const y = (middle[0] * w[0] + middle[1] * w[1] + middle[2] * w[2]) / sized;
    return { c, angle: Math.atan2(y, x), along: mesh.faceVertices[c] === a2 };
  });
  around.sort((m, n) => m.angle - n.angle);
  for (let i = 0; i < around.length; i++) {
    const one2 = around[i];
    const other = around[(i + 1) % around.length];
    if (one2.along && !other.along && mate[one2.c] < 0 && mate[other.c] < 0) {
      mate[one2.c] = other.c;
      mate[other.c] = one2.c;
    }
  }
}
function turnConsistently(mesh, gluing, report, outward) {
  const { mate, faceOfCorner, nextCorner } = gluing;
  const { faceStart, faceVertices } = mesh;
  const faces = faceCount(mesh);
  const turn = new Int8Array(faces).fill(-1);
  const queue = new Int32Array(faces);
  let anyTurned = false;
  for (let seed = 0; seed < faces; seed++) {
    if (turn[seed] >= 0) continue;
    turn[seed] = 0;
    queue[0] = seed;
    let size = 1;
    let closed = true;
    for (let at = 0; at < size; at++) {
      const f = queue[at];
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
        const d = mate[c];
        if (d < 0) {
          closed = false;
          continue;
        }
        const g = faceOfCorner[d];
        const against = faceVertices[c] === faceVertices[d] ? 1 : 0;
        if (turn[g] < 0) {
          turn[g] = turn[f] ^ against;
          queue[size++] = g;
        } else if ((turn[g] ^ turn[f]) !== against) {
          mate[c] = mate[d] = -1;
          gluing.anyCut = true;
          for (const k of [c, nextCorner[c]]) gluing.cutVertex[faceVertices[k]] = 1;
          report.oneSidedCuts++;
          closed = false;
        }
      }
    }
    const island = queue.subarray(0, size);
    let turned2 = 0;
    for (const f of island) turned2 += turn[f];
    let flip = 2 * turned2 > size ? 1 : 0;
    if (closed && outward && signedVolume(mesh, island, turn) * (flip ? -1 : 1) < 0) flip ^= 1;
    if (flip) for (const f of island) turn[f] ^= 1;
    const changed = flip ? size - turned2 : turned2;
    if (changed === size) report.flippedShells++;
    else report.turnedFaces += changed;
    if (changed > 0) anyTurned = true;
  }
  return anyTurned ? turnFaces(mesh, gluing, turn, nextCorner) : mesh;
}
function signedVolume(mesh, faces, turn) {
  const p = mesh.positions;
  const v = mesh.faceVertices;
  let sum = 0;
  for (const f of faces) {
    const a2 = 3 * v[mesh.faceStart[f]];
    let part = 0;
    for (let c = mesh.faceStart[f] + 1; c + 1 < mesh.faceStart[f + 1]; c++) {
      const b = 3 * v[c];
      const d = 3 * v[c + 1];
      part +=
        p[a2] * (p[b + 1] * p[d + 2] - p[b + 2] * p[d + 1]) +
        p[a2 + 1] * (p[b + 2] * p[d] - p[b] * p[d + 2]) +
        p[a2 + 2] * (p[b] * p[d + 1] - p[b + 1] * p[d]);
    }
    sum += turn[f] ? -part : part;
  }
  return sum;
}
function turnFaces(mesh, gluing, turn, nextCorner) {
  const { faceStart } = mesh;
  const vertexPlace = Int32Array.from(nextCorner, (_, c) => c);
  const edgePlace = vertexPlace.slice();
  for (let f = 0; f < turn.length; f++) {
    if (!turn[f]) continue;
    const start = faceStart[f];
    const end = faceStart[f + 1];
    for (let c = start; c < end; c++) vertexPlace[c] = start + end - 1 - c;
    for (let c = start; c < end; c++) edgePlace[c] = vertexPlace[nextCorner[c]];
  }
  const faceVertices = new Int32Array(mesh.faceVertices.length);
  const cornerUv = mesh.cornerUv && new Float64Array(mesh.cornerUv.length);
  const mate = new Int32Array(faceVertices.length);
  for (let c = 0; c < faceVertices.length; c++) {
    faceVertices[vertexPlace[c]] = mesh.faceVertices[c];
    if (cornerUv) cornerUv.set(mesh.cornerUv.subarray(2 * c, 2 * c + 2), 2 * vertexPlace[c]);
    mate[edgePlace[c]] = gluing.mate[c] < 0 ? -1 : edgePlace[gluing.mate[c]];
  }
  gluing.mate = mate;
  return { ...mesh, faceVertices, cornerUv };
}
function detachCrowded(turned2, split, { mate, faceOfCorner, cutVertex }) {
  const { cornerEdge, edges } = numberEdges(split);
  const first = new Int32Array(edges).fill(-1);
  const loose = /* @__PURE__ */ new Set();
  for (let c = 0; c < cornerEdge.length; c++) {
    const e = cornerEdge[c];
    if (first[e] < 0) first[e] = c;
    else if (mate[c] !== first[e]) loose.add(faceOfCorner[c]);
  }
  for (const f of loose)
    for (let c = turned2.faceStart[f]; c < turned2.faceStart[f + 1]; c++) {
      cutVertex[turned2.faceVertices[c]] = 1;
      if (mate[c] >= 0) mate[mate[c]] = -1;
      mate[c] = -1;
    }
  return loose.size > 0;
}
function splitFans(mesh, { mate, nextCorner, cutVertex }, report) {
  report.looseVertices = -report.weldedVertices;
  report.splitVertices = { count: 0, vertices: [] };
  const { faceVertices } = mesh;
  const corners = faceVertices.length;
  const parent = Int32Array.from({ length: corners }, (_, c) => c);
  const root = (c) => {
    while (parent[c] !== c) c = parent[c] = parent[parent[c]];
    return c;
  };
  for (let c = 0; c < corners; c++) {
    const d = mate[c];
    if (d < c) continue;
    parent[root(nextCorner[d])] = root(c);
    parent[root(d)] = root(nextCorner[c]);
  }
  const vertices = mesh.positions.length / 3;
  const firstFan = new Int32Array(vertices).fill(-1);
  const newVertex = new Int32Array(corners).fill(-1);
  const source = [];
  const indices = new Int32Array(corners);
  for (let c = 0; c < corners; c++) if (firstFan[faceVertices[c]] < 0) firstFan[faceVertices[c]] = root(c);
  for (let v = 0; v < vertices; v++) {
    if (firstFan[v] < 0) {
      report.looseVertices++;
      continue;
    }
    newVertex[firstFan[v]] = source.length;
    source.push(v);
  }
  for (let c = 0; c < corners; c++) {
    const fan = root(c);
    if (newVertex[fan] < 0) {
      newVertex[fan] = source.length;
      source.push(faceVertices[c]);
      if (!cutVertex[faceVertices[c]]) {
        report.splitVertices.count++;
        if (report.splitVertices.vertices.length < FEW) report.splitVertices.vertices.push(faceVertices[c]);
      }
    }
    indices[c] = newVertex[fan];
  }
  if (source.length === vertices && source.every((v, i) => v === i)) return mesh;
  return renumbered(mesh, indices, source, firstFan, newVertex);
}
function renumbered(mesh, faceVertices, source, firstFan, newVertex) {
  const triples = (values) => {
    const out = new Float64Array(3 * source.length);
    source.forEach((v, i) => out.set(values.subarray(3 * v, 3 * v + 3), 3 * i));
    return out;
  };
  const moved = (ids) => ids?.map((v) => (firstFan[v] < 0 ? 0 : newVertex[firstFan[v]]));
  return {
    ...mesh,
    positions: triples(mesh.positions),
    ...(mesh.vertexColour && { vertexColour: triples(mesh.vertexColour) }),
    faceVertices,
    creaseEdges: moved(mesh.creaseEdges),
    cornerVertices: moved(mesh.cornerVertices)
  };
}

// ../../tmp/look/w.ts
var a = Number(process.env.A ?? 45);
for (const c of [0, 1]) {
  const t = performance.now();
  const { mesh, notes } = autoQuads(
    repairPolygons(wedge(a), { weld: true }).mesh,
    { count: 4e3, cancelWithin: c, lies: 'vertices' },
    { phase: (n, f) => process.env.P && console.log(n, f, ((performance.now() - t) / 1e3).toFixed(1)) }
  );
  const cg = Cage.fromPolygons(mesh);
  const q = quadQuality(cg);
  console.log(
    c,
    ((performance.now() - t) / 1e3).toFixed(1),
    'poles',
    measure(cg).poles.reduce((s, p) => s + p.count, 0),
    q.mean.toFixed(3),
    q.hundredth.toFixed(3),
    q.worst.toFixed(3),
    'longest',
    q.longest,
    notes
  );
}
