import { type Cage } from './cage.ts';
import { NONE } from './half-edges.ts';

/**
 * Checks every promise the half-edge structure makes; used by tests after every operation.
 * @throws Error with the first broken promise and the element
 */
export function assertValid(cage: Cage): void {
  const fail = (what: string): never => {
    throw new Error(`cage is not valid: ${what}`);
  };
  const entered = new Int32Array(2 * cage.edgeSlots);
  for (const e of cage.edges())
    for (const h of [2 * e, 2 * e + 1]) {
      const n = cage.next[h];
      if (!cage.hasEdge(n >> 1)) fail(`half-edge ${h} is followed by free half-edge ${n}`);
      if (cage.origin[n] !== cage.target(h)) fail(`half-edge ${n} follows ${h} but starts elsewhere`);
      if (cage.face[n] !== cage.face[h]) fail(`half-edges ${h} and ${n} follow each other in different faces`);
      if (!cage.hasVertex(cage.origin[h])) fail(`half-edge ${h} starts at free vertex ${cage.origin[h]}`);
      if (cage.face[h] !== NONE && !cage.hasFace(cage.face[h])) fail(`half-edge ${h} lies in free face ${cage.face[h]}`);
      if (cage.origin[h] === cage.target(h)) fail(`edge ${e} joins vertex ${cage.origin[h]} to itself`);
      if (++entered[n] > 1) fail(`half-edge ${n} follows two others`);
      if (cage.face[h] === NONE && cage.face[h ^ 1] === NONE) fail(`edge ${e} has no face`);
    }
  const spokes = new Int32Array(cage.vertexSlots);
  for (const e of cage.edges()) for (const h of [2 * e, 2 * e + 1]) spokes[cage.origin[h]]++;
  for (const v of cage.vertices()) {
    const h = cage.vertexEdge[v];
    if (h !== NONE && cage.origin[h] !== v) fail(`vertex ${v} points at half-edge ${h}, which starts elsewhere`);
    if (cage.valence(v) !== spokes[v]) fail(`vertex ${v} is pinched`);
    const borders = cage.spokes(v).filter((k) => cage.face[k] === NONE).length;
    if (borders > 1) fail(`vertex ${v} lies on ${borders} borders`);
    if (borders === 1 && cage.face[h] !== NONE) fail(`vertex ${v} is on a border but does not point at it`);
    for (let k = 0; k < 3; k++) if (!Number.isFinite(cage.positions[3 * v + k])) fail(`vertex ${v} is nowhere`);
  }
  for (const f of cage.faces()) {
    if (cage.face[cage.faceEdge[f]] !== f) fail(`face ${f} points at a half-edge of another`);
    const corners = cage.faceVertices(f);
    if (corners.length < 3) fail(`face ${f} has ${corners.length} corners`);
    if (new Set(corners).size !== corners.length) fail(`face ${f} visits a vertex twice`);
  }
  for (const { name, domain, size, data } of cage.layers.values()) {
    const slots = { vertex: cage.vertexSlots, edge: cage.edgeSlots, face: cage.faceSlots, corner: 2 * cage.edgeSlots }[domain];
    if (data.length < slots * size) fail(`layer ${name} is too short`);
  }
}
