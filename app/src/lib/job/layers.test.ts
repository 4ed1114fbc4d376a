import type { DocumentSettings, Layer, Part } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { addLayer, changeLayer, clayOf, moveToLayer, partsByLayer, removeLayer, soloLayer, toggleLayer } from './layers.ts';

const part = (id: string): Part => ({ id, name: id, kind: 'cage', scheme: 'catmull-clark', borderCorners: 'sharp' });

/** A document of three parts that keeps what is settled. */
function started() {
  const document = {
    parts: ['a', 'b', 'c'].map(part),
    layers: [] as readonly Layer[],
    hidden: [] as readonly string[],
    locked: [] as readonly string[],
    said: [] as string[],
    settle(label: string, settings: Partial<DocumentSettings>) {
      document.said.push(label);
      Object.assign(document, settings);
    }
  };
  return document;
}
const told = (document: ReturnType<typeof started>) =>
  partsByLayer(document).map(({ layer, parts }) => [layer?.name, parts.map((p) => p.id).join('')]);

describe('layers', () => {
  it('hold parts in order; a part is in one of them, or in none', () => {
    const document = started();
    addLayer(document);
    moveToLayer(document, 'a', document.layers[0]);
    addLayer(document);
    moveToLayer(document, 'a', document.layers[1]);
    moveToLayer(document, 'c', document.layers[1], 0);
    expect(told(document)).toEqual([
      ['Layer 1', ''],
      ['Layer 2', 'ca'],
      [undefined, 'b']
    ]);
    expect(document.layers[0].colour).not.toBe(document.layers[1].colour);
    expect(['a', 'b', 'c'].map((id) => clayOf(document, id))).toEqual([document.layers[1].colour, undefined, document.layers[1].colour]);
    moveToLayer(document, 'b', document.layers[1], 1);
    moveToLayer(document, 'c', undefined);
    expect(told(document)).toEqual([
      ['Layer 1', ''],
      ['Layer 2', 'ba'],
      [undefined, 'c']
    ]);
    const { length } = document.said;
    moveToLayer(document, 'c', undefined);
    expect(document.said).toHaveLength(length);
    changeLayer(document, document.layers[0], { name: 'Horns' });
    removeLayer(document, document.layers[1]);
    expect(told(document)).toEqual([
      ['Horns', ''],
      [undefined, 'abc']
    ]);
  });

  it('are hidden, locked and shown alone as one', () => {
    const document = started();
    addLayer(document);
    for (const id of ['a', 'b']) moveToLayer(document, id, document.layers[0]);
    const [layer] = document.layers;
    toggleLayer(document, layer, 'locked');
    expect(document.locked).toEqual(['a', 'b']);
    toggleLayer(document, layer, 'locked');
    toggleLayer(document, layer, 'hidden');
    expect([document.locked, document.hidden]).toEqual([[], ['a', 'b']]);
    soloLayer(document, layer);
    expect(document.hidden).toEqual(['c']);
    soloLayer(document, layer);
    expect(document.hidden).toEqual([]);
    expect(document.said.slice(3)).toEqual(['Lock Layer 1', 'Unlock Layer 1', 'Hide Layer 1', 'Show Layer 1 alone', 'Show all parts']);
  });
});
