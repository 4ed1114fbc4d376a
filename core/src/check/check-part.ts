import { CheckGround, type CheckedPart, type Finding, type FindingKind } from './findings/finding.ts';
import { farKind, symmetryKind } from './findings/fit.ts';
import { openCreaseKind, spiralKind } from './findings/lines.ts';
import { openEdgeKind } from './findings/open-edges.ts';
import { poleKind } from './findings/poles.ts';
import { poorQuadKind } from './findings/poor-quads.ts';
import { spacingKind } from './findings/spacing.ts';
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
  spiralKind,
  openCreaseKind,
  farKind,
  symmetryKind
];

/** Findings of one kind that are listed at most: of more the gravest. */
const MOST_OF_A_KIND = 2000;

/**
 * Looks a part through: what shows on its smooth surface first, the gravest at the top, then what is harmless.
 * @example checkPart({ cage, settings: { scheme: 'catmull-clark', borderCorners: 'sharp' } })[0].why
 */
export function checkPart(part: CheckedPart): Finding[] {
  if (part.cage.faceCount === 0) return [];
  const ground = new CheckGround(part);
  return findingKinds.flatMap((kind) => inOrder(kind.find(ground)).slice(0, MOST_OF_A_KIND)).sort(compare);
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
