import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { lathe } from './start-shapes.ts';

const FOLDS = 6;

/** The demo tube: 84 sides, a straight rim of 10 mm at either end, six folds between; open at both ends. */
export function bellows(): PolygonMesh {
  const [rim, ridge, valley] = [34, 40, 28];
  const half = 66;
  const between = Array.from({ length: 2 * FOLDS + 1 }, (_, i): [number, number] => [
    i % 2 === 0 ? valley : ridge,
    -half + 10 + ((2 * half - 20) * (i + 0.5)) / (2 * FOLDS + 1)
  ]);
  return lathe([[rim, -half], [rim, -half + 10], ...between, [rim, half - 10], [rim, half]], 84);
}
