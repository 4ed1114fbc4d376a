import { operations } from '@ulvrin/core';
import { icons } from 'virtual:operation-icons';
import { describe, expect, it } from 'vitest';
import { commands } from './commands/registry.ts';
import { fieldKinds } from './panels/card/fields/registry.ts';
import { lists } from './panels/lists/registry.ts';
import { pickGestures } from './stand/gestures/registry.ts';
import { overlays } from './stand/marks/registry.ts';

const ids = (items: readonly { id: string }[]) => items.map(({ id }) => id);

describe('what comes in many kinds', () => {
  it.each([
    ['operations', operations],
    ['commands', commands],
    ['overlays', overlays],
    ['ways to pick', pickGestures],
    ['lists', lists]
  ])('%s have ids of their own', (_, items) => {
    expect(items.length).toBeGreaterThan(0);
    expect(new Set(ids(items)).size).toBe(items.length);
  });

  it('is explained where it can be switched or called', () => {
    const helped = [...overlays, ...pickGestures, ...lists];
    expect(helped.filter(({ help }) => !/^[A-Z].{10,}[^.]$/.test(help)).map(({ id }) => id)).toEqual([]);
    expect(commands.filter(({ name }) => !/^[A-Z]/.test(name)).map(({ id }) => id)).toEqual([]);
  });

  it('has the icon that each operation names', () => {
    expect(operations.filter((o) => !icons[o.icon]).map((o) => `${o.name}: ${o.icon}`)).toEqual([]);
  });

  it('has a control for each kind of field', () => {
    for (const kind of ['number', 'switch', 'choice', 'text', 'profile', 'part'] as const) expect(fieldKinds[kind]).toBeTypeOf('function');
  });
});
