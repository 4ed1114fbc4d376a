import {
  bringIn,
  decodeLaid,
  decodeTold,
  deliveryReport,
  detailLevels,
  deviation,
  formats,
  encodeLayTask,
  largestMove,
  lay,
  lookAhead,
  operationById,
  perform,
  performRoutine,
  planPoles,
  possibleScheme,
  Reference,
  reporting,
  sculptDensity,
  StepStore,
  deepestLevel,
  Subdivision,
  type AutoQuadsOptions,
  type BringInOptions,
  type BroughtIn,
  type ChangedSurface,
  type DeliveryReport,
  type DensityRow,
  type DetailSettings,
  type Destination,
  type Deviation,
  type Sent,
  type Entry,
  type Performed,
  type PlainPart,
  type PlainStep,
  type Routine,
  type KeptQuads,
  type Laid,
  type LaidLine,
  type LayTask,
  type LookAhead,
  type Params,
  type PlannedPole,
  type PolygonMesh,
  type Shown,
  type SubdivisionOptions,
  type ToldLine
} from '@ulvrin/core';
import { expose, transfer } from 'comlink';
import { readySolids } from '$lib/platform/solids.ts';

type Tell = (phase: string, fraction: number, shown?: Shown) => void;

/** The arrays of a mesh, to hand them over instead of copying. */
function arraysOf(mesh: PolygonMesh): ArrayBuffer[] {
  return Object.values(mesh)
    .filter((v): v is Float64Array<ArrayBuffer> => ArrayBuffer.isView(v))
    .map((v) => v.buffer);
}

export interface Deviations {
  vertices: Deviation;
  smooth: Deviation;
}

/** Points of a smooth surface that can be measured after every change. */
const MOST_MEASURED = 100_000;

let reference: Reference | undefined;
/** What auto quads made last, for when only what comes later changes; gone when a task is stopped, as the worker is. */
const kept = new StepStore();

/** Lines of text as they come in. */
async function* linesOf(body: ReadableStream<Uint8Array<ArrayBuffer>>): AsyncGenerator<string> {
  const reader = body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    const lines = (rest + part.value).split('\n');
    rest = lines.pop()!;
    yield* lines;
  }
}

/** What runs off the page's own thread; each is a function of the core. */
const tasks = {
  bringIn(bytes: Uint8Array, fileName: string, options: BringInOptions, tell: Tell): BroughtIn {
    tell('Reading', 0);
    const result = bringIn(bytes, fileName, options, (fraction) =>
      tell(fraction < 0.6 ? 'Reading' : fraction < 0.8 ? 'Repairing' : 'Checking', fraction)
    );
    return transfer(result, arraysOf(result.mesh));
  },
  async lay(task: LayTask, tell: Tell): Promise<Laid> {
    if (task.options.oneSkin) await readySolids();
    const result = lay(task, reporting(tell), kept);
    return transfer(result, arraysOf(result.mesh));
  },
  /** The same, laid by the server; `params` are those of the operation. When this worker ends, so does the server's task. */
  async layOnServer(surface: PolygonMesh, params: Params, beside: KeptQuads | undefined, tell: Tell): Promise<Laid> {
    tell('Sending', 0);
    const answer = await fetch('/api/auto-quads', {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', accept: 'application/json' },
      body: encodeLayTask(surface, params, beside) as Uint8Array<ArrayBuffer>
    });
    if (!answer.ok || !answer.body) throw new Error(((await answer.json()) as { message: string }).message);
    for await (const line of linesOf(answer.body)) {
      const told = JSON.parse(line) as ToldLine | { error: string } | LaidLine;
      if ('error' in told) throw new Error(told.error);
      if (!('phase' in told)) return decodeLaid(told);
      tell(told.phase, told.fraction, decodeTold(told));
    }
    throw new Error('The server ended without an answer: try again, or lay the quads in the browser.');
  },
  /** Tells what is known before anything is laid, and makes ahead what poles and quads need first. */
  async lookAhead(mesh: PolygonMesh, options: AutoQuadsOptions, tell: (seen: LookAhead) => void): Promise<void> {
    if (options.oneSkin) await readySolids();
    lookAhead(mesh, options, tell, kept);
  },
  /** Where poles will be, before quads are laid. */
  async planPoles(mesh: PolygonMesh, options: AutoQuadsOptions, tell: Tell): Promise<PlannedPole[]> {
    if (options.oneSkin) await readySolids();
    return planPoles(mesh, options, { phase: tell }, kept);
  },
  /** Does an entry of the logbook on parts that came as plain data. */
  async perform(parts: PlainPart[], entry: Entry, tell?: Tell): Promise<Performed> {
    const operation = operationById(entry.operation);
    if (operation?.kind === 'parts') await readySolids();
    tell?.(operation?.name ?? 'Computing', 0.1);
    const performed = perform(parts, entry);
    tell?.('Handing over', 0.95);
    return performed;
  },
  /** Plays a routine on a part, step by step. */
  async playRoutine(parts: PlainPart[], id: string, routine: Routine, numbers: Record<string, number>, tell: Tell): Promise<PlainStep[]> {
    await readySolids().catch(() => undefined);
    return performRoutine(parts, id, routine, numbers, tell);
  },
  /** What comes of sending a part in a format to a destination, and what would bring it nearer. */
  deliver(sent: Sent, formatId: string, to: Destination, tell: Tell): DeliveryReport {
    return deliveryReport(
      sent,
      formats.find((f) => f.id === formatId)!,
      to,
      (fraction) => tell('Looking for what helps', fraction)
    );
  },
  /** How evenly vertices lie where a part is sculpted on, for each way to send it. */
  density(sent: Sent, formatId: string, to: Destination, detail: number, tell: Tell): DensityRow[] {
    return sculptDensity(
      sent,
      formats.find((f) => f.id === formatId)!,
      to,
      detail,
      (fraction) => tell('Subdividing as it is done there', fraction)
    );
  },
  /** Cages of lower detail, the part as it is first. */
  detailLevels(sent: Sent, settings: DetailSettings, tell: Tell): PolygonMesh[] {
    return detailLevels(sent, settings, (fraction) => tell('Taking out loops', fraction)).map(({ cage }) => cage.toPolygons());
  },
  /** How far a smooth surface moves where it changes. */
  largestMove(changed: ChangedSurface | undefined): number | undefined {
    return largestMove(changed);
  },
  /** Keeps a reference for `deviations`. @returns what was made of it, so that the page need not make it again */
  setReference(mesh: PolygonMesh): ReturnType<Reference['plain']> {
    reference = new Reference(mesh);
    return reference.plain();
  },
  /** Distances of a cage's vertices and of its limit surface to the kept reference. */
  deviations(cage: PolygonMesh, options: Pick<SubdivisionOptions, 'scheme' | 'borderCorners' | 'plan'>): Deviations | undefined {
    if (!reference || cage.faceVertices.length === 0) return undefined;
    const levels = deepestLevel(cage.faceVertices.length / 4, MOST_MEASURED, Math.max(3, options.plan?.steps.length ?? 0), 1);
    const scheme = possibleScheme(options.scheme ?? 'catmull-clark', cage.faceStart.length - 1, cage.faceVertices.length);
    const surface = new Subdivision(cage, { ...options, scheme, levels, limit: true });
    return { vertices: deviation(reference, cage.positions), smooth: deviation(reference, surface.evaluate(cage.positions)) };
  }
};

export type Tasks = typeof tasks;
expose(tasks);
