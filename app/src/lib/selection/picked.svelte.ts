import {
  allOf,
  emptySelection,
  facesAround,
  isEmpty,
  kindOf,
  onlyPresent,
  onlyShown,
  pathBetween,
  selectEdges,
  toggled,
  united,
  without,
  type Cage,
  type Selection
} from '@ulvrin/core';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import type { Notes } from '$lib/job/notes.svelte.ts';

const countOf = ({ vertices, edges, faces }: Selection): number => vertices.length + edges.length + faces.length;

/** What is picked of the active cage: by the pointer, by ways along the mesh, and kept under names; and what alone is shown. */
export class Picked {
  selection: Selection = $state.raw(emptySelection());
  /** faces that alone are shown */
  isolated: number[] | undefined = $state.raw();
  /** what the pointer is over */
  hovered: Selection | undefined;

  constructor(
    private readonly document: OpenDocument,
    private readonly notes: Notes
  ) {}

  private get cage(): Cage | undefined {
    return this.document.active?.cage;
  }

  /** Leaves of what is picked what is there. */
  settle(): void {
    this.selection = this.cage ? onlyPresent(this.cage, this.selection) : emptySelection();
  }

  pick(picked: Selection | undefined, add: boolean): void {
    if (!picked) {
      if (!add) this.selection = emptySelection();
      return;
    }
    this.selection = add ? toggled(this.selection, picked) : picked;
  }

  /** What a drag picked: in place of the selection, added to it, or taken out of it. */
  pickMany(picked: Selection, how: 'instead' | 'add' | 'take'): void {
    if (how === 'instead') this.selection = picked;
    else if (how === 'add') this.selection = united(this.selection, picked);
    else this.selection = without(this.selection, picked);
  }

  /** Picks everything of the kind that is picked now, shown faces alone; a second time nothing. */
  pickAll(): void {
    const { cage, selection } = this;
    if (!cage) return;
    const { pick } = this.document.view;
    const everything = onlyShown(cage, allOf(cage, pick === 'nearest' ? kindOf(selection) : pick), this.isolated);
    const isAll = (['vertices', 'edges', 'faces'] as const).every((kind) => selection[kind].length === everything[kind].length);
    this.selection = isAll ? emptySelection() : everything;
  }

  /** Changes the selection by what the mesh tells; nothing where there is no cage. */
  change(take: (cage: Cage, selection: Selection) => Selection): void {
    if (this.cage) this.selection = take(this.cage, this.selection);
  }

  /** Picks edges that belong to the picked ones. */
  fromEdges(take: (cage: Cage, edge: number) => number[]): void {
    const { cage } = this;
    if (!cage) return;
    if (this.selection.edges.length === 0) return this.notes.tell('info', 'Pick an edge first.');
    this.selection = selectEdges(this.selection.edges.flatMap((e) => take(cage, e)));
  }

  /** Adds the shortest way from the last pick to what is under the pointer. */
  takePath(): void {
    const { cage } = this;
    if (!cage) return;
    if (!this.hovered || isEmpty(this.selection)) return this.notes.tell('info', 'Shortest path: pick where it begins, then point at where it ends.');
    const path = pathBetween(cage, this.selection, this.hovered);
    if (path) this.selection = united(this.selection, path);
    else this.notes.tell('error', 'Shortest path: no way leads from the last pick to the pointer; they are on different islands.');
  }

  /** Shows what is picked alone, or everything again. */
  isolate(): void {
    if (this.isolated) this.isolated = undefined;
    else if (this.cage && !isEmpty(this.selection)) this.isolated = facesAround(this.cage, this.selection);
    else this.notes.tell('info', 'Isolate: pick the faces to keep in view first.');
  }

  /** Takes the selection back, then the isolation. @returns whether there was either */
  escape(): boolean {
    if (!isEmpty(this.selection)) this.selection = emptySelection();
    else if (this.isolated) this.isolated = undefined;
    else return false;
    return true;
  }

  // ---- sets

  /** Keeps the selection under a name; a set of that name is replaced. */
  keepSet(name: string): void {
    const { active, sets } = this.document;
    if (!active || isEmpty(this.selection)) return this.notes.tell('info', 'Keep as a set: pick something first.');
    const free = name.trim() || `Set ${sets.length + 1}`;
    const set = { name: free, part: active.id, selection: structuredClone($state.snapshot(this.selection)) as Selection };
    this.document.settle(`Keep set ${free}`, { sets: [...sets.filter((s) => s.name !== free || s.part !== active.id), set] });
  }

  takeSet(index: number, add: boolean): void {
    const set = this.document.sets[index];
    const part = this.document.parts.find((p) => p.id === set.part);
    if (!part?.cage) return this.notes.tell('error', `The set "${set.name}" belongs to a part that is not there any more.`);
    this.document.view.activePart = set.part;
    const present = onlyPresent(part.cage, set.selection);
    this.pickMany(present, add ? 'add' : 'instead');
    const lost = countOf(set.selection) - countOf(present);
    if (lost > 0) this.notes.tell('info', `${set.name}: ${lost} of its ${countOf(set.selection)} elements are not there any more.`);
  }

  dropSet(index: number): void {
    const { sets } = this.document;
    this.document.settle(`Drop set ${sets[index].name}`, { sets: sets.filter((_, i) => i !== index) });
  }
}
