import { operationById, validParams, type Operation, type Params } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { LastUsed } from './last-used.ts';

const operation = (id: string) => operationById(id) as Operation;
const valid = (id: string, params: Params = {}) => validParams(operation(id), params);

describe('numbers used last', () => {
  it('are begun with again, but for those that are meant once', () => {
    const used = new LastUsed();
    used.keep(operation('extrude'), valid('extrude', { distance: 4 }));
    used.keep(operation('move'), valid('move', { x: 3, turnY: 20, falloff: 'space', radius: 9 }));
    expect(used.for(operation('extrude'))).toMatchObject({ distance: 4 });
    const again = used.for(operation('move'));
    expect(again).toMatchObject({ falloff: 'space', radius: 9 });
    expect(again).not.toHaveProperty('x');
    expect(again).not.toHaveProperty('turnY');
    expect(used.for(operation('bevel'))).toEqual({});
  });

  it('are shared by what the handle does: frame, pivot and falloff are settings, what one alone has stays its own', () => {
    const used = new LastUsed();
    used.keep(operation('move'), valid('move', { x: 3, frame: 'selection', pivot: 'typed', pivotX: 7, weld: true }));
    const begun = used.for(operation('rotate'));
    expect(begun).toMatchObject({ frame: 'selection', pivot: 'typed', pivotX: 7 });
    expect(validParams(operation('rotate'), begun)).toMatchObject({ x: 0, pivotX: 7 });
    used.keep(operation('rotate'), valid('rotate', { ...begun, y: 30, pivotX: 8 }));
    expect(used.for(operation('move'))).toMatchObject({ pivotX: 8, weld: true });
  });
});
