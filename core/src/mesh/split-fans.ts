import { type Gluing } from './glue-faces.ts';
import { numberEdges } from './number-edges.ts';
import { type PolygonMesh } from './polygon-mesh.ts';
import { type RepairReport, FEW } from './repair-report.ts';

/**
 * Cuts faces loose from all their neighbours where, after splitting, an edge would still have more than two faces or two
 * that are not glued there. @returns whether there were any
 */
export function detachCrowded(turned: PolygonMesh, split: PolygonMesh, { mate, faceOfCorner, cutVertex }: Gluing): boolean {
  const { cornerEdge, edges } = numberEdges(split);
  const first = new Int32Array(edges).fill(-1);
  const loose = new Set<number>();
  for (let c = 0; c < cornerEdge.length; c++) {
    const e = cornerEdge[c];
    if (first[e] < 0) first[e] = c;
    else if (mate[c] !== first[e]) loose.add(faceOfCorner[c]);
  }
  for (const f of loose)
    for (let c = turned.faceStart[f]; c < turned.faceStart[f + 1]; c++) {
      cutVertex[turned.faceVertices[c]] = 1;
      if (mate[c] >= 0) mate[mate[c]] = -1;
      mate[c] = -1;
    }
  return loose.size > 0;
}

/** Gives every fan of faces round a vertex a vertex of its own, and leaves out vertices without faces. */
export function splitFans(mesh: PolygonMesh, { mate, nextCorner, cutVertex }: Gluing, report: RepairReport): PolygonMesh {
  report.looseVertices = -report.weldedVertices;
  report.splitVertices = { count: 0, vertices: [] };

  const { faceVertices } = mesh;
  const corners = faceVertices.length;
  const parent = Int32Array.from({ length: corners }, (_, c) => c);
  const root = (c: number) => {
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
  const source: number[] = [];
  const indices = new Int32Array(corners);
  // the first fan of each vertex comes in the order of the vertices, so that a clean mesh keeps its numbering
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
      // where an edge was cut, its ends come apart as a matter of course
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

function renumbered(mesh: PolygonMesh, faceVertices: Int32Array, source: number[], firstFan: Int32Array, newVertex: Int32Array): PolygonMesh {
  const triples = (values: Float64Array) => {
    const out = new Float64Array(3 * source.length);
    source.forEach((v, i) => out.set(values.subarray(3 * v, 3 * v + 3), 3 * i));
    return out;
  };
  // creases and corners follow the first fan; on split places the sharpness of a border is certain anyway
  const moved = (ids?: Int32Array) => ids?.map((v) => (firstFan[v] < 0 ? 0 : newVertex[firstFan[v]]));
  return {
    ...mesh,
    positions: triples(mesh.positions),
    ...(mesh.vertexColour && { vertexColour: triples(mesh.vertexColour) }),
    faceVertices,
    creaseEdges: moved(mesh.creaseEdges),
    cornerVertices: moved(mesh.cornerVertices)
  };
}
