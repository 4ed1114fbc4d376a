import { box, Cage, operationById, selectVertices, validParams, type LiveOperation, type Params } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { LivePreview } from './live-preview.ts';

const move = operationById('move') as LiveOperation;
const cage = Cage.fromPolygons(box({ x: 4, y: 4, z: 4 }, { x: 1, y: 1, z: 1 }));
const picked = selectVertices([0]);
const params = (more: Params = {}) => validParams(move, more);

describe('a live preview', () => {
  it('is the same edit while numbers change, and another one with other settings, cage or picks', () => {
    const preview = new LivePreview();
    const edit = preview.for(move, cage, picked, params({ x: 1 }));
    expect(preview.for(move, cage, picked, params({ x: 2, y: 5 }))).toBe(edit);
    expect(preview.for(move, cage, picked, params({ falloff: 'space' }))).not.toBe(edit);
    const again = preview.for(move, cage, picked, params());
    expect(preview.for(move, cage, selectVertices([1]), params())).not.toBe(again);
    expect(preview.for(move, cage.clone(), picked, params())).not.toBe(again);
  });

  it('begins anew once it has ended: what it made may be the document’s own by then', () => {
    const preview = new LivePreview();
    const edit = preview.for(move, cage, picked, params());
    preview.end();
    expect(preview.for(move, cage, picked, params())).not.toBe(edit);
  });
});
