import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { applyOperation } from '../operations/operation.ts';
import { addLoop } from '../operations/shape/add-loop.ts';
import { extrude } from '../operations/shape/extrude.ts';
import { selectEdges, selectFaces } from '../select/selection.ts';
import { box, torus } from '../shapes/start-shapes.ts';
import { describeForecast, forecast } from './forecast.ts';

describe('forecast', () => {
  it('tells the poles that an extrusion makes', () => {
    const cage = Cage.fromPolygons(box({ x: 9, y: 9, z: 9 }, { x: 3, y: 3, z: 3 }));
    const middle = [...cage.faces()].find((f) => cage.faceVertices(f).every((v) => cage.valence(v) === 4))!;
    const { poles, moved } = forecast(cage, applyOperation(extrude, cage, selectFaces([middle]), { distance: 3 }).cage);
    expect(poles).toEqual([
      { valence: 3, change: 4 },
      { valence: 5, change: 4 }
    ]);
    expect(moved).toBeGreaterThan(0.1);
  });

  it('finds none for a loop round a torus, and says how far the surface moves', () => {
    const cage = Cage.fromPolygons(torus(10, 3, 12, 8));
    const change = forecast(cage, applyOperation(addLoop, cage, selectEdges([0]), {}).cage);
    expect(change.poles).toEqual([]);
    expect(describeForecast(change)).toMatch(
      /^Forecast: no pole appears or goes; the smooth surface moves by up to 0\.\d\d mm where vertices stay\.$/
    );
  });
});
