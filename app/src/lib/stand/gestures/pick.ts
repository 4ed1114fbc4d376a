import { borderOf, describeLoop, edgeLoop, edgeRing, islandOf, loopThrough, selectEdges, selectFaces, type Selection } from '@ulvrin/core';
import { describeElement, elementsOf } from '$lib/selection/elements.ts';
import { placesOf } from '$lib/selection/places.ts';
import type { Pixel, Scene } from './gesture.ts';

/** Shows what the pointer is over, with the loop of an edge. @returns what it is, for the line below the stand */
export function hover({ job, stand }: Scene, picked: Selection | undefined): string {
  const cage = job.active?.cage;
  const edge = picked?.edges[0];
  const run = edge === undefined || !cage ? undefined : loopThrough(cage, 2 * edge, job.view.mostTurn);
  stand.hover(
    picked,
    run?.halves.map((h) => h >> 1)
  );
  if (!picked || !cage) return '';
  const [element] = elementsOf(picked);
  return describeElement(cage, element.kind, element.id) + (run && run.halves.length > 1 ? `; its loop: ${describeLoop(run)}` : '');
}

/** One click picks, two take the loop of an edge (or frame all on empty stand), three the island. @param count of clicks */
export function click({ job, stand }: Scene, at: Pixel, count: number, add: boolean): void {
  const picked = stand.pickAt(...at, job.view.pick);
  const cage = job.active?.cage;
  if (count === 2 && cage) {
    const edge = picked?.edges[0] ?? stand.pickAt(...at, 'edge')?.edges[0];
    if (edge !== undefined && (picked?.edges.length || job.view.pick === 'edge')) {
      const loop = selectEdges(edgeLoop(cage, edge, job.view.mostTurn).edges);
      job.selection = add ? { ...loop, edges: [...new Set([...job.selection.edges, ...loop.edges])] } : loop;
      return;
    }
    if (!picked) return stand.frame();
  }
  if (count === 3 && cage) {
    const face = stand.pickAt(...at, 'face')?.faces[0];
    if (face !== undefined) return void (job.selection = selectFaces(islandOf(cage, [face])));
  }
  if (count > 1 && picked) return;
  job.pick(picked, add);
}

/** What the short list of a right click offers for an element. */
export function offersFor({ job, stand }: Scene, picked: Selection): { label: string; run: () => void }[] {
  const cage = job.active?.cage;
  if (!cage) return [];
  const [edge, face] = [picked.edges[0], picked.faces[0]];
  const pick = (label: string, take: () => Selection) => ({ label, run: () => (job.selection = take()) });
  return [
    { label: 'Pick', run: () => job.pick(picked, false) },
    { label: 'Add to the selection', run: () => job.pick(picked, true) },
    ...(edge === undefined
      ? []
      : [
          pick('Loop', () => selectEdges(edgeLoop(cage, edge, job.view.mostTurn).edges)),
          pick('Ring', () => selectEdges(edgeRing(cage, edge).edges)),
          ...(cage.isBorderEdge(edge) ? [pick('Border', () => selectEdges(borderOf(cage, edge)))] : [])
        ]),
    ...(face === undefined ? [] : [pick('Island', () => selectFaces(islandOf(cage, picked.faces)))]),
    { label: 'Frame', run: () => stand.frame(placesOf(cage, picked)) }
  ];
}
