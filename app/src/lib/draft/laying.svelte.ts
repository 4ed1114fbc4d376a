import {
  autoQuadsOperation,
  autoQuadsOptions,
  emptySelection,
  facesOf,
  FEWEST_QUADS,
  patchOf,
  selectFaces,
  validParams,
  type Laid,
  type LookAhead,
  type Params,
  type Part,
  type PlannedPole,
  type PolygonMesh
} from '@ulvrin/core';
import { proxy } from 'comlink';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import type { Notes } from '$lib/job/notes.svelte.ts';
import { refusalOf } from '$lib/job/refusal-of.ts';
import type { Picked } from '$lib/selection/picked.svelte.ts';
import type { Background } from '$lib/tasks/background.svelte.ts';
import { deviation } from '$lib/stand/marks/deviation.ts';
import { RunningTask, workAhead } from '$lib/tasks/task-runner.svelte.ts';
import { bareArea, polygonsOf, type BareArea } from './bare-area.ts';
import type { Steering, StrokeKind } from './steering.ts';

/** Surfaces with more faces are laid by the server. */
const MOST_IN_BROWSER = 2_000_000;

/** Auto quads over what the document has: looked into ahead, steered by strokes, laid as a task, stored as an entry. */
export class Laying {
  /** strokes that steer it, while its card is open */
  steering: Steering | undefined = $state.raw();
  polePlan: PlannedPole[] | undefined = $state.raw();
  /** what dragging draws; kept while a task takes the card's place */
  strokeKind: StrokeKind = $state('none');

  constructor(
    private readonly document: OpenDocument,
    private readonly picked: Picked,
    private readonly notes: Notes,
    private readonly background: Background,
    /** opens the card of an entry once it is there @param used numbers to begin with the next time */
    private readonly opened: (entry: number, used: Params) => void
  ) {}

  /** Numbers as they are meant: quads that are laid again are wanted as many as there are. */
  completed(params: Params): Params {
    const cage = this.document.active?.cage;
    if (params.over !== 'picked' || !cage) return params;
    return { ...params, by: 'count', count: Math.max(FEWEST_QUADS, facesOf(cage, this.picked.selection).length) };
  }

  /**
   * Has it found out what is known before anything is laid with these settings, and what comes first made ahead; tells nothing where a task
   * is running or a setting cannot be taken.
   * @throws Error saying why nothing can be laid
   */
  async lookAhead(params: Params, tell: (seen: LookAhead) => void): Promise<void> {
    const source = this.document.underQuads;
    const { error, value } = autoQuadsOperation.params.validate($state.snapshot(params));
    if (!source || error) return;
    const mesh = $state.snapshot(polygonsOf(source)) as PolygonMesh;
    await workAhead((tasks) => tasks.lookAhead(mesh, autoQuadsOptions(value as Params), proxy(tell)));
  }

  /** Shows where poles would be with these settings, before quads are laid. */
  async planPoles(params: Params): Promise<void> {
    const source = this.document.underQuads;
    if (!source || this.background.task) return;
    const mesh = polygonsOf(source);
    const task = new RunningTask('Poles', async (tasks, tell) =>
      tasks.planPoles($state.snapshot(mesh) as PolygonMesh, autoQuadsOptions(validParams(autoQuadsOperation, $state.snapshot(params))), tell)
    );
    await this.background.run(task, (plan) => (this.polePlan = plan));
  }

  /** Lays quads as a task; what comes of it becomes an entry. */
  async lay(params: Params): Promise<void> {
    const { underQuads: source, active, reference } = this.document;
    if (!source || this.background.task) return;
    let valid: Params;
    try {
      valid = validParams(autoQuadsOperation, $state.snapshot(params));
    } catch (error) {
      return this.notes.tell('error', refusalOf(error).found);
    }
    const bare = valid.over === 'all' ? undefined : bareArea(valid.over as 'picked' | 'rest', active, reference, this.picked.selection);
    if (bare && 'refusal' in bare) return this.notes.tell('error', bare.refusal);
    const surface = $state.snapshot(bare?.surface ?? polygonsOf(source)) as PolygonMesh;
    const options = autoQuadsOptions(valid);
    const { vertexIds: _v, faceIds: _f, ...kept } = bare?.kept ?? { vertexIds: undefined, faceIds: undefined };
    const beside = bare && { kept: kept as PolygonMesh, middles: bare.middles };
    const task = new RunningTask<Laid>(autoQuadsOperation.name, (tasks, tell) =>
      valid.on === 'server' || surface.faceStart.length > MOST_IN_BROWSER
        ? tasks.layOnServer(surface, valid, beside, tell)
        : tasks.lay({ surface, options, beside }, tell)
    );
    await this.background.run(task, (laid) => this.addLaid(laid, valid, source, bare, task.seconds));
  }

  private addLaid(laid: Laid, params: Params, source: Part, bare: BareArea | undefined, seconds: number): void {
    const { document } = this;
    const { view, hidden, reference } = document;
    const id = bare?.part.id ?? crypto.randomUUID();
    const common = { operation: autoQuadsOperation.id, part: id, params: { ...params }, notes: laid.notes };
    // beside quads that stay, the new ones alone are stored: the cage round them goes on as it is
    const patch = bare && patchOf(laid, bare.kept, bare.gone);
    const makes = { name: document.freeName(`${source.name} quads`), kind: 'cage' as const };
    // a cage that served as the reference would hide its successor
    const settings = source.kind === 'cage' ? { hidden: [...hidden, source.id] } : undefined;
    const entry = patch
      ? document.add({ ...common, selection: selectFaces(patch.gone), cast: patch.cast, seam: patch.seam }, { activate: true })
      : document.add({ ...common, selection: emptySelection(), cast: laid.mesh, makes }, { settings, activate: true });
    view.cage = true;
    // how far they are off is seen at once
    if (reference) view.overlays[deviation.id] = true;
    this.opened(entry.id, { ...params, over: 'all' });
    this.picked.selection = document.picked;
    const quads = laid.faces?.length ?? laid.mesh.faceVertices.length / 4;
    const besides = bare?.besides ? [`Faces beside the picked ones that went with them, for an even border: ${bare.besides}.`] : [];
    this.notes.tell('info', [`${quads.toLocaleString('en')} quads laid in ${seconds.toFixed(1)} s.`, ...besides, ...laid.notes].join(' '));
  }
}
