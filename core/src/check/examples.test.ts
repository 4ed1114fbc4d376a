import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation } from '../operations/operation.ts';
import { operationById } from '../operations/registry.ts';
import { checkPart } from './check-part.ts';
import { exampleIds, exampleOf } from './examples.ts';
import { type Apply } from './fix-all.ts';
import { kindIds } from './kind-names.ts';
import { waysOut } from './ways-out.ts';

const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const apply: Apply = (id, cage, pick, params) => applyOperation(operationById(id) as CageOperation, cage, pick, params, { surface: settings });

describe('examples of findings', () => {
  it('are there for every kind', () => expect([...exampleIds].sort()).toEqual([...kindIds].sort()));

  it.each(kindIds)('%s: the check finds it on its example, and its ways out are told', (kind) => {
    const { cage, reference, cause, effect } = exampleOf(kind)!;
    assertValid(cage);
    const part = { cage, settings, reference };
    const found = checkPart(part).find((f) => f.kind === kind);
    expect(found?.kind).toBe(kind);
    for (const text of [cause, effect]) expect(text).toMatch(/^[A-Z].*\.$/);
    const ways = waysOut(part, found!, apply);
    expect(ways.map(({ label }) => label)).toEqual(found!.fixes.map(({ label }) => label));
    for (const { outcome } of ways) expect(outcome).toMatch(/^(refused here|(no face|\d+ faces?) (more|fewer); )/);
  });

  it('are mended by their first way out, where there is one that shows', () => {
    for (const kind of ['triangle', 'cut-end', 'unbraced-corner', 'crack', 'tee', 'hole', 'turned', 'inside', 'open-crease']) {
      const { cage } = exampleOf(kind)!;
      const found = checkPart({ cage, settings }).find((f) => f.kind === kind)!;
      expect(`${kind}: ${waysOut({ cage, settings }, found, apply)[0].outcome}`).toContain('it is gone');
    }
  });
});
