import type { Layer, Part } from '@ulvrin/core';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';

/** Colours of clay that layers take one after the other; all let ink and marks stand out. */
export const layerColours = ['#d9c7b0', '#b9cfae', '#c9bfdc', '#dcbfc2', '#aecdd0', '#d8d3a8'] as const;

type Held = Pick<OpenDocument, 'layers' | 'hidden' | 'locked' | 'parts' | 'settle'>;

/** Parts by their layers, in order; those of none come last, under none. */
export function partsByLayer({ layers, parts }: Pick<Held, 'layers' | 'parts'>): { layer?: Layer; parts: Part[] }[] {
  const held = new Set(layers.flatMap((l) => l.parts));
  return [
    ...layers.map((layer) => ({ layer, parts: layer.parts.flatMap((id) => parts.filter((p) => p.id === id)) })),
    { parts: parts.filter((p) => !held.has(p.id)) }
  ];
}

/** Colour of the clay that a part has from its layer; nothing in none. */
export const clayOf = ({ layers }: Pick<Held, 'layers'>, part: string): string | undefined =>
  layers.find(({ parts }) => parts.includes(part))?.colour;

/** A name that no layer has. */
export function freeLayerName(layers: readonly Layer[]): string {
  let n = layers.length + 1;
  while (layers.some(({ name }) => name === `Layer ${n}`)) n++;
  return `Layer ${n}`;
}

/** Puts a new layer behind the others, in a colour of its own. */
export function addLayer(document: Held): void {
  const { layers } = document;
  const name = freeLayerName(layers);
  document.settle(`Add ${name}`, { layers: [...layers, { name, colour: layerColours[layers.length % layerColours.length], parts: [] }] });
}

/** Puts a part into a layer, at a place among its parts, and out of the one it was in. @param layer left out: into none */
export function moveToLayer(document: Held, id: string, layer: Layer | undefined, at = Infinity): void {
  const layers = document.layers.map((l) => {
    const others = l.parts.filter((own) => own !== id);
    return { ...l, parts: l === layer ? [...others.slice(0, at), id, ...others.slice(at)] : others };
  });
  if (JSON.stringify(layers) === JSON.stringify(document.layers)) return;
  document.settle(layer ? `Move to ${layer.name}` : 'Move out of its layer', { layers });
}

/** Changes a layer's name or colour. */
export function changeLayer(document: Held, layer: Layer, own: Partial<Pick<Layer, 'name' | 'colour'>>): void {
  document.settle(`Change ${layer.name}`, { layers: document.layers.map((l) => (l === layer ? { ...l, ...own } : l)) });
}

/** Takes a layer away; its parts stay. */
export function removeLayer(document: Held, layer: Layer): void {
  document.settle(`Remove ${layer.name}`, { layers: document.layers.filter((l) => l !== layer) });
}

/** Hides all parts of a layer, or shows them; the same for locks. */
export function toggleLayer(document: Held, { name, parts }: Layer, what: 'hidden' | 'locked'): void {
  const now = document[what];
  const all = parts.every((id) => now.includes(id));
  const label = { hidden: all ? 'Show' : 'Hide', locked: all ? 'Unlock' : 'Lock' }[what];
  const rest = now.filter((id) => !parts.includes(id));
  document.settle(`${label} ${name}`, { [what]: all ? rest : [...rest, ...parts] });
}

/** Shows a layer alone; where it is alone already, all parts. */
export function soloLayer(document: Held, { name, parts: own }: Layer): void {
  const others = document.parts.map(({ id }) => id).filter((id) => !own.includes(id));
  const isAlone = others.every((id) => document.hidden.includes(id)) && !own.some((id) => document.hidden.includes(id));
  document.settle(isAlone ? 'Show all parts' : `Show ${name} alone`, { hidden: isAlone ? [] : others });
}
