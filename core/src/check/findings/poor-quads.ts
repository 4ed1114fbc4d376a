import { cornerAngles } from '../measures.ts';
import { poorFaces, scaledJacobian } from '../quad-quality.ts';
import { facesRound } from '../../mesh/topology.ts';
import { type Cage } from '../../mesh/cage.ts';
import { dot, subtract } from '../../numeric/vectors.ts';
import { selectFaces } from '../../select/selection.ts';
import { type CheckGround, type Finding, type FindingKind } from './finding.ts';

/** Share of its edge by which a quad's corner lies off the plane of the others for it to be twisted. */
const TWISTED = 0.35;
/** Rings of faces that a twisted quad is compared with, and how many times as twisted as half of them it has to be to stand out. */
const [ROUND, STANDS_OUT] = [2, 3];

/** Scaled Jacobian from which on a quad has no corner of nearly 180 degrees; degrees of fold over which a face may be turned against others. */
const [SOUND, TURNED] = [0.1, 110];

/** How far a quad's corners lie off its plane, mm. */
function twistOf(ground: CheckGround, f: number): number {
  const { cage } = ground;
  const p = cage.faceVertices(f).map((v) => cage.position(v));
  const n = ground.normalOf(f);
  return Math.abs(dot(subtract(p[0], p[1]), n)) + Math.abs(dot(subtract(p[2], p[3]), n));
}

/** Whether a quad is twisted as those round it are: the form is rough there, and it does not stand out. @param share twist of a quad in its edges */
function isAmongTwisted(cage: Cage, f: number, share: (q: number) => number): boolean {
  const round = facesRound(cage, cage.faceVertices(f), ROUND)
    .filter((q) => cage.faceSize(q) === 4)
    .map(share)
    .sort((a, b) => a - b);
  return share(f) < STANDS_OUT * round[round.length >> 1];
}

/** Quads that are folded, concave or twisted. */
export const poorQuadKind: FindingKind = {
  id: 'poor-quad',
  name: 'Folded and twisted quads',
  goesBy: 'what is near',
  find(ground) {
    const { cage } = ground;
    const { folded, flat } = poorFaces(
      cage,
      [...ground.faces()].filter((f) => scaledJacobian(cage, f) < SOUND || cage.loopOf(cage.faceEdge[f]).some((h) => ground.foldAt(h >> 1) > TURNED))
    );
    const known = new Set([...folded, ...flat]);
    // a rough form asks for the same quad from all those round it
    const shares = new Map<number, number>();
    const share = (q: number) => {
      const found = shares.get(q) ?? twistOf(ground, q) / ground.edgeOf(q);
      shares.set(q, found);
      return found;
    };
    const twisted = [...ground.faces()].filter((f) => !known.has(f) && cage.faceSize(f) === 4 && share(f) > TWISTED);
    const finding = (f: number, kind: string, why: string, weight: number, harmless = false): Finding => {
      const where = selectFaces([f]);
      const near = facesRound(cage, cage.faceVertices(f), 1);
      const bends = ground.bendRound(cage.faceVertices(f)) > 0.5;
      return {
        kind,
        place: ground.middle(where),
        where,
        size: kind === 'twisted' ? twistOf(ground, f) : Math.max(...cornerAngles(cage, f)),
        unit: kind === 'twisted' ? 'mm' : '°',
        visible: (bends || kind === 'folded') && !harmless,
        rank: weight * ground.edgeOf(f),
        why,
        fixes: [{ label: 'Even out there', operation: 'relax-area', params: {}, pick: selectFaces(near) }]
      };
    };
    return [
      ...folded.map((f) =>
        finding(
          f,
          'folded',
          scaledJacobian(cage, f) < 0
            ? 'A quad is concave or folded over: the smooth surface creases there.'
            : 'A face is turned against those beside it.',
          0.2
        )
      ),
      ...flat.map((f) => finding(f, 'straight-corner', 'A quad has a corner of nearly 180°: it looks like a triangle, and pinches like one.', 0.01)),
      ...twisted.map((f) => {
        const isMeant = ground.isOnReference(cage.faceVertices(f), ground.edgeOf(f));
        const isUsual = !isMeant && isAmongTwisted(cage, f, share);
        const why = isMeant
          ? ', and its smooth surface lies on the reference.'
          : isUsual
            ? ', as those round it are.'
            : ': its corners lie far off one plane.';
        return finding(f, 'twisted', `A quad is twisted${why}`, 0.02, isMeant || isUsual);
      })
    ];
  }
};
