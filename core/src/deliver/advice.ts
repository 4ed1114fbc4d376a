import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh, withoutSharpness } from '../mesh/polygon-mesh.ts';
import { type Format } from '../formats/format.ts';
import { formats } from '../formats/registry.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation, type Params } from '../operations/operation.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { operationById } from '../operations/registry.ts';
import { emptySelection } from '../select/selection.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { type Destination } from './destination.ts';
import { differenceAt } from './difference.ts';
import { receive, type Sent } from './receive.ts';

/**
 * What is done so that less is lost: an operation on the part, levels that are divided on the way, with support loops of a width in mm at what is
 * creased by choice, or another format.
 */
export type Way = { operation: string; params: Params } | { levels: number; loops?: number } | { format: string };

/** One way to have less lost, and what it comes to. */
export interface Advice {
  text: string;
  way: Way;
  /** mm that it would be off */
  difference: number;
  /** faces that would be sent */
  faces: number;
}

/** Levels that are tried to be sent, and the faces beyond which none is. */
const [MOST_LEVELS, MOST_FACES] = [4, 60_000];
/** Share of the difference by which advice has to help to be given. */
const HELPS = 0.95;
/** Width of support loops on a divided part, as a share of its mean creased edge. */
const LOOPS = 0.1;

function applied({ mesh, settings }: Sent, operation: string, params: Params): Cage | undefined {
  const cage = Cage.fromPolygons(mesh);
  return unlessRefused(() => applyOperation(operationById(operation) as CageOperation, cage, emptySelection(), params, { surface: settings }).cage);
}

/** What is sent when something is done for the journey; nothing where it cannot be done. */
export function sentBy(way: Way, sent: Sent): Sent | undefined {
  if ('format' in way) return sent;
  const settings = { scheme: 'catmull-clark' as const, borderCorners: sent.settings.borderCorners };
  if ('operation' in way) {
    const made = applied(sent, way.operation, way.params);
    return made && { mesh: made.toPolygons(), settings: sent.settings };
  }
  const divided = new Subdivision(sent.mesh, { ...sent.settings, levels: way.levels }).toPolygons(sent.mesh);
  if (way.loops === undefined) return { mesh: withoutSharpness(divided), settings };
  const made = applied({ mesh: divided, settings }, 'creases-to-loops', { choose: 'typed', width: way.loops });
  return made && { mesh: withoutSharpness(made.toPolygons()), settings };
}

/** The mean length of the creased edges of a mesh, mm. */
export function creasedEdge({ positions: p, creaseEdges = new Int32Array() }: PolygonMesh): number {
  let sum = 0;
  for (let i = 0; i < creaseEdges.length; i += 2)
    sum += Math.hypot(...[0, 1, 2].map((k) => p[3 * creaseEdges[i] + k] - p[3 * creaseEdges[i + 1] + k]));
  return (2 * sum) / (creaseEdges.length || 1);
}

/** Everything that may help, before it is known whether it does. */
function waysFor(sent: Sent, format: Format): { text: string; way: Way }[] {
  const { mesh } = sent;
  const faces = mesh.faceStart.length - 1;
  const isCreased = (mesh.creaseSharpness?.length ?? 0) > 0;
  const ways: { text: string; way: Way }[] = [];
  for (let levels = 1; levels <= MOST_LEVELS && faces * 4 ** levels <= MOST_FACES; levels++) {
    const times = levels === 1 ? 'once' : `${levels} times`;
    // with loops the deepest one is always nearer
    if (!isCreased || levels < MOST_LEVELS)
      ways.push({ text: `Send it divided ${times}${isCreased ? ': creases are in the faces then' : ''}.`, way: { levels } });
    const loops = Number(((LOOPS * creasedEdge(mesh)) / 2 ** levels).toPrecision(2));
    if (isCreased && levels > 1)
      ways.push({ text: `Send it divided ${times}, with support loops of ${loops} mm at its creases.`, way: { levels, loops } });
  }
  if (isCreased)
    ways.push({ text: 'Support loops in place of creases, at the width that comes closest.', way: { operation: 'creases-to-loops', params: {} } });
  const isQuads = [...mesh.faceStart.keys()].every((f) => f === 0 || mesh.faceStart[f] - mesh.faceStart[f - 1] === 4);
  if (!isQuads) ways.push({ text: 'Quads for the other faces: all of it divided once.', way: { operation: 'divide-once', params: {} } });
  if (!format.carries.creases || format.othersSee)
    for (const other of formats)
      if (other.carries.creases && !other.othersSee) ways.push({ text: `Send it as ${other.name}, which holds creases.`, way: { format: other.id } });
  return ways;
}

/**
 * Ways that bring what arrives nearer to what was sent, the one that helps most first; of two alike the one with fewer faces.
 * @param tell gets how far it is, 0 to 1
 * @param now mm that it is off as it is, where that is known
 */
export function adviceFor(
  sent: Sent,
  format: Format,
  to: Destination,
  tell: (fraction: number) => void = () => undefined,
  now = differenceAt(sent, receive(sent, to, format))
): Advice[] {
  const ways = now === 0 ? [] : waysFor(sent, format);
  const found = ways.flatMap(({ text, way }, i): Advice[] => {
    tell((i + 1) / (ways.length + 1));
    const own = sentBy(way, sent);
    const as = 'format' in way ? formats.find((f) => f.id === way.format)! : format;
    const difference = own && differenceAt(sent, receive(own, to, as));
    const helps = difference !== undefined && (now === undefined || difference < HELPS * now);
    return helps ? [{ text, way, difference, faces: own!.mesh.faceStart.length - 1 }] : [];
  });
  return found.sort((a, b) => (Math.abs(a.difference - b.difference) < 1e-6 ? a.faces - b.faces : a.difference - b.difference));
}
