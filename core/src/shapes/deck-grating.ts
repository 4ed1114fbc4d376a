import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { plane } from './start-shapes.ts';

/** The demo panel: one flat face of 360 by 90 mm, turned by 25 degrees on the deck, so that no world axis runs along it. */
export function deckGrating(): PolygonMesh {
  const panel = plane(360, 90, 1, 1);
  const [c, s] = [Math.cos((25 * Math.PI) / 180), Math.sin((25 * Math.PI) / 180)];
  const p = panel.positions;
  for (let i = 0; i < p.length; i += 3) [p[i], p[i + 2]] = [c * p[i] - s * p[i + 2], s * p[i] + c * p[i + 2]];
  return panel;
}
