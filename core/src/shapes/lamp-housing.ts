import { type PolygonMesh, polygonMesh } from '../mesh/polygon-mesh.ts';
import { roundedBlock } from './rounded-block.ts';

/** Half the size of the housing by axis, the radius of its edges, mm, and the slivers across each round. */
const [HALF, RADIUS, SLIVERS] = [[32, 24, 20], 7, 9];

/**
 * Housing of the lamp on the fog signal station's roof, as an engineer's program exports it: flat panels of two triangles, long slivers along every
 * rounded edge, balls at its corners.
 */
export function lampHousing(): PolygonMesh {
  const { points, quads } = roundedBlock(HALF, RADIUS, SLIVERS);
  const triangles = quads.flatMap(({ corners: [a, b, c, d] }, i) => {
    const halves =
      i % 3 === 0
        ? [
            [a, b, d],
            [b, c, d]
          ]
        : [
            [a, b, c],
            [a, c, d]
          ];
    return halves.filter((corners) => new Set(corners).size === 3);
  });
  return polygonMesh(points, triangles);
}
