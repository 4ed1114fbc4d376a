import { faceCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';

/**
 * Several meshes as one, each a region. What some of them have is kept for all: colours of the others are grey, their texture
 * coordinates missing (NaN).
 */
export function meshesAsRegions(parts: PolygonMesh[], names: string[]): PolygonMesh {
  const positions: number[] = [];
  const faceVertices: number[] = [];
  const faceStart = [0];
  const faceRegion: number[] = [];
  const crease: number[] = [];
  const sharp: number[] = [];
  const corner: number[] = [];
  const cornerSharp: number[] = [];
  const colours: number[] = [];
  const uv: number[] = [];
  parts.forEach((part, region) => {
    const offset = positions.length / 3;
    for (const x of part.positions) positions.push(x);
    for (let i = 0; i < part.positions.length; i++) colours.push(part.vertexColour?.[i] ?? 0.5);
    for (let c = 0; c < 2 * part.faceVertices.length; c++) uv.push(part.cornerUv?.[c] ?? NaN);
    for (let f = 0; f < faceCount(part); f++) {
      for (let c = part.faceStart[f]; c < part.faceStart[f + 1]; c++) faceVertices.push(part.faceVertices[c] + offset);
      faceStart.push(faceVertices.length);
      faceRegion.push(region);
    }
    part.creaseEdges?.forEach((v) => crease.push(v + offset));
    part.creaseSharpness?.forEach((s) => sharp.push(s));
    part.cornerVertices?.forEach((v) => corner.push(v + offset));
    part.cornerSharpness?.forEach((s) => cornerSharp.push(s));
  });
  return {
    positions: Float64Array.from(positions),
    faceStart: Int32Array.from(faceStart),
    faceVertices: Int32Array.from(faceVertices),
    faceRegion: Int32Array.from(faceRegion),
    regionNames: names,
    ...(parts.some((p) => p.cornerUv) && { cornerUv: Float64Array.from(uv) }),
    ...(parts.some((p) => p.vertexColour) && { vertexColour: Float64Array.from(colours) }),
    ...(crease.length > 0 && { creaseEdges: Int32Array.from(crease), creaseSharpness: Float64Array.from(sharp) }),
    ...(corner.length > 0 && { cornerVertices: Int32Array.from(corner), cornerSharpness: Float64Array.from(cornerSharp) })
  };
}
