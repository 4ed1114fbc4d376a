import { type Cage } from '../mesh/cage.ts';
import { changedHalves, influencedVertices } from '../mesh/difference.ts';
import { facesRound } from '../mesh/topology.ts';
import { verticesOf } from '../select/selection.ts';
import { CheckGround, type CheckedPart, type Finding, type FindingKind } from './findings/finding.ts';
import { farKind, symmetryKind } from './findings/fit.ts';
import { openCreaseKind, spiralKind } from './findings/lines.ts';
import { openEdgeKind } from './findings/open-edges.ts';
import { pieceKind } from './findings/pieces.ts';
import { poleKind } from './findings/poles.ts';
import { poorQuadKind } from './findings/poor-quads.ts';
import { spacingKind } from './findings/spacing.ts';
import { teeKind } from './findings/tees.ts';
import { unbracedKind } from './findings/unbraced-edges.ts';
import { unevenFaceKind } from './findings/uneven-faces.ts';

/** Every kind of findings, one line each. */
const findingKinds: readonly FindingKind[] = [
  unevenFaceKind,
  unbracedKind,
  poleKind,
  poorQuadKind,
  spacingKind,
  openEdgeKind,
  teeKind,
  pieceKind,
  spiralKind,
  openCreaseKind,
  farKind,
  symmetryKind
];

/** Findings of one kind that are listed at most: of more the gravest. */
const MOST_OF_A_KIND = 2000;

/** What the check found on a part, and what it goes by to look again at what changes. */
export interface Checked {
  part: CheckedPart;
  ground: CheckGround;
  byKind: ReadonlyMap<FindingKind, Finding[]>;
  /** what shows first, the gravest at the top, then what is harmless */
  findings: Finding[];
  /** how many more there are, by kind: of each the gravest are listed */
  unlisted: ReadonlyMap<FindingKind, number>;
}

/** Rings of faces round a change that findings can depend on: a bulge is measured on as many. */
const REACH = 5;
/** Rings beyond these that are looked at with them, so that what lies at their rim is judged whole. */
const RIM = 2;
/** Share of the faces from which on all of a part is looked at again. */
const MUCH = 0.2;

/**
 * Looks a part through: what shows on its smooth surface first, the gravest at the top, then what is harmless.
 * @example checkPart({ cage, settings: { scheme: 'catmull-clark', borderCorners: 'sharp' } })[0].why
 */
export const checkPart = (part: CheckedPart): Finding[] => lookThrough(part).findings;

/** Looks a part through; what was looked through before is looked at again only round what has changed since. */
export function lookThrough(part: CheckedPart, before?: Checked): Checked {
  const near = before && changedSince(before.part, part);
  return near ? lookAgain(part, before, near) : done(part, new CheckGround(part), (kind, ground) => kind.find(ground));
}

function done(part: CheckedPart, ground: CheckGround, find: (kind: FindingKind, ground: CheckGround) => Finding[]): Checked {
  const isEmpty = part.cage.faceCount === 0;
  const byKind = new Map(findingKinds.map((kind) => [kind, isEmpty ? [] : find(kind, ground)]));
  const findings = [...byKind.values()].flatMap((own) => inOrder([...own]).slice(0, MOST_OF_A_KIND)).sort(compare);
  const unlisted = new Map([...byKind].flatMap(([kind, own]) => (own.length > MOST_OF_A_KIND ? [[kind, own.length - MOST_OF_A_KIND] as const] : [])));
  return { part, ground, byKind, findings, unlisted };
}

/** What has changed of a part, and may find or lose findings by it. */
interface Changed {
  /** vertices that have moved, come or gone, and faces that touch them */
  vertices: number[];
  faces: number[];
  /** vertices near it, in the cage before and now */
  near: ReadonlySet<number>;
  scope: number[];
  isReconnected: boolean;
}

/** What has changed since; nothing where that is too much, or the surface goes by other settings. */
function changedSince(before: CheckedPart, now: CheckedPart): Changed | undefined {
  const sameWays = before.reference === now.reference && JSON.stringify(before.settings) === JSON.stringify(now.settings);
  if (!sameWays || now.cage.faceCount === 0) return undefined;
  const touched = influencedVertices(before.cage, now.cage);
  if (touched.now.length > MUCH * now.cage.vertexCount) return undefined;
  const inner = facesRound(now.cage, touched.now, REACH);
  if (inner.length > MUCH * now.cage.faceCount) return undefined;
  const was = facesRound(before.cage, touched.before, REACH);
  return {
    vertices: [...new Set([...touched.before, ...touched.now])],
    faces: facesRound(now.cage, touched.now, 1),
    near: new Set([
      ...was.flatMap((f) => before.cage.faceVertices(f)),
      ...inner.flatMap((f) => now.cage.faceVertices(f)),
      ...touched.before,
      ...touched.now
    ]),
    scope: facesRound(now.cage, touched.now, REACH + RIM),
    isReconnected: changedHalves(before.cage, now.cage).length > 0
  };
}

function lookAgain(part: CheckedPart, before: Checked, { vertices, faces, near, scope, isReconnected }: Changed): Checked {
  const whole = new CheckGround(part, { ground: before.ground, changed: faces, vertices });
  const round = whole.within(scope);
  const isNear = (cage: Cage) => (f: Finding) => verticesOf(cage, f.where).some((v) => near.has(v));
  return done(part, whole, (kind) => {
    const known = before.byKind.get(kind)!;
    if (kind.goesBy === 'everything' || (kind.goesBy === 'connectivity' && isReconnected)) return kind.find(whole);
    if (kind.goesBy === 'connectivity') return known;
    return [...known.filter((f) => !isNear(before.part.cage)(f)), ...kind.find(round).filter(isNear(part.cage))];
  });
}

const inOrder = (findings: Finding[]): Finding[] => findings.sort(compare);

/** Visible ones first, then by how much they show; so that the same part gives the same list, at last by place. */
function compare(a: Finding, b: Finding): number {
  return (
    Number(b.visible) - Number(a.visible) ||
    b.rank - a.rank ||
    b.size - a.size ||
    a.place[0] - b.place[0] ||
    a.place[1] - b.place[1] ||
    a.place[2] - b.place[2]
  );
}
