import { divideRows, type Scheme } from './level-plan.ts';
import { type LevelTopology } from './level-topology.ts';
import { applyRows } from './weight-rows.ts';

/**
 * Texture coordinates of the next level's face corners: linear within each face, so that seams stay where they are and both
 * sides of one keep their own (the OpenUSD mesh schema's face-varying rule `all`).
 * @param values two a face corner of `level`; NaN stays NaN
 */
export function refinedCorners(level: LevelTopology, scheme: Scheme, values: Float64Array): Float64Array {
  const { faceStart } = level;
  const corners = level.faceVertices.length;
  // either scheme makes four corners of each
  const out = new Float64Array(8 * corners);
  for (let f = 0; f + 1 < faceStart.length; f++) {
    const [start, end] = [faceStart[f], faceStart[f + 1]];
    for (let k = 0; k < 2; k++) {
      const at = (c: number) => values[2 * c + k];
      const ahead = (c: number) => (at(c) + at(c + 1 < end ? c + 1 : start)) / 2;
      const behind = (c: number) => (at(c) + at(c > start ? c - 1 : end - 1)) / 2;
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

/** Colours of the next level's vertices: linear along edges and in faces, so that none leaves the range between its neighbours. */
export function refinedColours(level: LevelTopology, scheme: Scheme, colours: Float64Array): Float64Array {
  const rows = divideRows(level, scheme);
  const out = new Float64Array(3 * (rows.start.length - 1));
  applyRows(rows, colours, out);
  return out;
}
