import {
  heedHold,
  validParams,
  type Cage,
  type LiveEdit,
  type LiveOperation,
  type MeshEdit,
  type Operation,
  type Params,
  type PolygonMesh,
  type Selection
} from '@ulvrin/core';
import { refusalOf } from '$lib/job/refusal-of.ts';
import type { Preview, Running } from './preview.ts';

/** What a live edit was begun for; with anything of it changed it begins anew. */
interface Begun {
  operation: LiveOperation;
  cage: Cage;
  selection: Selection;
  settings: string;
  reference: PolygonMesh | undefined;
  edit: LiveEdit;
}

/** The live edit of the running operation, begun once and stepped with every change of its numbers. */
export class LivePreview {
  private begun: Begun | undefined;

  /** The live edit for just this. @param params valid ones */
  for(operation: LiveOperation, cage: Cage, selection: Selection, params: Params, reference?: PolygonMesh): LiveEdit {
    const { live } = operation;
    const settings = JSON.stringify(Object.entries(params).filter(([name]) => !live.numbers.includes(name)));
    const { begun } = this;
    if (
      begun &&
      begun.operation === operation &&
      begun.cage === cage &&
      begun.selection === selection &&
      begun.settings === settings &&
      begun.reference === reference
    )
      return begun.edit;
    const edit = live.begin(cage, selection, params, { reference });
    this.begun = { operation, cage, selection, settings, reference, edit };
    return edit;
  }

  /** What its numbers come to: what is held to the reference stays on it. @param params valid ones */
  stepped(operation: LiveOperation, cage: Cage, selection: Selection, params: Params, reference: PolygonMesh | undefined): Preview {
    const edit = this.for(operation, cage, selection, params, reference);
    const { moved, topologyChanged } = edit.step(params);
    // what is placed as a whole is brought back as a whole; brushes do so with every touch
    const held = operation.handle && reference ? heedHold(cage, edit.cage, reference) : [];
    return { cage: edit.cage, selection, notes: [...edit.notes], moves: !topologyChanged, moved: held.length > 0 ? [...moved, ...held] : moved };
  }

  private onMesh: { operation: Operation; mesh: PolygonMesh; settings: string; edit: MeshEdit } | undefined;

  /** What a running operation comes to on a dense mesh; nothing where it is not worked on one. */
  ofMesh({ operation, params }: Running, mesh: PolygonMesh): Preview | undefined {
    if (operation.kind !== 'cage' || !operation.onMesh || !operation.live) return undefined;
    try {
      const refusal = operation.onMesh.refusal(mesh);
      if (refusal) return { refusal, moves: true };
      const valid = validParams(operation, params);
      const { numbers } = operation.live;
      const settings = JSON.stringify(Object.entries(valid).filter(([name]) => !numbers.includes(name)));
      // begun with the first touch: a stroke of nothing costs nothing
      if (numbers.every((name) => (valid[name] as unknown[]).length === 0)) return { refusal: operation.onMesh.waits, moves: true };
      const begun = this.onMesh;
      const isSame = begun?.operation === operation && begun.mesh === mesh && begun.settings === settings;
      if (!isSame) this.onMesh = { operation, mesh, settings, edit: operation.onMesh.begin(mesh, valid) };
      const { edit } = this.onMesh!;
      const { moved } = edit.step(valid);
      return { mesh: edit.mesh, notes: [...edit.notes], moves: true, moved };
    } catch (error) {
      return { refusal: refusalOf(error), moves: true };
    }
  }

  /** Forgets what was begun: what it made may have become the document's own. */
  end(): void {
    this.begun = undefined;
    this.onMesh = undefined;
  }
}
