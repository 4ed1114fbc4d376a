import { box, Cage, emptySelection, selectEdges, selectFaces, selectVertices, type Part } from '@ulvrin/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import { Notes } from '$lib/job/notes.svelte.ts';
import { Picked } from './picked.svelte.ts';

const cage = Cage.fromPolygons(box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 }));
const part: Part = { id: 'p1', name: 'Lamp housing', kind: 'cage', scheme: 'catmull-clark', borderCorners: 'sharp', cage };
let notes: Notes;
let document: {
  active?: Part;
  parts: Part[];
  sets: { name: string; part: string; selection: object }[];
  view: object;
  settle: ReturnType<typeof vi.fn>;
};
let picked: Picked;

beforeEach(() => {
  notes = new Notes();
  document = { active: part, parts: [part], sets: [], view: { pick: 'face', activePart: 'p1' }, settle: vi.fn() };
  picked = new Picked(document as unknown as OpenDocument, notes);
});

describe('what is picked', () => {
  it('is all of its kind, shown faces alone, and nothing the second time', () => {
    picked.pickAll();
    expect(picked.selection.faces).toHaveLength(24);
    picked.pickAll();
    expect(picked.selection).toEqual(emptySelection());
    picked.isolated = [0, 1, 2];
    picked.pickAll();
    expect(picked.selection.faces).toEqual([0, 1, 2]);
  });

  it('grows along the shortest way to the pointer, and says what is missing', () => {
    picked.takePath();
    expect(notes.message!.text).toMatch(/pick where it begins, then point/);
    picked.selection = selectVertices([0]);
    picked.hovered = selectVertices([[...cage.vertices()].find((v) => v !== 0 && cage.findHalfEdge(0, v) < 0)!]);
    picked.takePath();
    expect(picked.selection.vertices).toContain(0);
    expect(picked.selection.edges.length).toBeGreaterThan(1);
  });

  it('comes from edges only where edges are picked', () => {
    picked.fromEdges((_cage, e) => [e, e + 1]);
    expect(notes.message!.text).toBe('Pick an edge first.');
    picked.selection = selectEdges([4]);
    picked.fromEdges((_cage, e) => [e, e + 1]);
    expect(picked.selection.edges).toEqual([4, 5]);
  });

  it('is let go of by Esc before the isolation is', () => {
    picked.selection = selectFaces([2]);
    picked.isolate();
    expect(picked.isolated).toEqual([2]);
    expect([picked.escape(), picked.selection.faces.length, picked.isolated]).toEqual([true, 0, [2]]);
    expect([picked.escape(), picked.isolated, picked.escape()]).toEqual([true, undefined, false]);
  });

  it('can be kept under a name, taken up again, and tells what of it is gone', () => {
    picked.keepSet('lid');
    expect(notes.message!.text).toMatch(/pick something first/);
    picked.selection = selectFaces([1, 99]);
    picked.keepSet(' lid ');
    const [label, { sets }] = document.settle.mock.calls[0];
    expect([label, sets]).toEqual(['Keep set lid', [{ name: 'lid', part: 'p1', selection: selectFaces([1, 99]) }]]);
    document.sets = sets;
    picked.takeSet(0, false);
    expect([picked.selection, notes.message!.text]).toEqual([selectFaces([1]), 'lid: 1 of its 2 elements are not there any more.']);
  });
});
