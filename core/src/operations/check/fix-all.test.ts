import { describe, expect, it } from 'vitest';
import { plantedCage } from '../../../testing/planted-defects.ts';
import { checkPart } from '../../check/check-part.ts';
import { kindCounted } from '../../check/kind-names.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection } from '../../select/selection.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation } from '../operation.ts';
import { operationById } from '../registry.ts';

const surface = { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const };
const operation = operationById('fix-all') as CageOperation;
const fixed = (cage: Cage, which: string) => applyOperation(operation, cage, emptySelection(), { which }, { surface });
const showing = (cage: Cage, kind: string) => checkPart({ cage, settings: surface }).filter((f) => f.visible && f.kind === kind).length;

describe('fix all of a kind', () => {
  it.each([
    ['cut-end', 3],
    ['triangle', 3],
    ['n-gon', 3],
    ['crack', 1],
    ['hole', 0]
  ])('mends all of %s, tells the counts before and after, and leaves the others', (which, seed) => {
    const { cage } = plantedCage(seed);
    const before = showing(cage, which);
    expect(before).toBeGreaterThan(0);
    const made = fixed(cage, which);
    assertValid(made.cage);
    expect(showing(made.cage, which)).toBe(0);
    expect(made.notes.join(' ')).toContain(`${kindCounted(which, before)} before, 0 after.`);
    // nothing of another kind comes of it that was not told
    for (const kind of ['cut-end', 'triangle', 'n-gon', 'crack', 'hole', 'folded'])
      if (showing(made.cage, kind) > showing(cage, kind)) expect(made.notes.join(' ')).toContain(`${kindCounted(kind, showing(cage, kind))} before`);
  });

  it('is refused where none shows', () => {
    expect(() => fixed(Cage.fromPolygons(plane(10, 10, 5, 5)), 'triangle')).toThrow('No finding of this kind shows.');
  });
});
